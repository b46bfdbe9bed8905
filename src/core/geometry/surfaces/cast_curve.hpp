#pragma once
// Closed curves cast onto patches along a direction: where the lines through them meet a patch, as curves
// over its parameters.
//
// Followed along the curve by Newton's steps from one place to the next; between its knots cubic pieces
// through as many places as make them true to a ten millionth of the patch's size. Where the patch is spaced
// evenly in the shadow it throws along the direction (a plane, a surface over a plan), they are the curve
// itself.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/shadow.hpp"

namespace plume {

// What an outline casts on a patch.
struct Cast {
    // Over the parameters, for each time that the lines through the outline meet the patch: closed ones, and
    // where the outline runs beyond a rim, what lies on the patch, from rim to rim; where it runs once round
    // a closed patch, from a place to the same place. In a closed direction a curve may reach beyond the
    // domain, up to a period. None where the outline misses the patch, or lies all around it.
    std::vector<SplineCurve> curves;
    // Whether the place of the patch at parameters u and v, whole turns aside, is inside of the outline.
    std::function<bool(double u, double v)> holds;
};
// Errors: has_gaps (an open outline), out_of_range where it runs over a fold of the patch, unlike_arrangement
// where it runs along a rim; cancelled.
Result<Cast> cast_onto(const ShadowPointer& shadow, const SplineCurve& outline, const Run& run);
Error open_outline();

}  // namespace plume
