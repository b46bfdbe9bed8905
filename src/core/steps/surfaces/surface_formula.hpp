#pragma once
// Distances by a formula over a surface: what steps that offset and thicken share.

#include "core/geometry/surfaces/offset_surface.hpp"
#include "core/steps/formula_support.hpp"

namespace plume {

// What a formula reads at places: x, y, z and numbers with what they are.
FormulaSite site_at_places(const std::vector<Vec3>& places,
                           const std::vector<std::pair<Field, std::string>>& numbers,
                           const std::string& gives);
// On a surface the shares u and v and its numbers.
FormulaSite site_on_grid(const OffsetGrid& grid, const std::string& gives);
// Of the first patch of the slot `surface`, on an even grid: what the editor shows.
Result<FormulaSite> site_on_first_patch(const Inputs& in, const std::string& gives);

}  // namespace plume
