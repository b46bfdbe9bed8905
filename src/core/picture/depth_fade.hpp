#pragma once
// Bars pale with the distance, so that the back of a tower does not hide its front.

#include <algorithm>

#include "core/data/box.hpp"
#include "core/data/camera.hpp"

namespace plume {

struct DepthFade {
    static constexpr double farthest_share = 0.22;  // of the ink is left at the far end of the form

    Vec3 forward;
    double near = 0, far = 0;  // along forward, of the form

    DepthFade(const Camera& camera, const Box& bounds) : forward(camera.forward()) {
        if (bounds.empty()) return;
        const Vec3 half = bounds.size() * 0.5;
        const double middle = dot(forward, bounds.centre());
        const double reach =
            std::abs(forward.x) * half.x + std::abs(forward.y) * half.y + std::abs(forward.z) * half.z;
        near = middle - reach;
        far = middle + reach;
    }
    double share_left(Vec3 place) const {
        if (!(far > near)) return 1;
        const double away = std::clamp((dot(forward, place) - near) / (far - near), 0.0, 1.0);
        return 1 - away * (1 - farthest_share);
    }
};

}  // namespace plume
