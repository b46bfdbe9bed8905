#pragma once
// The nearest place on many segments, by a tree of boxes. Asked for points in the order of a lattice it
// begins with the answer of the point before, which leaves a handful of boxes to look into. O(log n) a point,
// O(n log n) to build.

#include <cstdint>
#include <vector>

#include "core/geometry/measures/box_tree.hpp"

namespace plume {

struct NearestPlace {
    double distance = 0;
    Vec3 place, along;  // along: of the segment it lies on, not unit
    std::size_t segment = 0;
};

class SegmentTree {
public:
    // Segments between each corner and the next; at least two corners, all finite.
    explicit SegmentTree(const std::vector<Vec3>& corners);

    // `guess`: a segment to begin with; that of a point nearby makes it quick.
    NearestPlace nearest(Vec3 point, std::size_t guess = 0) const;

private:
    // A segment as it is measured, in the order of the leaves.
    struct Segment {
        Vec3 from, along;
        double inverse = 0;  // of the square of its length; 0 for a point
        std::size_t number = 0;
    };
    static double square_to(const Segment& segment, Vec3 point);

    std::vector<Segment> segments_;
    std::vector<std::uint32_t> place_of_;  // of the segment of a number
    BoxTree tree_;
};

}  // namespace plume
