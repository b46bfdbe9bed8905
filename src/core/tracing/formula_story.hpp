#pragma once
// Each line of a step's formula at one address, with its values put in: "rise 1.38 m = swell 3.2 m × reach
// 0.43".

#include <span>
#include <string>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

// Which part it is of how many of its sort.
struct PlaceAmong {
    std::size_t number = 0, parts = 0;
};
// At the first of the places that the formula runs over. Empty where the step has no formula, or one that
// runs over none of them.
std::vector<std::string> formula_story(const StepKind& kind, const Inputs& inputs,
                                       std::span<const PlaceAmong> places);

// Each number of the sentence that is more than a number, with its values put in: "height = swell 3.2 m × 2 =
// 6.4 m".
std::vector<std::string> expression_story(const StepKind& kind, const Step& step, const Inputs& inputs,
                                          const Scope& scope);

}  // namespace plume
