#pragma once
// Loops that bound what is left of a trimmed patch when it is cut once more.
//
// The trims and the curves of the cut are split where they meet; of each piece it is asked whether what lies
// beside it is kept, and those that bound something kept are put end to end again.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

enum class TrimSide { inside, outside };

// Curves over the parameters of a patch.
using TrimCurves = std::vector<SplineCurve>;

// Of a patch with trims. `cuts` are closed, or end on trims or where another of them begins; `in_cut` says
// whether the place at parameters lies inside of the cut. Loops of cuts that lie in the patch are all kept.
// Errors: unlike_arrangement where a cut runs along a trim or touches it; cancelled.
Result<TrimCurves> bounding_loops(const SplinePatch& patch, const TrimCurves& cuts,
                                  const std::function<bool(double u, double v)>& in_cut, TrimSide keep,
                                  const Run& run);

}  // namespace plume
