#pragma once
// Where hand-offs of tests find other moments of a study.

#include "core/handoff/delivery_file.hpp"
#include "core/steps/catalogue.hpp"

namespace plume::test {

inline MomentSource moments_of(Study study) {
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    return {std::make_shared<const Study>(std::move(study)), std::move(plan)};
}

}  // namespace plume::test
