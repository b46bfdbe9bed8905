#pragma once
// What the steps that turn, scale, repeat and bend things share: the choice of an axis
// or a direction.

#include "core/geometry/moves/transformed.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence.
inline constexpr const char* axis_words = "{axis}[axis=placed| of {placement}]";
SlotSpec axis_slot();
SlotSpec placement_slot();
// The slots axis and placement, behind those given.
std::vector<SlotSpec> with_axis(std::vector<SlotSpec> slots);
// A placement on the axis, which is its up: through the origin, or through the placement.
Placement axis_of(const Inputs& in);

// Likewise a direction, which goes through nothing: the slots direction and placement, and the unit vector.
SlotSpec direction_slot();
inline constexpr const char* direction_words = "{direction}[direction=placed| of {placement}]";
std::vector<SlotSpec> with_direction(std::vector<SlotSpec> slots);
Vec3 way_of(const Inputs& in);
// Square to the direction, through the origin: heights above it are those along the direction.
Placement plane_across(const Inputs& in);
// How far a thing reaches along the direction, at most.
double extent_along(const Value& thing, const Inputs& in);

// The slot `thing`: anything that can be moved.
SlotSpec thing_slot();
// The slots x, y, z of a move.
std::vector<SlotSpec> with_vector(std::vector<SlotSpec> slots, std::string x, std::string y, std::string z);
Vec3 vector_of(const Inputs& in);

// Of a slot that takes curves and wants one. Error: wrong_kind, at the slot.
Result<SplineCurve> single_curve(const Inputs& in, const std::string& slot);
// The thing moved by one map.
Result<Value> moved_thing(const Inputs& in, const Affine& map);
Estimate moved_estimate(const Inputs& in);

}  // namespace plume
