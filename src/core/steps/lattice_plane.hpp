#pragma once
// What the steps that lay points on a plane share: the choice of the plane, and making the points.

#include <functional>

#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence: "on the {plane} plane[plane=placed| of {placement}]".
inline constexpr const char* plane_words = "on the {plane} plane[plane=placed| of {placement}]";
// The slots plane and placement, behind those given.
std::vector<SlotSpec> with_plane(std::vector<SlotSpec> slots);
// The choice `origin`: the lattice's centre or its first point lies at the plane's origin.
SlotSpec origin_slot();
// Of the XZ plane, X and Z are the axes; of YZ, Y and Z. A placement's first frame.
Frame plane_of(const Inputs& in);

struct Layout {
    Arrangement arrangement = Arrangement::grid;
    std::array<std::size_t, 3> counts{1, 1, 1};
    std::array<bool, 3> closed{false, false, false};
    std::vector<std::uint8_t> present = {};
    std::function<Vec3(Address)> place;  // in the plane's own axes
};
// The points of a layout on a plane, in parallel. Errors: over_budget never (estimated before); cancelled.
Result<Value> laid_out(const Layout& layout, const Frame& plane, const Run& run);

// Points at places in the plane's own axes, as a scatter, a row or what the arrangement says.
Result<Value> laid_out(Arrangement arrangement, const std::vector<Vec3>& places, bool closed,
                       const Frame& plane);

Estimate points_estimate(double count);

}  // namespace plume
