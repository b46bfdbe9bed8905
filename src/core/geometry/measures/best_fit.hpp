#pragma once
// The plane nearest to points, in the sense of least squares (Pearson, On lines and planes of closest fit,
// Phil. Mag. 2(11), 1901): through their centroid, square to the direction in which they spread least. The
// spread's axes are the eigenvectors of the 3 x 3 covariance (Eigen). O(n).

#include <span>

#include "core/data/placements.hpp"

namespace plume {

struct BestFit {
    Placement placement;  // origin at the centroid, along the widest spread, up the plane's normal
    Vec3 spread;          // root mean square distance from the centroid along the placement's axes
    double worst = 0;     // largest distance of a point from the plane, not negative
};

// At least one point, all finite. Up points to +Z, or +Y, or +X where it is flat that way.
BestFit best_fit(std::span<const Vec3> points);

Vec3 centroid(std::span<const Vec3> points);

}  // namespace plume
