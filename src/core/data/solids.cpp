#include "core/data/solids.hpp"

namespace plume {

Vec3 moments_of(const BodyFigures& figures) {
    const Vec3& s = figures.second;
    return {s.y + s.z, s.x + s.z, s.x + s.y};
}

std::string body_mark(const SolidSet& set, std::size_t body) {
    return set.marks ? set.marks->mark(body) : std::to_string(body);
}

BodyFigures figures_of(const SolidSet& set) {
    BodyFigures all;
    Vec3 moment;
    for (const Body& body : set.bodies) {
        const BodyFigures& one = body.figures();
        all.volume += one.volume;
        all.area += one.area;
        moment = moment + one.centroid * one.volume;
    }
    if (!(all.volume > 0)) return all;
    all.centroid = moment * (1 / all.volume);
    // Steiner's theorem: from the centroid of each to that of all.
    for (const Body& body : set.bodies) {
        const BodyFigures& one = body.figures();
        const Vec3 off = one.centroid - all.centroid;
        all.second = all.second + one.second + Vec3{off.x * off.x, off.y * off.y, off.z * off.z} * one.volume;
    }
    return all;
}

}  // namespace plume
