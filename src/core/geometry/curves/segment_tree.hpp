#pragma once
// The nearest place on many segments: a tree of boxes over them, split in the middle of the longest side
// (Ericson, Real-Time Collision Detection, 2005, ch. 6), four boxes to a node so that they are measured side
// by side (Dammertz, Hanika, Keller, Shallow bounding volume hierarchies, Computer Graphics Forum 27(4),
// 2008, doi 10.1111/j.1467-8659.2008.01261.x), walked nearer boxes first. Asked for points in the order of a
// lattice it begins with the answer of the point before, which leaves a handful of boxes to look into. O(log
// n) a point, O(n log n) to build.

#include <cstdint>
#include <vector>

#include "core/data/vec3.hpp"

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
    static constexpr std::size_t width = 4;
    // Four boxes: axis by axis, so that one instruction serves several. Behind a box is a node, or with a
    // count above 0 the segments of a leaf. An empty box lies infinitely far away.
    struct Node {
        double low[3][width], high[3][width];
        std::uint32_t first[width]{}, count[width]{};
    };
    // A segment as it is measured, in the order of the leaves.
    struct Segment {
        Vec3 from, along;
        double inverse = 0;  // of the square of its length; 0 for a point
        std::size_t number = 0;
    };
    struct Span {
        std::uint32_t first, count;
    };
    void build(std::uint32_t node, Span span);
    Span halved(Span span, bool second);
    void set_box(Node& node, std::size_t child, Span span) const;
    static double square_to(const Segment& segment, Vec3 point);

    std::vector<Segment> segments_;
    std::vector<std::uint32_t> place_of_;  // of the segment of a number
    std::vector<Node> nodes_;
};

}  // namespace plume
