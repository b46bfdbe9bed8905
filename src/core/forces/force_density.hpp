#pragma once
// The form in which a net is in balance, where each link pulls with a given force per length.

#include "core/forces/net.hpp"

namespace plume {

// Solves D x = p - D_f x_f for each coordinate, where D is the matrix of force densities between free places
// (H.-J. Schek: The force density method for form finding and computation of general networks, 1974): linear,
// and exact but for rounding. Links may push where their density is below 0, as long as there is a form in
// balance at all.
// Errors: those of check_net(); not_finite (a density); not_converged (pushes and pulls cancel:
// the residual stays above 1e-9); cancelled. O(n^1.5) for nets over an area.
Result<Balance> balanced_by_densities(const Net& net, const std::vector<double>& densities_kn_per_m,
                                      const Run& run);

}  // namespace plume
