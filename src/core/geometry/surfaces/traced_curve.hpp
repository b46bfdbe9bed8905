#pragma once
// Closed curves that lie on patches, as curves over their parameters.

#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/surface_search.hpp"

namespace plume {

// An outline that lies on the patch that is searched, as one that was pulled or laid onto it does: a closed
// curve through the nearest places (mapped_curve.hpp). None where all of it is far away. Errors: has_gaps (an
// open outline), out_of_range where a part of it is away from the patch, unlike_arrangement where it runs
// once round it and has no inside; cancelled.
Result<Cast> traced_on(const SurfaceSearch& search, const SplineCurve& outline, const Run& run);

}  // namespace plume
