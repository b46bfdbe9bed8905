#pragma once
// Bodies between a surface and another one at a distance from it; between a mesh and the same mesh moved.

#include <optional>

#include "core/data/solids.hpp"
#include "core/geometry/surfaces/offset_surface.hpp"

namespace plume {

// Distances along the normal (front) and against it (back), at least 0; nothing: the surface itself.
struct Thickness {
    std::optional<OffsetBy> front, back;
};
struct Thickened {
    Body body;
    double deviation = 0;  // of the offset faces, the largest that was measured
};
// A face at each side and ruled faces between their rims or trims; none along a seam that closes, nor at a
// tip. Walls along trims are true to a ten millionth of the size. Errors: those of offsets_of() and
// exact_body().
Result<Thickened> thickened(const SplinePatch& patch, const Thickness& thickness, double tolerance_abs,
                            const Run& run);

// Between two patches over the same knots, with the same trims: both, and ruled faces between their rims or
// trims. Errors: those of exact_body().
Result<Body> body_between(SplinePatch front, SplinePatch back, const Run& run);

// Vertices moved to where the planes of the faces around them, moved by the distance, meet; the rim is closed
// by quads. Distances are one a vertex. Errors: has_gaps when faces run along an edge the same way;
// too_few_points when there is no volume; cancelled.
Result<Body> thickened(const Mesh& mesh, const Doubles& front, const Doubles& back, const Run& run);

}  // namespace plume
