#pragma once
// A surface spanned by the three or four curves at its rims.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// Between opposite edges straight, both ways, less what the corners alone would give (Coons, Surfaces for
// computer-aided design of space forms, MIT 1967; Farin, Curves and Surfaces for CAGD, ch. 22.2): exact, its
// rims are the edges. They are put in order and turned round by their ends; u runs along the first. Of three
// the third corner is a tip. Edges with weights are taken as cubics true to a ten millionth of the size.
// Errors: too_few_points (another number of edges), has_gaps (a closed edge; ends that do not meet to a
// millionth of the size, with the place), unlike_arrangement where an edge has no length; cancelled.
Result<SplinePatch> spanned_by_edges(const std::vector<SplineCurve>& edges, const Run& run);

}  // namespace plume
