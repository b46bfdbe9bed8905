#include "core/geometry/curves/segment_tree.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace plume {
namespace {

constexpr std::uint32_t leaf_size = 4;
constexpr double infinite = std::numeric_limits<double>::infinity();

std::array<double, 3> parts(Vec3 v) {
    return {v.x, v.y, v.z};
}

}  // namespace

SegmentTree::SegmentTree(const std::vector<Vec3>& corners) {
    const std::size_t count = corners.size() - 1;
    for (std::size_t at = 0; at < count; ++at) {
        const Vec3 along = corners[at + 1] - corners[at];
        const double square = dot(along, along);
        segments_.push_back({corners[at], along, square > 0 ? 1 / square : 0, at});
    }
    nodes_.emplace_back();
    build(0, {0, static_cast<std::uint32_t>(count)});
    place_of_.resize(count);
    for (std::size_t place = 0; place < count; ++place)
        place_of_[segments_[place].number] = static_cast<std::uint32_t>(place);
}

void SegmentTree::set_box(Node& node, std::size_t child, Span span) const {
    std::array<double, 3> low, high;
    low.fill(infinite);
    high.fill(-infinite);
    for (std::uint32_t at = span.first; at < span.first + span.count; ++at)
        for (const Vec3 end : {segments_[at].from, segments_[at].from + segments_[at].along})
            for (std::size_t axis = 0; axis < 3; ++axis) {
                low[axis] = std::min(low[axis], parts(end)[axis]);
                high[axis] = std::max(high[axis], parts(end)[axis]);
            }
    for (std::size_t axis = 0; axis < 3; ++axis) {
        // from + along rounds: a hair of slack keeps the end inside.
        const double slack = 1e-15 * (std::abs(low[axis]) + std::abs(high[axis]));
        node.low[axis][child] = low[axis] - slack;
        node.high[axis][child] = high[axis] + slack;
    }
}

// Sorts a span about its middle along its longest side, and names one half.
SegmentTree::Span SegmentTree::halved(Span span, bool second) {
    const std::uint32_t half = span.count / 2;
    if (!second) {
        Node box;
        set_box(box, 0, span);
        std::size_t axis = 0;
        for (std::size_t other = 1; other < 3; ++other)
            if (box.high[other][0] - box.low[other][0] > box.high[axis][0] - box.low[axis][0]) axis = other;
        const auto begin = segments_.begin() + span.first;
        std::nth_element(begin, begin + half, begin + span.count, [&](const Segment& a, const Segment& b) {
            return 2 * parts(a.from)[axis] + parts(a.along)[axis] <
                   2 * parts(b.from)[axis] + parts(b.along)[axis];
        });
    }
    return second ? Span{span.first + half, span.count - half} : Span{span.first, half};
}

void SegmentTree::build(std::uint32_t number, Span span) {
    std::array<Span, width> children{span, Span{0, 0}, Span{0, 0}, Span{0, 0}};
    if (span.count > leaf_size) {
        const Span low = halved(span, false), high = halved(span, true);
        children = {low, Span{0, 0}, high, Span{0, 0}};
        for (const std::size_t pair : {0UL, 2UL}) {
            const Span whole = children[pair];
            if (whole.count <= leaf_size) continue;
            children[pair] = halved(whole, false);
            children[pair + 1] = halved(whole, true);
        }
    }
    Node node;
    for (std::size_t child = 0; child < width; ++child) {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            node.low[axis][child] = infinite;
            node.high[axis][child] = infinite;
        }
        if (children[child].count > 0) set_box(node, child, children[child]);
        node.first[child] = children[child].first;
        node.count[child] = children[child].count <= leaf_size ? children[child].count : 0;
    }
    nodes_[number] = node;
    for (std::size_t child = 0; child < width; ++child) {
        if (children[child].count <= leaf_size) continue;
        const auto below = static_cast<std::uint32_t>(nodes_.size());
        nodes_[number].first[child] = below;
        nodes_.emplace_back();
        build(below, children[child]);
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
    struct Waiting {
        std::uint32_t node;
        double square;
    };
    std::array<Waiting, 96> stack;  // NOLINT: three a level, twenty levels at most; written before it is read
    std::size_t waiting = 0;
    stack[waiting++] = {0, 0};
    const std::array<double, 3> p = parts(point);
    while (waiting > 0) {
        const Waiting here = stack[--waiting];
        if (here.square >= square) continue;
        const Node& node = nodes_[here.node];
        double apart[width] = {0, 0, 0, 0};
        for (std::size_t axis = 0; axis < 3; ++axis)
            for (std::size_t child = 0; child < width; ++child) {
                const double below = node.low[axis][child] - p[axis],
                             above = p[axis] - node.high[axis][child];
                double out = below > above ? below : above;
                out = out > 0 ? out : 0;
                apart[child] += out * out;
            }
        const std::size_t before = waiting;
        for (std::size_t child = 0; child < width; ++child) {
            if (!(apart[child] < square)) continue;
            if (node.count[child] == 0) {
                // Kept in order, so that the nearest is on top.
                std::size_t at = waiting++;
                for (; at > before && stack[at - 1].square < apart[child]; --at)
                    stack[at] = stack[at - 1];
                stack[at] = {node.first[child], apart[child]};
                continue;
            }
            for (std::uint32_t at = node.first[child]; at < node.first[child] + node.count[child]; ++at) {
                const double other = square_to(segments_[at], point);
                if (!(other < square)) continue;
                square = other;
                best = at;
            }
        }
    }
    const Segment& found = segments_[best];
    const double share = std::clamp(dot(point - found.from, found.along) * found.inverse, 0.0, 1.0);
    return {std::sqrt(square), found.from + found.along * share, found.along, found.number};
}

}  // namespace plume
