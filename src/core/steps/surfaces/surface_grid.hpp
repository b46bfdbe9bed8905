#pragma once
// Rows and columns of places on a patch, as the steps lay them that place points on it or measure it there.

#include "core/data/point_lattice.hpp"
#include "core/data/surface_set.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Stands in the sentence.
inline constexpr const char* surface_grid_words = "in {columns} by {rows} bays of {spacing}";
// The slots columns, rows and spacing, behind those given.
std::vector<SlotSpec> with_surface_grid(std::vector<SlotSpec> slots);
double grid_count(const Inputs& in);  // for estimates

// Parameters; a closed direction ends before its seam.
struct SurfaceGrid {
    std::vector<double> u, v;
};
SurfaceGrid grid_on(const SplinePatch& patch, const Inputs& in);
// How much of a direction is nearest to each of its parameters, which increase.
std::vector<double> widths_around(const std::vector<double>& at, const SplineBasis& basis);
// Addresses that trims leave out are gaps.
Result<PointLattice> points_on(const SplinePatch& patch, const SurfaceGrid& grid, Column x, Column y,
                               Column z);

}  // namespace plume
