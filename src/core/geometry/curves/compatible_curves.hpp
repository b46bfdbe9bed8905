#pragma once
// Curves brought over one basis, each exactly what it was: raised to the highest degree, over the domain from
// 0 to 1, with every knot that any of them has (The NURBS Book, ch. 10.3).

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

// Turned round, and closed ones with their seams moved, so that each runs beside the one before: what makes
// the sum of the squared distances of even places smallest. Those that do already stay what they are, to the
// last digit. `turn` moves every further seam on by a share of the length.
std::vector<SplineCurve> aligned(std::vector<SplineCurve> curves, double turn);

// As many poles over equal knots; rational if one of them is. Fields that all have go along. Errors:
// unlike_arrangement when some are closed and some open, cancelled.
Result<std::vector<SplineCurve>> compatible(const std::vector<SplineCurve>& curves, const Run& run);
// About how many poles each would have: curves through points of their own have knots of their own, and each
// gets those of all. O(knots log knots).
double compatible_pole_count(const std::vector<SplineCurve>& curves);

}  // namespace plume
