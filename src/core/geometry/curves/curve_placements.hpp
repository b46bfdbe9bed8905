#pragma once
// Coordinate placements along a curve, at even lengths; their up is the curve's direction.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"

namespace plume {

// least: carried along with as little turning as possible (tube.hpp); upright: `along` is level, where the
// curve is not vertical.
enum class PlacementTurning { least, upright };

// `count` placements, the first at the start; the last at the end of an open curve, one bay before the seam
// of a closed one. A single one stands at the start. Error: cancelled.
Result<std::vector<Placement>> placements_along(const SplineCurve& curve, std::size_t count,
                                                PlacementTurning turning, const Run& run);

}  // namespace plume
