#pragma once
// Points in another order.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Addresses of the points that are present, by a number of each, smallest first; equal ones keep their order,
// numbers that are not finite come last.
std::vector<std::size_t> by_number(const PointLattice& lattice, const Column& numbers);

// From the first point always on to the nearest that was not visited yet: O(n log n) by a grid that empties.
// Error: cancelled.
Result<std::vector<std::size_t>> nearest_walk(const PointLattice& lattice, const Run& run);

// A row of these addresses, with their fields.
PointLattice row_of(const PointLattice& lattice, const std::vector<std::size_t>& order);

}  // namespace plume
