#pragma once
// Each line of a step's formula at one address, with its values put in: "rise 1.38 m = swell 3.2 m × reach
// 0.43".

#include <string>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

// `parts`: how many parts the result has of the sort asked about, of which this is the number-th. Empty where
// the step has no formula, or one that runs over something else.
std::vector<std::string> formula_story(const StepKind& kind, const Inputs& inputs, std::size_t number,
                                       std::size_t parts);

// Each number of the sentence that is more than a number, with its values put in: "height = swell 3.2 m × 2 =
// 6.4 m".
std::vector<std::string> expression_story(const StepKind& kind, const Step& step, const Inputs& inputs,
                                          const Scope& scope);

}  // namespace plume
