#pragma once
// Where a spline function over two parameters takes given values, cell by cell.
//
// Each bay is written in Bernstein form, whose coefficients bound the function and its slopes (Farouki, The
// Bernstein polynomial basis: a centennial retrospective, CAGD 29(6), 2012, doi 10.1016/j.cagd.2012.03.001),
// and quartered until the level passes it nowhere, or one slope keeps its sign and no edge is crossed twice:
// then arcs go from edge to edge of the cell, and neither a loop nor a further arc can hide in it. What bends
// back within a 256th of a bay is taken as if it were straight: no loop is missed that is larger than that.
// Marching squares, which look at corners alone, know of no such bound. O(cells passed x degree^3).

#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/surface_set.hpp"

namespace plume {

struct LevelPlace {
    double u = 0, v = 0;
};
struct LevelArc {
    LevelPlace from, to;
};
struct LevelArcs {
    std::vector<std::vector<LevelArc>> of;  // one list a level
    std::size_t level_bays = 0;             // bays that lie in a level, within rounding
};

// Of the function that x of a patch is. Arcs of neighbouring cells end at one place, to 1e-11 of the domain.
// Levels increase. Error: cancelled.
Result<LevelArcs> level_arcs(const SplinePatch& function, std::span<const double> levels, const Run& run);

}  // namespace plume
