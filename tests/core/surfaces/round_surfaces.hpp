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

// z = (x * x + times * y * y) / 2 over -2..2 both ways, exactly: a patch of degree 2 whose parameters are x
// and y.
inline SplinePatch quadric(double times) {
    const std::vector<double> knots{-2, -2, -2, 2, 2, 2}, at{-2, 0, 2}, squares{4, -4, 4};
    Doubles x, y, z;
    for (std::size_t b = 0; b < 3; ++b)
        for (std::size_t a = 0; a < 3; ++a) {
            x.push_back(at[a]);
            y.push_back(at[b]);
            z.push_back((squares[a] + times * squares[b]) / 2);
        }
    return *SplinePatch::make({{2, false, knots, {}}, {2, false, knots, {}}, x, y, z, {}, {}, {}});
}

}  // namespace plume::test
