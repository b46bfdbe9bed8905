#pragma once
// The nearest place on many segments: a tree of boxes over them, split in the middle of the longest side
// (Ericson, Real-Time Collision Detection, 2005, ch. 6), walked nearer half first. Asked for points in the
// order of a lattice it begins with the answer of the point before, which leaves a handful of boxes to look
// into. O(log n) a point, O(n log n) to build.

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
    std::size_t segment_count() const { return corners_.size() - 1; }

private:
    struct BoxNode {
        float low[3], high[3];
        std::uint32_t first = 0, count = 0;  // segments of a leaf; else count 0 and first the nearer child
    };
    void build(std::uint32_t node, std::uint32_t first, std::uint32_t count);
    double square_to(const BoxNode& node, Vec3 point) const;
    double square_to(std::size_t segment, Vec3 point) const;

    std::vector<Vec3> corners_;
    std::vector<std::uint32_t> order_;
    std::vector<BoxNode> nodes_;
};

}  // namespace plume
