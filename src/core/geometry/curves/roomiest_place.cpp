#include "core/geometry/curves/roomiest_place.hpp"

#include <algorithm>
#include <limits>

#include "core/data/box.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"

namespace plume {
namespace {

// How far a place inside is from all loops; 0 outside.
double clearance(Vec3 place, const std::vector<std::vector<Vec3>>& loops) {
    bool inside = false;
    double nearest = std::numeric_limits<double>::max();
    for (const std::vector<Vec3>& loop : loops) {
        inside = inside != is_in_loop(loop, place.x, place.y);
        for (std::size_t at = 0; at < loop.size(); ++at) {
            const Vec3 a = loop[at], along = loop[(at + 1) % loop.size()] - a;
            const double share = std::clamp(dot(place - a, along) / dot(along, along), 0.0, 1.0);
            nearest = std::min(nearest, length(place - a - along * share));
        }
    }
    return inside ? nearest : 0;
}

}  // namespace

RoomyPlace roomiest_place(const std::vector<std::vector<Vec3>>& loops) {
    Box extent;
    for (const std::vector<Vec3>& loop : loops)
        for (const Vec3 corner : loop)
            extent.include(corner);
    const Vec3 size = extent.size(), middle = extent.low + size * 0.5;
    RoomyPlace best;
    double most = 0;
    constexpr int steps = 24;
    for (int row = 1; row < steps; ++row)
        for (int column = 1; column < steps; ++column) {
            const Vec3 place = extent.low + Vec3{size.x * column / steps, size.y * row / steps, 0};
            const double radius = clearance(place, loops);
            // Of those that have about the same room the one in the middle.
            constexpr double worth_of_middle = 0.05;
            const double worth = radius - worth_of_middle * length(place - middle);
            if (radius <= 0 || (best.radius > 0 && worth <= most + 1e-9 * length(size))) continue;
            best = {place, radius};
            most = worth;
        }
    return best;
}

}  // namespace plume
