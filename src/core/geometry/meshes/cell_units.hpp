#pragma once
// A mesh made in a unit box, in every one of many cells, morphed to their corners.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/points/cell_boxes.hpp"

namespace plume {

struct CellUnit {
    Mesh mesh;
    Box box;  // that fills a cell
};
// What comes into a cell.
struct CellFill {
    std::size_t unit = 0;
    double scale = 1;  // about the middle of the cell; 0: nothing
};

// One mesh, a part for each cell that is filled, in their order; numbers of the units' vertices come along.
// A box without extent in a direction lies in the middle of it, across its height at the bottom. Error:
// cancelled. O(corners).
Result<Mesh> units_in_cells(const std::vector<CellUnit>& units, const CellBoxes& cells,
                            const std::vector<CellFill>& fills, const Run& run);

// A place of a unit's box in a cell.
Vec3 place_in_cell(const CellBox& cell, const Box& box, double scale, Vec3 place);

}  // namespace plume
