#pragma once
// An outline while it is drawn in plan: corners put down one by one, snapped to a grid, or as far from the
// last one as a typed length says.

#include <optional>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

class Sketch {
public:
    // What a click at `cursor` would put down. With a length: that far from the last corner towards the
    // cursor. The cursor snaps to the nearest crossing of a grid of `snap` (0: no grid), for its direction,
    // too.
    Vec3 place_for(Vec3 cursor, double snap, std::optional<double> length) const;
    // A place within `reach` of the first corner, once there are three, would close the outline.
    bool would_close(Vec3 place, double reach) const;

    // A corner on top of the last one is left out.
    void add(Vec3 place);
    void take_back();
    const std::vector<Vec3>& corners() const { return corners_; }

private:
    std::vector<Vec3> corners_;
};

// A grid a tenth as wide as that of the ground, which is on 1, 2 or 5.
double sketch_snap(double grid_step);

}  // namespace plume
