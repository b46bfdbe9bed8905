#pragma once
// What the steps that lay points on a plane share: the choice of the plane, and making the points.

#include <functional>

#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence: the plane, and of upright and placed ones the side.
inline constexpr const char* plane_words =
    "on the {plane} plane[plane=placed| of {placement}][plane=xz,yz,placed|, seen from the {facing}]";
// The side of every plane, for lattices whose normals look away from the front: i runs round, j outwards.
inline constexpr const char* round_plane_words =
    "on the {plane} plane[plane=placed| of {placement}], seen from the {facing}";
// The slots plane and placement, behind those given; and the slot facing behind them.
std::vector<SlotSpec> with_plane(std::vector<SlotSpec> slots);
std::vector<SlotSpec> with_facing_plane(std::vector<SlotSpec> slots);
// The choice `origin`: the lattice's centre or its first point lies at the plane's origin.
SlotSpec origin_slot();
// Of the XZ plane, X and Z are the axes; of YZ, Y and Z. A placement's first placement.
Placement plane_of(const Inputs& in);

struct Layout {
    Arrangement arrangement = Arrangement::grid;
    std::array<std::size_t, 3> counts{1, 1, 1};
    std::array<bool, 3> closed{false, false, false};
    std::vector<std::uint8_t> present = {};
    std::function<Vec3(Address)> place;  // in the plane's own axes
};
// The points of a layout on a plane, in parallel. Errors: over_budget never (estimated before); cancelled.
Result<Value> laid_out(const Layout& layout, const Placement& plane, const Run& run);

// Points at places in the plane's own axes, as a scatter, a row or what the arrangement says.
Result<Value> laid_out(Arrangement arrangement, const std::vector<Vec3>& places, bool closed,
                       const Placement& plane);

Estimate points_estimate(double count);

}  // namespace plume
