#pragma once
// Lines on which a function over a patch is constant: contours, sections, iso-lines of a number.
//
// The arcs of level_arcs.hpp are put end to end; their ends are places of the surface at the level to
// rounding. Cubic splines run through them, and wherever one stands off halfway between two places, the place
// of the surface at the level beside it is put in. Where the patch has a crease the line keeps its corner.

#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct LevelLine {
    SplineCurve curve;      // closed where the line is
    std::size_t level = 0;  // its number
};
struct LevelLines {
    std::vector<LevelLine> lines;  // by level
    double deviation = 0;          // the largest that was measured, along the surface
    std::size_t level_bays = 0;    // bays of the patch that lie in a level as a whole
};

// Where x of `function`, a patch over the same knots, takes one of the levels, which increase; true to the
// tolerance. Of a trimmed patch only what is there. Seen against the normal the higher side is at the left.
// Error: cancelled.
Result<LevelLines> level_lines(const SplinePatch& patch, const SplinePatch& function,
                               std::span<const double> levels, double tolerance_abs, const Run& run);

// As x of a patch over the same knots: numbers, one a pole; the height above a plane.
SplinePatch as_function(const SplinePatch& patch, Column numbers);
SplinePatch heights_above(const SplinePatch& patch, const Placement& plane);

}  // namespace plume
