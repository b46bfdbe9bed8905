#pragma once
// Corners of curves: where the direction jumps.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

struct CurveCorner {
    double parameter = 0;
    Vec3 place;
    Vec3 before, behind;  // unit directions in which the curve arrives and leaves
    double turn_rad = 0;  // between the two, 0 to pi
};

// Where it turns by more than an angle, in order along the curve; its seam, where it is closed, first.
std::vector<CurveCorner> corners_of(const SplineCurve& curve, double least_turn_rad);

// The pieces between corners, open; that behind the seam first, or behind the first corner of a closed curve.
// The curve itself where there are none.
std::vector<SplineCurve> cut_at_corners(const SplineCurve& curve, const std::vector<CurveCorner>& corners);

struct RoundedCurve {
    SplineCurve curve;
    std::size_t rounded = 0, left = 0;  // corners; those left had no room for the arc
};
// Corners sharper than an angle replaced by arcs of a radius that touch both sides. Exact where the sides are
// straight beside the corner and, to 1e-10 of the size, where they bend in one plane; left where a side is
// too short, where two arcs would meet, or where the sides do not lie in one plane.
RoundedCurve with_round_corners(const SplineCurve& curve, double radius, double least_turn_rad);

}  // namespace plume
