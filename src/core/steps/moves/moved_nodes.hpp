#pragma once
// Steps that move points move the nodes of frames, too.

#include "core/study/step_kind.hpp"

namespace plume {

// The slot `points` of steps that move them: points, those that carry numbers, frames by their nodes.
SlotSpec moved_slot();
// What those steps result in.
std::vector<Kind> moved_kinds();

// Points that were moved, in the form of what they came from: the frame with its nodes there. Errors: as of
// BarFrame::with_nodes(), at the slot.
Result<Value> in_form_of(const Value& from, PointLattice moved);

}  // namespace plume
