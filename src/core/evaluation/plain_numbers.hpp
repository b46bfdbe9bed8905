#pragma once
// Plain numbers that count units: whether a study's other units would make something else of a step.

#include "core/study/step_kind.hpp"

namespace plume {

// Whether the step means something else when plain numbers in its formula, text or table count other units.
bool leans_on_plain_numbers(const StepKind& kind, const Inputs& inputs);

}  // namespace plume
