#pragma once
// Triangular and hexagonal lattices as grids: their rows (of a honeycomb its columns) stand half a bay, or a
// third, beside each other, so that joining them across would zigzag. Each is filled in, at every place where
// another one has a point, by the cubic spline through its own points; ends that reach less far go on as that
// spline does. What comes of it has the points there were among its own, and is smooth both ways.
//
// Along a line places are counted in bays, so that the spline is that of even spacing.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

bool is_interlaced(const PointLattice& lattice);

struct EvenedGrid {
    PointLattice grid;
    std::vector<std::size_t> own;  // of each address of the lattice its address in the grid, gaps apart
};
// Of a lattice that is interlaced. Numbers of points are filled in likewise; those with some that are not
// finite stay behind. Errors: too_few_points (a line with less than two points), has_gaps (but for the first
// or last point of a line), not_finite (names the address), cancelled.
Result<EvenedGrid> evened_grid(const PointLattice& lattice, const Run& run);

}  // namespace plume
