#pragma once
// Two layers of members, and webs between them.

#include <functional>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Posts between a point and the one below it, diagonals along every member of the upper layer, or both. Where
// the lower layer stands below the middles of cells, webs run from there to the cell's corners.
enum class Webs { posts, diagonals, both };

struct LayeredPattern {
    bool below_cells = false;
    Webs webs = Webs::both;
    // How far the lower layer lies below the upper at a point, by its flat index: where it goes from there.
    std::function<Vec3(std::size_t index)> down;
};

// The upper layer is the lattice, its members run between neighbours. Nodes of layers one above the other are
// addressed i, j, k with k 0 above and 1 below; those below cells are marked by the first and third corners
// of their cell, "3,2/4,3", and joined where cells share a side. Members carry `layer`: 0 above, 1 below, 0.5
// between. Errors: wrong_kind of scatters, rows and blocks; as of assembled_frame(); cancelled.
Result<BarFrame> layered_frame(const PointLattice& lattice, const LayeredPattern& pattern, const Run& run);

}  // namespace plume
