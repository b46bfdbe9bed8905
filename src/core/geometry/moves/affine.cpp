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

Affine inverse_of(const Affine& map) {
    const Vec3 yz = cross(map.y, map.z), zx = cross(map.z, map.x), xy = cross(map.x, map.y);
    const double scale = 1 / map.determinant();
    Affine inverse{
        Vec3{yz.x, zx.x, xy.x} * scale, Vec3{yz.y, zx.y, xy.y} * scale, Vec3{yz.z, zx.z, xy.z} * scale, {}};
    inverse.shift = inverse.turned(map.shift) * -1;
    return inverse;
}

Affine part_of(const Affine& map, double share) {
    const auto part = [&](Vec3 still, Vec3 moved) { return still + (moved - still) * share; };
    return {part({1, 0, 0}, map.x), part({0, 1, 0}, map.y), part({0, 0, 1}, map.z), map.shift * share};
}

namespace {

// The number of the place that is farthest by a measure of its way from the first.
template <class Measure>
std::size_t farthest(const std::vector<Vec3>& places, const Measure& measure) {
    std::size_t found = 0;
    double most = 0;
    for (std::size_t at = 0; at < places.size(); ++at)
        if (const double far = measure(places[at] - places[0]); far > most) {
            most = far;
            found = at;
        }
    return found;
}

}  // namespace

std::optional<Affine> affine_between(const std::vector<Vec3>& from, const std::vector<Vec3>& to) {
    constexpr double flat = 1e-6, alike = 1e-9;
    if (from.empty() || from.size() != to.size()) return {};
    const std::size_t first = farthest(from, [](Vec3 way) { return length(way); });
    const Vec3 a = from[first] - from[0], moved_a = to[first] - to[0];
    const std::size_t second = farthest(from, [&](Vec3 way) { return length(cross(a, way)); });
    const Vec3 b = from[second] - from[0], moved_b = to[second] - to[0];
    const Vec3 up = unit_or_zero(cross(a, b));
    const std::size_t third = farthest(from, [&](Vec3 way) { return std::abs(dot(up, way)); });
    const double size = length(a);
    Vec3 c = from[third] - from[0], moved_c = to[third] - to[0];
    if (std::abs(dot(up, c)) < flat * size) {
        c = up * size;
        moved_c = unit_or_zero(cross(moved_a, moved_b)) * size;
    }
    const Affine spans{a, b, c, {}}, moved{moved_a, moved_b, moved_c, {}};
    if (!(std::abs(spans.determinant()) > 0)) return {};
    Affine map = composed(moved, inverse_of(spans));
    map.shift = to[0] - map.turned(from[0]);
    if (!(map.determinant() > 0)) return {};
    for (std::size_t at = 0; at < from.size(); ++at)
        if (!(length(map.at(from[at]) - to[at]) <= alike * size)) return {};
    return map;
}

}  // namespace plume
