#pragma once
// Places told by a curve: so far along it, so far across, so far up. Whoever moves the curve carries them
// along.

#include <string_view>

#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"
#include "core/geometry/curves/curve_division.hpp"

namespace plume {

// Which way a place is lifted: straight up; square to the curve, in the upright plane through it; along X;
// along Y.
enum class LiftAxis { up, square, x, y };
// By "up", "square", "x" or "y".
LiftAxis lift_axis_from(std::string_view key);

class BaseLine {
public:
    BaseLine(const SplineCurve& curve, LiftAxis lift);

    // At a share of the length: up the lift, along as near to the curve's direction as that lets it.
    Placement frame(double share) const;
    // x: the share; y: across, to the left of the curve; z: up.
    Vec3 place(Vec3 told) const;
    // The other way, by Newton's steps from the nearest share; a share from 0 to 1.
    Vec3 told(Vec3 place) const;

private:
    SplineCurve curve_;  // shares its poles
    CurveLength length_;
    LiftAxis lift_;
};

}  // namespace plume
