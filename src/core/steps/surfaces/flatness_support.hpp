#pragma once
// What the steps that measure flatness share.

#include "core/study/step_kind.hpp"

namespace plume {

SlotSpec panels_slot();
// The gap of every panel of a mesh or every curve, in order. Error: empty_input, cancelled.
Result<std::vector<double>> gaps_of(const Value& panels, const Run& run);
Estimate flatness_estimate(const Inputs& in);

}  // namespace plume
