#pragma once
// Lines as the straight pieces they consist of.

#include <array>
#include <span>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// From place to place, and back to the first where it is closed; pieces that go straight on are one. O(n).
std::vector<std::array<Vec3, 2>> straight_pieces(std::span<const Vec3> places, bool closed);

}  // namespace plume
