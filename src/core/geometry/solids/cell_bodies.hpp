#pragma once
// The cells of block lattices as bodies.

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"
#include "core/data/solids.hpp"

namespace plume {

struct CellBodies {
    SolidSet set;             // in the order of the addresses, a mesh of six quads each
    std::size_t missing = 0;  // cells that a gap takes a corner of
};
// Between eight neighbours each; closed directions are closed. Errors: unlike_arrangement where it is no
// block lattice with cells, out_of_range naming the address of a cell that encloses no volume; cancelled.
Result<CellBodies> bodies_of_cells(const PointLattice& lattice, const Run& run);

}  // namespace plume
