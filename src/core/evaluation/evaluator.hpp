#pragma once
// Evaluates a study from top to bottom. A step's error stays with it: what does not read its result still
// runs.

#include <functional>
#include <set>

#include "core/evaluation/budget.hpp"
#include "core/evaluation/evaluation.hpp"
#include "core/evaluation/result_store.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

struct EvaluationPlan {
    const Catalogue* catalogue = nullptr;
    ResultStore* store = nullptr;  // may be nullptr
    Budget budget;
    std::optional<Moment> moment = {};  // nothing: the first of the study's timeline
    std::shared_ptr<FileStore> files;   // of linked files; nullptr: names are read from the working folder
    // Of steps within a step: results from outside, by name, and what those hold.
    const std::map<std::string, ReadResult>* given = nullptr;
    double held_bytes = 0;
    std::map<ItemId, std::shared_ptr<const GoingOn>> going_on = {};  // see present_forms.hpp
    std::set<ItemId> later;  // steps that are left out with all that reads them: they have no outcome
    std::function<void(const Step&, std::size_t index, std::size_t count)> before_step;  // may be empty
    std::function<void(const Evaluation& so_far)> after_step;                            // may be empty
};

Evaluation evaluate(const StudyPointer& study, const EvaluationPlan& plan, const Run& run);

}  // namespace plume
