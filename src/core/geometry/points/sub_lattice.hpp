#pragma once
// Lattices out of lattices: some of their points, or points between them, in an arrangement of their own.

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Which half of a checkerboard: i + j even, or odd.
enum class BoardHalf { even, odd };

// Every second point. Its neighbours are the diagonal ones: the new i runs along (+1, +1), the new j along
// (-1, +1) of the old; addresses beyond the old edges are gaps. A closed direction is opened. Of a grid or
// polar lattice. Errors: wrong_kind; over_budget when the turned arrangement would be mostly gaps and beyond
// a thousand million addresses.
Result<PointLattice> checkerboard(const PointLattice& lattice, BoardHalf half);

// Every n-th along i and j, from the first. A closed direction stays so when n goes into it, and is opened
// otherwise. Of a triangular lattice every second row (or any even number) is a grid... of whole bays: errors
// (wrong_kind) for triangular and hexagonal lattices, which would not stay so.
Result<PointLattice> every_nth(const PointLattice& lattice, std::size_t along_i, std::size_t along_j);

// Points with fewer neighbours than the arrangement has inside; the rest. Gaps make borders.
std::vector<std::uint8_t> border_mask(const PointLattice& lattice);

// The mean of the corners of every cell: of a grid a grid, of triangles a hexagonal, of hexagons a triangular
// lattice, of a block a block. Error: too_few_points when no cell is whole.
Result<PointLattice> cell_centres(const PointLattice& lattice);

// n - 1 more points between neighbours along every direction, blended linearly; so are fields. Of rows,
// grids, polar lattices and blocks; wrong_kind otherwise.
Result<PointLattice> refined(const PointLattice& lattice, std::size_t n);

}  // namespace plume
