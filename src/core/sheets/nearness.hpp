#pragma once
// How near features of triangles are to each other: a point to a triangle, two segments.
// C. Ericson: Real-time collision detection, 2005, 5.1.

#include <array>

#include "core/data/vec3.hpp"

namespace plume {

// The nearest places of two features, as weights of their corners that add up to 1 each; from the second to
// the first.
struct Nearest {
    std::array<double, 4> weights{};  // of a point and a triangle 1, 3; of two segments 2, 2
    Vec3 apart;
};

Nearest nearest_of_triangle(Vec3 point, Vec3 a, Vec3 b, Vec3 c);
Nearest nearest_of_segments(Vec3 a, Vec3 b, Vec3 c, Vec3 d);

}  // namespace plume
