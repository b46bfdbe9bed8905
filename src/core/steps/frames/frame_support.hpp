#pragma once
// What the steps that change and measure frames share.

#include "core/geometry/parts/subset.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {

// The slot `frame`.
SlotSpec frame_slot();

// A formula over the members: reads length, rise, x, y, z of the middle, row, the ways, valence, layer and
// every other number of members, and those of nodes, as the mean of both ends.
FormulaSite site_on_members(const BarFrame& frame);

// Of work that takes so much a member and a node of the slot `frame`.
Estimate frame_estimate(const Inputs& in, double bytes_each, double seconds_each);

// The finite points of the slot `points`, for steps that join them in no arrangement; says what becomes of
// the others. Error: too_few_points, of fewer than two.
Result<FinitePoints> points_to_join(const Inputs& in, const std::string& fate_of_others, const Run& run);
// A frame of points that pairs join, whatever their arrangement.
Result<Value> frame_of_pairs(const PointLattice& points, const std::vector<std::size_t>& addresses,
                             const std::vector<std::pair<std::uint32_t, std::uint32_t>>& pairs,
                             const Run& run);

}  // namespace plume
