#pragma once
// Delaunay triangles and Voronoi cells of points in a plane, by CGAL's triangulations (its manual, ch. 2D
// Triangulations, 8.3, and 3D Triangulations, 5).

#include "core/geometry/frames/neighbour_links.hpp"

namespace plume {

// Sides of the Delaunay triangles; of points x and y are read. Points at one place count as one, the first.
// O(n log n).
Pairs delaunay_pairs(std::span<const Vec3> points);

// A region of the plane: a polygon, anticlockwise or clockwise, and which of its places are corners to be
// kept.
struct PlaneRegion {
    std::vector<Vec3> places;
    std::vector<std::uint8_t> corner;
    bool contains(Vec3 place) const;
};
// The rectangle about the points, as far beyond them as half of what two of them usually stand apart.
PlaneRegion region_about(std::span<const Vec3> points);

// The sides of the Voronoi cells within a region, and the pieces of its rim between them: places, z 0, and
// pairs of them. Places that are one to 1e-9 of the size come once. O((n + rim) log n), and every side that
// leaves the region O(rim). Errors: too_few_points (two different ones), cancelled.
struct PlaneNet {
    std::vector<Vec3> places;
    Pairs pairs;
};
Result<PlaneNet> voronoi_net(std::span<const Vec3> points, const PlaneRegion& region, const Run& run);

}  // namespace plume
