#pragma once
// Places kept within an outline, at a distance from its edge.

#include "core/geometry/curves/outline.hpp"
#include "core/geometry/curves/segment_tree.hpp"

namespace plume {

class WithinOutline {
public:
    explicit WithinOutline(const Outline& outline);

    // In its plane, and no nearer to its edge than that: where it is too narrow, as far as one step goes.
    Vec3 kept(Vec3 place, double from_edge) const;
    // The nearest place of its edge.
    Vec3 on_edge(Vec3 place) const;
    bool holds(Vec3 place, double from_edge) const;

private:
    const Outline& outline_;
    SegmentTree rim_;  // in the plane
};

}  // namespace plume
