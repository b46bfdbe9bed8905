#pragma once
// Some of the points of a lattice.

#include <cstdint>
#include <vector>

#include "core/data/point_lattice.hpp"

namespace plume {

// The same arrangement with gaps where `mask` (one entry per address) is 0, besides the gaps it had.
PointLattice with_gaps(const PointLattice& lattice, const std::vector<std::uint8_t>& mask);

// Without its gaps: whole rows, columns or layers that are gone are taken out and the arrangement stays, if
// no gap is left then; otherwise the points are a scatter, or a row if they were one. A closed direction that
// lost points is open.
PointLattice closed_up(const PointLattice& lattice);

// Points of `whole` that `part` does not have. They have the same arrangement.
PointLattice left_over(const PointLattice& whole, const PointLattice& part);

}  // namespace plume
