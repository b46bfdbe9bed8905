#pragma once
// Whole values moved by affine maps.

#include <vector>

#include "core/data/value.hpp"
#include "core/geometry/moves/affine.hpp"

namespace plume {

// The whole value, exactly: splines by their poles, placements turned and made orthonormal again (mirrored
// placements stay right-handed: their across axis is turned round), directions turned, faces of meshes turned
// round by maps that mirror. Weights of attractors and fields stay. Numbers stay what they are. O(n). Error:
// not_finite when the map carries something beyond what a double holds.
Result<Value> transformed(const Value& value, const Affine& map);

// Kinds that transformed() moves: all but numbers.
std::vector<Kind> movable_kinds();

}  // namespace plume
