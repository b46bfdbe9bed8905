#pragma once
// Regular polygons of `sides` sides sewn together, `around` of them at each vertex, where a plane has room
// for fewer: regular tessellations of the hyperbolic plane {sides, around} (H. S. M. Coxeter: Regular
// honeycombs in hyperbolic space, 1956), laid out in the disc of Poincaré.

#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct Patchwork {
    std::vector<std::vector<std::uint32_t>> faces;  // counter-clockwise
    std::vector<std::uint32_t> ring;                // of faces; the first, in the middle, is ring 0
    std::vector<Vec3> at;                           // of vertices in the unit disc, z = 0
};

// The polygon in the middle and so many rings, each of which is all that touches the one before. Errors:
// out_of_range (fewer than three sides or around, or room for them in a plane or on a ball: 1/sides +
// 1/around of a half or more), over_budget (more than most_patches), cancelled.
inline constexpr std::size_t most_patches = 50'000;
Result<Patchwork> patchwork(std::size_t sides, std::size_t around, std::size_t rings, const Run& run);

}  // namespace plume
