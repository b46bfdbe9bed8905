#pragma once
// Curves and surfaces that are measured.

#include <cstdint>
#include <functional>
#include <vector>

#include "core/data/curve_set.hpp"
#include "core/data/mesh.hpp"
#include "core/surfaces/wavy_surface.hpp"

namespace plume::bench {

using test::wavy;
// A share that goes round strewn, as a search meets places.
double share_of(std::size_t at, double step);
// Places above and below a patch.
std::vector<Vec3> strewn(const SplinePatch& patch, std::size_t count);
// Two triangles between every four of a grid of places.
Mesh triangles_between(std::uint32_t columns, std::uint32_t rows,
                       const std::function<Vec3(std::uint32_t i, std::uint32_t j)>& place);
// Waves at places so far apart.
Mesh wave_triangles(std::uint32_t columns, std::uint32_t rows, double apart);
// Twenty sections of a wavy surface.
std::vector<SplineCurve> waves_of_200_poles();

}  // namespace plume::bench
