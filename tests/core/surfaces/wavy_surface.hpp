#pragma once
// A smooth surface of any number of bays, for checks and measurements.

#include <cmath>

#include "core/geometry/surfaces/spline_interpolation.hpp"

namespace plume::test {

// Through side x side points of a wave, 36 by 24.
inline SplinePatch wavy(std::size_t side) {
    Doubles x, y, z;
    for (std::size_t j = 0; j < side; ++j)
        for (std::size_t i = 0; i < side; ++i) {
            x.push_back(36.0 * static_cast<double>(i) / static_cast<double>(side - 1));
            y.push_back(24.0 * static_cast<double>(j) / static_cast<double>(side - 1));
            z.push_back(3 * std::sin(x.back() / 6) * std::cos(y.back() / 5));
        }
    PointLattice::Parts parts;
    parts.counts = {side, side, 1};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *interpolate_grid(*PointLattice::make(std::move(parts)), Run());
}

}  // namespace plume::test
