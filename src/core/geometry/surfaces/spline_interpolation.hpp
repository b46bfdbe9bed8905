#pragma once
// A smooth surface through a grid of points.
//
// Global tensor-product interpolation (Piegl & Tiller, The NURBS Book, 2nd ed. 1997, section 9.2.5, A9.4)
// with chord-length parameters averaged over all rows. Ours differs: both directions are solved banded for
// all rows and all fields at once, closed directions are periodic instead of clamped with a seam, and fields
// are interpolated over the same knots, so a field can be read anywhere on the surface. O(n) in the points.

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

// Triangular and hexagonal lattices are made grids first (interlaced_grid.hpp), so that the surface is as
// smooth as that of a grid and a little larger than their zigzag rims.
// Degree 3 each way, less where a direction has fewer than four points. Errors: too_few_points, has_gaps,
// not_finite (names the first address), broken_invariant when neighbouring rows coincide, cancelled.
Result<SplinePatch> interpolate_grid(const PointLattice& lattice, const Run& run);

}  // namespace plume
