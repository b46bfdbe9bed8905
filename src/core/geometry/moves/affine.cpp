#include "core/geometry/moves/affine.hpp"

#include <cmath>

namespace plume {

Affine composed(const Affine& second, const Affine& first) {
    return {second.turned(first.x), second.turned(first.y), second.turned(first.z), second.at(first.shift)};
}

Affine moved_by(Vec3 by) {
    return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, by};
}

Affine turned_about(Vec3 origin, Vec3 axis, double angle_rad) {
    const Vec3 k = unit_or_zero(axis);
    const double c = std::cos(angle_rad), s = std::sin(angle_rad);
    const auto turned = [&](Vec3 v) { return v * c + cross(k, v) * s + k * (dot(k, v) * (1 - c)); };
    Affine map{turned({1, 0, 0}), turned({0, 1, 0}), turned({0, 0, 1}), {}};
    map.shift = origin - map.turned(origin);
    return map;
}

Affine scaled_about(Vec3 origin, Vec3 factors) {
    Affine map{{factors.x, 0, 0}, {0, factors.y, 0}, {0, 0, factors.z}, {}};
    map.shift = origin - map.turned(origin);
    return map;
}

namespace {

// Takes a point `share` of its distance from the plane towards it: 1 lays it onto the plane, 2 mirrors it.
Affine towards_plane(const Placement& plane, double share) {
    const auto moved = [&](Vec3 v) { return v - plane.up * (share * dot(v, plane.up)); };
    Affine map{moved({1, 0, 0}), moved({0, 1, 0}), moved({0, 0, 1}), {}};
    map.shift = plane.origin - map.turned(plane.origin);
    return map;
}

}  // namespace

Affine mirrored_across(const Placement& plane) {
    return towards_plane(plane, 2);
}

Affine laid_onto(const Placement& plane) {
    return towards_plane(plane, 1);
}

Affine between_placements(const Placement& from, const Placement& to) {
    const auto carried = [&](Vec3 v) {
        return to.turned({dot(v, from.along), dot(v, from.across), dot(v, from.up)});
    };
    Affine map{carried({1, 0, 0}), carried({0, 1, 0}), carried({0, 0, 1}), {}};
    map.shift = to.origin - map.turned(from.origin);
    return map;
}

}  // namespace plume
