#include "core/geometry/parts/coincident_points.hpp"

#include "core/geometry/measures/point_tree.hpp"

namespace plume {

std::vector<std::size_t> first_within(std::span<const Vec3> points, double tolerance_abs) {
    constexpr auto unclaimed = static_cast<std::size_t>(-1);
    std::vector<std::size_t> first(points.size(), unclaimed);
    const PointTree tree(points);
    for (std::size_t index = 0; index < points.size(); ++index) {
        if (first[index] != unclaimed) continue;
        // Firsts come in order, so whatever is claimed already belongs to an earlier one.
        tree.for_each_within(points[index], tolerance_abs, [&](std::size_t other, double) {
            if (first[other] == unclaimed) first[other] = index;
            return true;
        });
        first[index] = index;
    }
    return first;
}

}  // namespace plume
