#pragma once
// The flat rectangle that what is mapped was drawn over.

#include "core/geometry/surfaces/surface_map.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence.
inline constexpr const char* flat_rectangle_words =
    "{over}[over=origin,placed| of {width} by {depth}][over=placed| at {placement}]";
// The slots over, width, depth and placement, behind those given; what is drawn is the slot `thing`.
std::vector<SlotSpec> with_flat_rectangle(std::vector<SlotSpec> slots);
// Error: out_of_range at the slot `over`, when a thing without extent has to give its own.
Result<FlatRectangle> rectangle_of(const Inputs& in);

// How the sides of the rectangle run along u and v.
SlotSpec map_steps_slot();  // the slot `steps`
MapSteps map_steps(const Inputs& in);

}  // namespace plume
