#include "core/geometry/segment_tree.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numeric>

namespace plume {
namespace {

constexpr std::uint32_t leaf_size = 4;

double share_on(Vec3 from, Vec3 along, Vec3 point) {
    const double square = dot(along, along);
    return square > 0 ? std::clamp(dot(point - from, along) / square, 0.0, 1.0) : 0;
}

}  // namespace

SegmentTree::SegmentTree(const std::vector<Vec3>& corners) : corners_(corners) {
    const auto count = static_cast<std::uint32_t>(corners.size() - 1);
    order_.resize(count);
    std::iota(order_.begin(), order_.end(), 0U);
    nodes_.reserve(2 * static_cast<std::size_t>(count) / leaf_size + 2);
    nodes_.emplace_back();
    build(0, 0, count);
}

void SegmentTree::build(std::uint32_t node, std::uint32_t first, std::uint32_t count) {
    std::array<double, 3> low, high;
    low.fill(std::numeric_limits<double>::infinity());
    high.fill(-std::numeric_limits<double>::infinity());
    const auto parts = [](Vec3 v) { return std::array<double, 3>{v.x, v.y, v.z}; };
    for (std::uint32_t at = first; at < first + count; ++at)
        for (const Vec3 corner : {corners_[order_[at]], corners_[order_[at] + 1]})
            for (std::size_t axis = 0; axis < 3; ++axis) {
                low[axis] = std::min(low[axis], parts(corner)[axis]);
                high[axis] = std::max(high[axis], parts(corner)[axis]);
            }
    BoxNode box;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        // Floats round to nearest: one step outwards keeps everything inside.
        box.low[axis] = std::nextafterf(static_cast<float>(low[axis]), -INFINITY);
        box.high[axis] = std::nextafterf(static_cast<float>(high[axis]), INFINITY);
    }
    if (count <= leaf_size) {
        box.first = first;
        box.count = count;
        nodes_[node] = box;
        return;
    }
    std::size_t axis = 0;
    for (std::size_t other = 1; other < 3; ++other)
        if (high[other] - low[other] > high[axis] - low[axis]) axis = other;
    const auto middle_of = [&](std::uint32_t segment) {
        return parts(corners_[segment])[axis] + parts(corners_[segment + 1])[axis];
    };
    const std::uint32_t half = count / 2;
    const auto begin = order_.begin() + first;
    std::nth_element(begin, begin + half, begin + count,
                     [&](std::uint32_t a, std::uint32_t b) { return middle_of(a) < middle_of(b); });
    box.first = static_cast<std::uint32_t>(nodes_.size());
    nodes_[node] = box;
    nodes_.emplace_back();
    nodes_.emplace_back();
    build(box.first, first, half);
    build(box.first + 1, first + half, count - half);
}

double SegmentTree::square_to(const BoxNode& node, Vec3 point) const {
    const std::array<double, 3> p{point.x, point.y, point.z};
    double square = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double out = std::max({static_cast<double>(node.low[axis]) - p[axis],
                                     p[axis] - static_cast<double>(node.high[axis]), 0.0});
        square += out * out;
    }
    return square;
}

double SegmentTree::square_to(std::size_t segment, Vec3 point) const {
    const Vec3 from = corners_[segment], along = corners_[segment + 1] - from;
    const Vec3 off = point - (from + along * share_on(from, along, point));
    return dot(off, off);
}

NearestPlace SegmentTree::nearest(Vec3 point, std::size_t guess) const {
    std::size_t best = guess;
    double square = square_to(guess, point);
    struct Waiting {
        std::uint32_t node;
        double square;
    };
    std::array<Waiting, 64> stack;  // NOLINT: depth is at most 32; written before it is read
    std::size_t waiting = 0;
    stack[waiting++] = {0, square_to(nodes_[0], point)};
    while (waiting > 0) {
        const Waiting here = stack[--waiting];
        if (here.square >= square) continue;
        const BoxNode& node = nodes_[here.node];
        if (node.count > 0) {
            for (std::uint32_t at = node.first; at < node.first + node.count; ++at) {
                const double other = square_to(order_[at], point);
                if (other < square) {
                    square = other;
                    best = order_[at];
                }
            }
            continue;
        }
        Waiting near{node.first, square_to(nodes_[node.first], point)};
        Waiting far{node.first + 1, square_to(nodes_[node.first + 1], point)};
        if (far.square < near.square) std::swap(near, far);
        if (far.square < square) stack[waiting++] = far;
        if (near.square < square) stack[waiting++] = near;
    }
    const Vec3 from = corners_[best], along = corners_[best + 1] - from;
    const Vec3 place = from + along * share_on(from, along, point);
    return {std::sqrt(square), place, along, best};
}

}  // namespace plume
