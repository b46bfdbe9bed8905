#include "core/growth/part_motion.hpp"

#include <algorithm>
#include <numbers>

#include "core/geometry/moves/affine.hpp"

namespace plume {
namespace {

void set_axes(PartPlace& part, Vec3 along, Vec3 up) {
    part.placement.along = along;
    part.placement.up = up;
    part.placement.across = cross(up, along);
}

}  // namespace

void move(PartPlace& part, PartWay way, double distance) {
    part.placement.origin = part.placement.origin + part.axis(way.axis) * (way.sign * distance);
}

// Two axes turn in the plane of both, from the one before towards the next; in a mirrored part that plane is
// seen from behind, which its own axes take care of.
void turn(PartPlace& part, PartWay about, double angle_rad) {
    const double cosine = std::cos(angle_rad), sine = std::sin(angle_rad) * about.sign;
    const Vec3 along = part.placement.along, across = part.across(), up = part.placement.up;
    switch (about.axis) {
        case 0:
            return set_axes(part, along, up * cosine - across * sine);
        case 1:
            return set_axes(part, along * cosine - up * sine, up * cosine + along * sine);
        default:
            return set_axes(part, along * cosine + across * sine, up);
    }
}

void mirror(PartPlace& part, PartWay way) {
    part.side = -part.side;
    if (way.axis == 0) set_axes(part, part.placement.along * -1, part.placement.up);
    if (way.axis == 2) set_axes(part, part.placement.along, part.placement.up * -1);
}

void bend(PartPlace& part, Vec3 towards, double angle_rad) {
    const Vec3 goal = unit_or_zero(towards), up = part.placement.up;
    const Vec3 axis = cross(up, goal);
    const double sine = length(axis);
    if (sine < 1e-12) return;
    const double between = std::atan2(sine, dot(up, goal));
    const double angle = std::clamp(angle_rad, between - std::numbers::pi, between);
    const Affine rotation = turned_about({}, axis, angle);
    set_axes(part, rotation.turned(part.placement.along), rotation.turned(up));
}

void turn_inside_out(PartPlace& part) {
    part.side = -part.side;
    set_axes(part, part.placement.along * -1, part.placement.up * -1);
}

void make_upright(PartPlace& part) {
    part.placement = placement_of(part.placement.origin, part.placement.up, part.placement.along);
}

}  // namespace plume
