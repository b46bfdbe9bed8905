#pragma once
// A curve beside a curve, at a distance from it in the view along a direction: open or closed, flat or not.
//
// Straight pieces and arcs in that view stay exact; the rest is interpolated until it is true to 1e-7 of its
// size (mapped_curve.hpp). Where it turns away the pieces are joined by arcs or by a corner of at most four
// distances; where it turns towards the side they are cut at their crossing. Pieces that are not neighbours
// may cross: that is not looked for.

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/geometry/curves/mapped_curve.hpp"

namespace plume {

struct CurveOffset {
    Vec3 up{0, 0, 1};     // unit: from whose tip it is seen
    double distance = 1;  // to the left, or to the right when negative; square to up
    bool round_corners = false;
};

struct OffsetResult {
    SplineCurve curve;
    double deviation = 0;  // measured between the knots of what was interpolated
};
// Whether it is a line in the view, from its start to its end.
bool runs_straight(const SplineCurve& curve, Vec3 up);

// Errors: out_of_range where a bend is tighter than the distance, naming the place and the largest distance
// that holds, or where a side beside a corner is too short; unlike_arrangement where the curve runs along up,
// or stands still; cancelled.
Result<OffsetResult> offset_curve(const SplineCurve& curve, const CurveOffset& offset, const Run& run);

// The curve and one beside it over one basis, with equal weights, so that what is ruled between leans as much
// everywhere (mapped_curve.hpp): each corner goes to where the two lines beside it meet. Errors as above;
// unlike_arrangement where what ends in a corner bends, or a corner would be longer than four distances.
Result<CurveImage> curve_and_offset(const SplineCurve& curve, const CurveOffset& offset, const Run& run);

}  // namespace plume
