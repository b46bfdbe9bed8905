#pragma once
// Parameters of a patch at even lengths.

#include <vector>

#include "core/data/surface_set.hpp"

namespace plume {

// From the start of a direction (0: u, 1: v) to its end, or round: so that the lengths between neighbours,
// in the mean of nine lines across, are equal to 1e-9. A closed direction of n bays has n, an open one n + 1.
std::vector<double> even_length_parameters(const SplinePatch& patch, int direction, std::size_t bays);

}  // namespace plume
