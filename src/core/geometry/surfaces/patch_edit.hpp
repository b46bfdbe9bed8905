#pragma once
// Patches over other bases, parts of them, turned round; curves on them. Exact, whatever degree and weights.
// Directions are numbered: 0 is u, 1 is v. Trims stay where they are on the surface.

#include <array>

#include "core/data/curve_set.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/curves/spline_change.hpp"

namespace plume {

const SplineBasis& basis_along(const SplinePatch& patch, int direction);

// The same surface over another basis in one direction; fields go along.
SplinePatch changed(const SplinePatch& patch, int direction, const SplineChange& change);
// An open direction whose ends meet, closed with a corner at its seam.
SplinePatch closed_up(const SplinePatch& patch, int direction);
// Between two parameters of a direction, as part_of() of curves says. Trims do not go along: the caller sees
// to it that there are none.
SplinePatch part_of(const SplinePatch& patch, int direction, double from, double to);
// Run through the other way, which turns its normal over.
SplinePatch reversed(const SplinePatch& patch, int direction);
// u as v and v as u, which turns its normal over.
SplinePatch swapped(const SplinePatch& patch);

// The curve on the surface where v (direction 0) or u (direction 1) is the parameter; it runs along the
// direction, with its basis and the patch's fields.
SplineCurve iso_curve(const SplinePatch& patch, int direction, double parameter);

// Around all poles: no surface reaches further.
Box poles_box(const SplinePatch& patch);

// Where a patch is a parallelogram its parameters are coordinates in it: a curve over them as one in space.
bool is_parallelogram(const SplinePatch& patch);
SplineCurve trim_in_space(const SplinePatch& parallelogram, const SplineCurve& trim);

}  // namespace plume
