#pragma once
// Points where a lattice has gaps, between those that are there.

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Every gap gets a point and numbers that are the mean of its neighbours', new ones among them: the discrete
// Laplace equation, which keeps whatever is straight. Solved by conjugate gradients (Hestenes & Stiefel,
// Methods of conjugate gradients for solving linear systems, 1952) on an incomplete Cholesky factor (Eigen)
// until 1e-12 of the right side is left. At least one point is there. Errors: wrong_kind (a scatter has no
// neighbours); not_finite (naming a neighbour); not_converged (numbers beyond 1e150 or so); cancelled.
Result<PointLattice> filled(const PointLattice& lattice, const Run& run);

}  // namespace plume
