#pragma once
// The body between a surface and a plane below it, or above: a relief with its ground.

#include "core/base/run.hpp"
#include "core/data/placements.hpp"
#include "core/data/solids.hpp"

namespace plume {

// Exact: the patch, its shadow on the plane over the same knots, and walls between their rims or trims. The
// plane lies square to the up axis of the placement. Errors: out_of_range when the surface reaches through
// the plane; unlike_arrangement when it overhangs, seen along the axis; those of body_between().
Result<Body> filled_down(const SplinePatch& patch, const Placement& plane, const Run& run);
// Of a mesh: its faces, their shadows, and upright quads along its open edges.
Result<Body> filled_down(const Mesh& mesh, const Placement& plane, const Run& run);

}  // namespace plume
