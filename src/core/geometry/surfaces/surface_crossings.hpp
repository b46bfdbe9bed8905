#pragma once
// Where curves pass through a surface.
//
// Both are halved into small bays whose poles' boxes hold them; where two boxes meet, Newton's steps in the
// curve's parameter and the surface's two lead to the crossing (The NURBS Book has no such algorithm;
// Patrikalakis & Maekawa, Shape Interrogation for Computer Aided Design and Manufacturing, 2002, ch. 5.5,
// describe the choice). No crossing is missed as long as each pair of small bays has one.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// Parameters on the curve, in order, each once, of crossings true to 1e-12 of the size; of a trimmed patch
// only where it is there. Places where the curve touches the patch count. Errors: unlike_arrangement where
// it runs along the patch, cancelled.
Result<std::vector<double>> crossings_with_surface(const SplineCurve& curve, const SurfaceSet& surface,
                                                   const Run& run);

}  // namespace plume
