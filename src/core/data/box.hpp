#pragma once
// Axis-aligned bounds of finite points; empty until the first point is put in.

#include <algorithm>
#include <limits>

#include "core/data/vec3.hpp"

namespace plume {

struct Box {
    static constexpr double infinite = std::numeric_limits<double>::infinity();
    Vec3 low{infinite, infinite, infinite};
    Vec3 high{-infinite, -infinite, -infinite};

    bool empty() const { return low.x > high.x; }
    void include(Vec3 p) {
        if (!is_finite(p)) return;
        low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
    }
    void include(const Box& other) {
        if (other.empty()) return;
        include(other.low);
        include(other.high);
    }
    Vec3 centre() const { return (low + high) * 0.5; }
    Vec3 size() const { return empty() ? Vec3{} : high - low; }
    double diagonal() const { return length(size()); }
};

}  // namespace plume
