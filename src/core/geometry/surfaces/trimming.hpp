#pragma once
// Patches cut along closed curves over their parameters; trims as curves in space.

#include <span>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

enum class TrimSide { inside, outside };

// What lies inside or outside of the loops (of an odd number of them), a patch for each piece: it may be
// trimmed already. A closed direction is opened where no loop crosses. Errors: unlike_arrangement when loops
// cross each other, themselves or a rim, or leave no place to open a closed direction; empty_input when
// nothing is left; cancelled.
Result<std::vector<SplinePatch>> trimmed(const SplinePatch& patch, const std::vector<SplineCurve>& loops,
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
