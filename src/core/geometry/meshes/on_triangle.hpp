#pragma once
// The place of a triangle that is nearest to a point. C. Ericson: Real-time collision detection, 2005, 5.1.5.

#include "core/data/vec3.hpp"

namespace plume {

// At a + share_b (b - a) + share_c (c - a). What of it is nearest: its inside (0), a corner (1 to 3: a, b,
// c), or a side (4 to 6: ab, bc, ca).
struct OnTriangle {
    double share_b = 0, share_c = 0;
    int region = 0;
};

// By the sides b - a and c - a, and the way from a to the point. Of a triangle that is a line the shares may
// be no numbers.
OnTriangle nearest_on_triangle(Vec3 to_b, Vec3 to_c, Vec3 to_point);

}  // namespace plume
