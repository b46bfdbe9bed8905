#pragma once
// Closed curves cast onto patches along a direction: where the lines through them meet a patch, as curves
// over its parameters.
//
// Followed along the curve by Newton's steps from one place to the next; between its knots cubic pieces
// through as many places as make them true to a ten millionth of the patch's size. Where the patch is spaced
// evenly in the shadow it throws along the direction (a plane, a surface over a plan), they are the curve
// itself.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// One curve for each time that the lines through the outline meet the patch; none where they miss it. In a
// closed direction a curve may reach beyond the domain, up to a period. Errors: has_gaps (an open outline),
// out_of_range where it runs beyond a rim of the patch, over a fold of it or round it; cancelled.
Result<std::vector<SplineCurve>> cast_onto(const SplinePatch& patch, const SplineCurve& outline,
                                           Vec3 direction, const Run& run);

}  // namespace plume
