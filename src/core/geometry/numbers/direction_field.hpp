#pragma once
// Directions on points, from attractors: away from them, towards them, or around them. Of each attractor the
// place nearest to the point counts; its unit direction is scaled by its weight and by a response of its
// distance, and those of all attractors are added, or only that of the nearest one is taken. O(points x
// attractors).

#include "core/base/run.hpp"
#include "core/data/attractors.hpp"
#include "core/data/point_lattice.hpp"
#include "core/geometry/numbers/response.hpp"

namespace plume {

enum class DirectionSense { away, towards, around };

struct DirectionRule {
    DirectionSense sense = DirectionSense::away;
    bool nearest_only = false;
    Shaping fading = Response::inverse;  // Response::distance: does not fade
    double reach = 1;                    // study lengths, above 0
    Vec3 axis{0, 0, 1};  // of `around` about points; around a line or curve its own direction counts
};

struct DirectionColumns {
    Doubles x, y, z;
};
// A point on an attractor has no direction to it: that one counts nothing there. Error: cancelled.
Result<DirectionColumns> direction_field(const PointLattice& lattice, const Attractors& attractors,
                                         const DirectionRule& rule, const Run& run);

}  // namespace plume
