#pragma once
// Cells of lattices as boxes of eight corners, which what is made in a unit box is morphed into.

#include <array>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Corner c is one further along i, j, k where its bits 1, 2, 4 say so.
using EightCorners = std::array<std::size_t, 8>;
// Addresses around a cell of a block, in its closed directions round.
EightCorners eight_corners(const PointLattice& lattice, Address cell);

// A box bent to its corners, which run as in EightCorners.
struct CellBox {
    std::array<Vec3, 8> corners;

    // At shares of its three directions. Along each of them one end is met exactly, so that boxes which share
    // corners share the places between them to the last digit.
    Vec3 at(double x, double y, double z) const {
        const auto between = [](Vec3 a, Vec3 b, double share) { return a * (1 - share) + b * share; };
        const auto& c = corners;
        const Vec3 low = between(between(c[0], c[1], x), between(c[2], c[3], x), y);
        return between(low, between(between(c[4], c[5], x), between(c[6], c[7], x), y), z);
    }
};

struct CellBoxes {
    std::vector<CellBox> boxes;           // in the order of the addresses
    std::vector<EightCorners> addresses;  // of each; of a flat cell its four, twice
    std::size_t not_finite = 0;           // cells left out for a corner that is not
};

// Of a block: its cells. Errors: unlike_arrangement where it has none.
Result<CellBoxes> block_boxes(const PointLattice& lattice);
// Of a lattice whose cells have four corners: between it and another of its arrangement. Cells with a gap are
// left out. Errors: unlike_arrangement for other cells, or when the two differ; too_few_points without a
// cell.
Result<CellBoxes> boxes_between(const PointLattice& lower, const PointLattice& upper);
// The lattice moved along its normals, the mean of the cells around each point; where there is no cell a
// point stays.
PointLattice lifted(const PointLattice& lattice, double by);

}  // namespace plume
