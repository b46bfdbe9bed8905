#include "core/data/solids.hpp"

namespace plume {

BodyFigures figures_of(const SolidSet& set) {
    BodyFigures all;
    Vec3 moment;
    for (const Body& body : set.bodies) {
        const BodyFigures& one = body.figures();
        all.volume += one.volume;
        all.area += one.area;
        moment = moment + one.centroid * one.volume;
    }
    if (all.volume > 0) all.centroid = moment * (1 / all.volume);
    return all;
}

}  // namespace plume
