#pragma once
// Regions of a plane within closed lines that may touch, cross and lie in each other: cut faces of bodies.
//
// A place is inside where the lines wind around it, in whatever sense (non-zero winding). Put together by the
// Clipper library (polygon clipping after Vatti 1992), on whole numbers of a 2^40th of the size; triangles by
// CGAL's constrained Delaunay triangulation (its manual, ch. 2D Triangulations).

#include <array>
#include <vector>

#include "core/geometry/curves/outline.hpp"

namespace plume {

using FlatRing = std::vector<FlatPoint>;  // closed, its first place not repeated

struct FlatRegion {
    std::vector<FlatRing> rings;  // anticlockwise; holes clockwise; none crosses another
    std::vector<FlatPoint> places;
    std::vector<std::array<std::uint32_t, 3>> triangles;  // of places, anticlockwise
};

// Places have to be finite. O(n log n) for n places, and k log n for k crossings.
FlatRegion region_within(const std::vector<FlatRing>& lines);

}  // namespace plume
