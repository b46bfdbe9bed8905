#include "core/steps/surfaces/surface_grid.hpp"

#include <cmath>

#include "core/geometry/surfaces/even_lengths.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

std::vector<double> stations(const SplineBasis& basis, std::size_t bays) {
    std::vector<double> at;
    for (std::size_t bay = 0; bay < bays + (basis.closed ? 0 : 1); ++bay)
        at.push_back(
            std::lerp(basis.start(), basis.end(), static_cast<double>(bay) / static_cast<double>(bays)));
    return at;
}

}  // namespace

std::vector<SlotSpec> with_surface_grid(std::vector<SlotSpec> slots) {
    slots.push_back(count_slot("columns", "Bays along u", "24", 1));
    slots.push_back(count_slot("rows", "Bays along v", "16", 1));
    slots.push_back(choice_slot("spacing", "Spacing",
                                {{"parameters", "even parameters", "even shares of u and v"},
                                 {"lengths", "even lengths", "in the mean of the lines across"}}));
    return slots;
}

double grid_count(const Inputs& in) {
    return (in.number("columns") + 1) * (in.number("rows") + 1);
}

SurfaceGrid grid_on(const SplinePatch& patch, const Inputs& in) {
    const auto along = [&](int direction, std::size_t bays) {
        return in.word("spacing") == "lengths" ? even_length_parameters(patch, direction, bays)
                                               : stations(basis_along(patch, direction), bays);
    };
    return {along(0, in.count("columns")), along(1, in.count("rows"))};
}

std::vector<double> widths_around(const std::vector<double>& at, const SplineBasis& basis) {
    const std::size_t count = at.size();
    std::vector<double> widths(count);
    const double turn = basis.end() - basis.start();
    for (std::size_t here = 0; here < count; ++here) {
        const double before = here > 0 ? at[here - 1] : basis.closed ? at.back() - turn : at[here];
        const double next = here + 1 < count ? at[here + 1] : basis.closed ? at.front() + turn : at[here];
        widths[here] = (next - before) / 2;
    }
    return widths;
}

Result<PointLattice> points_on(const SplinePatch& patch, const SurfaceGrid& grid, Column x, Column y,
                               Column z) {
    PointLattice::Parts parts;
    if (patch.trimmed()) {
        const TrimSides there(patch);
        for (const double v : grid.v)
            for (const double u : grid.u)
                parts.present.push_back(there.hold(u, v) ? 1 : 0);
    }
    parts.counts = {grid.u.size(), grid.v.size(), 1};
    parts.closed = {patch.u().closed, patch.v().closed, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return PointLattice::make(std::move(parts));
}

}  // namespace plume
