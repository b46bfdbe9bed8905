#pragma once
// Ways that are cut to a length.

#include "core/data/vec3.hpp"

namespace plume {

// Towards `to`, at most so far.
inline Vec3 no_farther(Vec3 from, Vec3 to, double most) {
    const Vec3 way = to - from;
    const double far = length(way);
    return far > most ? from + way * (most / far) : to;
}

}  // namespace plume
