#include "core/geometry/curves/segment_tree.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

std::vector<Box> boxes_of(const std::vector<Vec3>& corners) {
    std::vector<Box> boxes(corners.size() - 1);
    for (std::size_t at = 0; at < boxes.size(); ++at) {
        boxes[at].include(corners[at]);
        boxes[at].include(corners[at + 1]);
    }
    return boxes;
}

}  // namespace

SegmentTree::SegmentTree(const std::vector<Vec3>& corners)
    : place_of_(corners.size() - 1), tree_(boxes_of(corners)) {
    segments_.reserve(place_of_.size());
    for (const std::uint32_t number : tree_.order()) {
        const Vec3 along = corners[number + 1] - corners[number];
        const double square = dot(along, along);
        place_of_[number] = static_cast<std::uint32_t>(segments_.size());
        segments_.push_back({corners[number], along, square > 0 ? 1 / square : 0, number});
    }
}

double SegmentTree::square_to(const Segment& segment, Vec3 point) {
    const Vec3 off = point - segment.from;
    double share = dot(off, segment.along) * segment.inverse;
    share = share < 0 ? 0 : share;
    share = share > 1 ? 1 : share;
    const Vec3 apart = off - segment.along * share;
    return dot(apart, apart);
}

NearestPlace SegmentTree::nearest(Vec3 point, std::size_t guess) const {
    std::uint32_t best = place_of_[guess];
    double square = square_to(segments_[best], point);
    tree_.nearest(point, square, [&](std::uint32_t place) {
        const double other = square_to(segments_[place], point);
        if (other < square) {
            square = other;
            best = place;
        }
        return square;
    });
    const Segment& found = segments_[best];
    const double share = std::clamp(dot(point - found.from, found.along) * found.inverse, 0.0, 1.0);
    return {std::sqrt(square), found.from + found.along * share, found.along, found.number};
}

}  // namespace plume
