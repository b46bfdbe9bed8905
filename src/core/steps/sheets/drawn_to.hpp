#pragma once
// What draws a sheet towards attractors.

#include "core/data/attractors.hpp"
#include "core/sheets/sheet.hpp"

namespace plume {

// Of each vertex in newtons: `pull` in N/m² at an attractor, times its weight, less by the square of the
// share of `reach` that it is away, nothing beyond; of lines to their nearest place. Places in metres;
// `metres`: in a length of the attractors, as `reach` is.
std::vector<Vec3> loads_towards(const Attractors& attractors, double pull, double reach, double metres,
                                const Sheet& sheet, const std::vector<Vec3>& at);

}  // namespace plume
