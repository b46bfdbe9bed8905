#pragma once
// The body that a flat face passes over when it is moved.

#include "core/base/run.hpp"
#include "core/data/solids.hpp"

namespace plume {

// Exact: the face, the same face moved, and a wall for each side of its trims between
// corners. The face is a parallelogram with
// trims (plane_fill.hpp). Errors: too_few_points when the way runs along the face; cancelled.
Result<Body> extruded(const SplinePatch& face, Vec3 way, const Run& run);

}  // namespace plume
