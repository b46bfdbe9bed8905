#pragma once
// Curves and surfaces that are measured.

#include <vector>

#include "core/data/curve_set.hpp"
#include "core/surfaces/wavy_surface.hpp"

namespace plume::bench {

using test::wavy;
// A share that goes round strewn, as a search meets places.
double share_of(std::size_t at, double step);
// Places above and below a patch.
std::vector<Vec3> strewn(const SplinePatch& patch, std::size_t count);
// Twenty sections of a wavy surface.
std::vector<SplineCurve> waves_of_200_poles();

}  // namespace plume::bench
