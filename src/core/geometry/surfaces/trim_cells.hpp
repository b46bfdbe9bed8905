#pragma once
// The bays of a grid over parameters: which of them trims pass, which of the others are there.

#include <cstdint>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// Whether a place lies inside of a polygon.
bool is_in_loop(const std::vector<Vec3>& loop, double u, double v);

enum class TrimCell : std::uint8_t { outside, inside, crossed };

// Bay (a, b) between lines a, a + 1 of u and b, b + 1 of v is at index a + (count_u - 1) * b. Lines increase.
// Loops are polygons of (u, v); what is inside of an odd number of them is there. A bay that a loop touches
// counts as crossed. O(bays + bays that loops pass).
std::vector<TrimCell> trim_cells(const std::vector<double>& u, const std::vector<double>& v,
                                 const std::vector<std::vector<Vec3>>& loops);

}  // namespace plume
