#pragma once
// Surfaces spanned over curves, drawn out of them, turned about an axis. All exact.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct Loft {
    std::vector<SplineCurve> sections;
    bool smooth = true;   // cubic across the sections; straight from one to the next otherwise
    bool closed = false;  // the last section is joined to the first
};
// Through every section (The NURBS Book, ch. 10.3): u runs along them, v from one to the next at the mean
// distance of their poles. The sections are made compatible (compatible_curves.hpp). A section whose poles
// are all at one place is a tip. Fields that all have go along. Errors: too_few_points (fewer than two
// sections, three where closed), unlike_arrangement (open and closed ones; neighbours that coincide; weights
// too far apart), cancelled.
Result<SplinePatch> lofted(const Loft& loft, const Run& run);

// A curve of poles like these, all at one place.
SplineCurve tip_like(const SplineCurve& curve, Vec3 place);

// u along the curve, v along the way. Error: too_few_points when the way has no length.
Result<SplinePatch> extruded(const SplineCurve& curve, Vec3 way);

// About the placement's up through its origin, anticlockwise from where the curve stands; once round it is
// closed in v. u along the curve. Error: out_of_range (a sweep of 0).
Result<SplinePatch> revolved(const SplineCurve& curve, const Placement& axis, double sweep_rad);

}  // namespace plume
