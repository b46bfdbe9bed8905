#pragma once
// Who is whose neighbour in a lattice, and which points stand around a cell, by arrangement.
//
//   row, grid, polar   along i and along j; cells have four corners
//   triangular         along i, and from every row to the next both ways: odd rows stand half a bay further
//                      along i; cells are triangles
//   hexagonal          along i, and to the next row where i + j is even; cells are hexagons
//   block              along i, j and k; cells are the faces between them
//   scatter            none
//
// Closed directions are closed. Gaps have no neighbours and no cells.

#include <cstdint>
#include <functional>
#include <vector>

#include "core/data/point_lattice.hpp"

namespace plume {

// Calls `link` once per pair of neighbours, flat indices, in the order of the addresses.
void for_each_link(const PointLattice& lattice,
                   const std::function<void(std::size_t from, std::size_t to)>& link);

// Cell c has the corners corners[first[c]] .. corners[first[c + 1] - 1], anticlockwise over i and j.
struct LatticeCells {
    std::vector<std::size_t> first{0};
    std::vector<std::size_t> corners;
    std::size_t count() const { return first.size() - 1; }
};
// Only cells whose corners are all there.
LatticeCells cells_of(const PointLattice& lattice);

}  // namespace plume
