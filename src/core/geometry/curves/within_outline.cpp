#include "core/geometry/curves/within_outline.hpp"

namespace plume {
namespace {

std::vector<Vec3> rim_of(const Outline& outline) {
    std::vector<Vec3> corners;
    for (const FlatPoint corner : outline.corners())
        corners.push_back({corner.x, corner.y, 0});
    corners.push_back(corners.front());
    return corners;
}

Vec3 flat_in(const Outline& outline, Vec3 place) {
    const Vec3 local = outline.plane().to_local(place);
    return {local.x, local.y, 0};
}

bool is_inside(const Outline& outline, Vec3 flat) {
    return outline.contains(FlatPoint{flat.x, flat.y});
}

}  // namespace

WithinOutline::WithinOutline(const Outline& outline) : outline_(outline), rim_(rim_of(outline)) {}

Vec3 WithinOutline::kept(Vec3 place, double from_edge) const {
    const Vec3 flat = flat_in(outline_, place);
    const NearestPlace rim = rim_.nearest(flat);
    const bool inside = is_inside(outline_, flat);
    if (inside && rim.distance >= from_edge) return outline_.plane().to_world(flat);
    Vec3 inwards = inside ? flat - rim.place : rim.place - flat;
    // On the rim itself: to the left of how it runs.
    if (!(rim.distance > 0)) inwards = Vec3{-rim.along.y, rim.along.x, 0};
    return outline_.plane().to_world(rim.place + unit_or_zero(inwards) * from_edge);
}

Vec3 WithinOutline::on_edge(Vec3 place) const {
    return outline_.plane().to_world(rim_.nearest(flat_in(outline_, place)).place);
}

bool WithinOutline::holds(Vec3 place, double from_edge) const {
    const Vec3 flat = flat_in(outline_, place);
    return is_inside(outline_, flat) && rim_.nearest(flat).distance >= from_edge;
}

}  // namespace plume
