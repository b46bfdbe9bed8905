#pragma once
// Points where a lattice has gaps, between those that are there.

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Every gap gets a point and numbers that are the mean of its neighbours', new ones among them: the discrete
// Laplace equation, which keeps whatever is straight. Solved by a whole Cholesky factor (Eigen) where
// has_whole_factor(), O(n log n) for n gaps; else by conjugate gradients (Hestenes & Stiefel, Methods of
// conjugate gradients for solving linear systems, 1952) on an incomplete one until 1e-12 of the right side is
// left, O(n^1.5) of a grid and O(n^(4/3)) of a block. At least one point is there. Errors: wrong_kind (a
// scatter has no neighbours); not_finite (naming a neighbour); not_converged (numbers beyond 1e150 or so);
// cancelled. Of rows and grids without too many gaps.
bool has_whole_factor(const PointLattice& lattice);
Result<PointLattice> filled(const PointLattice& lattice, const Run& run);

}  // namespace plume
