#pragma once
// Surfaces with closed forms, about the Z axis through the origin.

#include <numbers>

#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/loft.hpp"

namespace plume::test {

inline Placement at_origin() {
    return placement_of({0, 0, 0}, {0, 0, 1}, {1, 0, 0});
}

inline SplinePatch sphere(double radius) {
    const SplineCurve half =
        ellipse_arc({placement_of({0, 0, 0}, {0, -1, 0}, {0, 0, -1}), radius, radius, 0, std::numbers::pi});
    return *revolved(half, at_origin(), 2 * std::numbers::pi);
}

inline SplinePatch torus(double large, double small) {
    const SplineCurve ring = ellipse(placement_of({large, 0, 0}, {0, -1, 0}, {1, 0, 0}), small, small);
    return *revolved(ring, at_origin(), 2 * std::numbers::pi);
}

}  // namespace plume::test
