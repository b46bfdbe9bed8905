#pragma once
// The area of an outline, as a vector.

#include <span>

#include "core/data/vec3.hpp"

namespace plume {

// Its length is the area of a flat outline, its direction the normal of one that runs anticlockwise; of a
// warped one the sum of the triangles about its first corner.
inline Vec3 area_vector(std::span<const Vec3> outline) {
    Vec3 sum;
    for (std::size_t at = 1; at + 1 < outline.size(); ++at)
        sum = sum + cross(outline[at] - outline[0], outline[at + 1] - outline[0]);
    return sum * 0.5;
}

}  // namespace plume
