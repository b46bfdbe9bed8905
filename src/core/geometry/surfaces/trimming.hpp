#pragma once
// Patches cut along closed curves over their parameters; trims as curves in space.

#include <span>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/trim_loops.hpp"

namespace plume {

// What lies inside or outside of outlines (of an odd number of them), a patch for each piece: it may be
// trimmed already, and outlines may cross its rims and earlier trims. A closed direction is opened, where no
// outline passes if there is such a place. Errors: unlike_arrangement when outlines cross each other or
// themselves, or run along a rim or a trim; empty_input when nothing is left; cancelled.
Result<std::vector<SplinePatch>> trimmed(const SplinePatch& patch, const std::vector<Cast>& casts,
                                         TrimSide keep, const Run& run);

SplinePatch with_trims(const SplinePatch& patch, std::vector<SplineCurve> trims);
// Whether a trim is the rim of the whole patch.
bool is_whole_rim(const SplinePatch& patch, const SplineCurve& trim);

// Where a trim passes the knots of a patch, and how smooth the patch is there: derivatives that do not jump.
struct KnotCrossing {
    double parameter = 0;
    int smooth = 0;
};
std::vector<KnotCrossing> knot_crossings(const SplinePatch& patch, const SplineCurve& trim);

// A trim and the curves in space it stands for on several patches of one range of parameters, all over one
// basis (mapped_curve.hpp), with the knots of the patches among its own.
struct LiftedTrim {
    SplineCurve trim;
    std::vector<SplineCurve> on;  // one a patch
    double deviation = 0;
};
Result<LiftedTrim> lifted(std::span<const SplinePatch> patches, const SplineCurve& trim, double tolerance_abs,
                          const Run& run);

}  // namespace plume
