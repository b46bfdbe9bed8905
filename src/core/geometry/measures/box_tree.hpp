#pragma once
// A tree of boxes over things in space, for what is nearest and for what a ray meets.
//
// Split in the middle of the longest side (Ericson, Real-Time Collision Detection, 2005, ch. 6), four boxes
// to a node so that they are measured side by side (Dammertz, Hanika, Keller, Shallow bounding volume
// hierarchies, Computer Graphics Forum 27(4), 2008, doi 10.1111/j.1467-8659.2008.01261.x), walked nearer
// boxes first. O(n log n) to build, O(log n) a question where few boxes are near. May be asked by many
// threads.

#include <algorithm>
#include <array>
#include <cstdint>
#include <vector>

#include "core/data/box.hpp"

namespace plume {

class BoxTree {
public:
    // Finite boxes, a box a thing; there may be none.
    explicit BoxTree(const std::vector<Box>& boxes);

    // Numbers of the things in the order of the leaves. Whoever keeps what it measures in this order reads it
    // in one run; places below are places in it.
    const std::vector<std::uint32_t>& order() const { return order_; }

    // Calls measure(place), which gives the square of the distance to the thing and takes note of what is
    // nearer than `square`, for every thing whose box is.
    template <class Measure>
    void nearest(Vec3 point, double square, const Measure& measure) const;

    // Calls meets(place) for things whose boxes the ray meets between `beyond` and `until` times the
    // direction, which need not be unit; what it gives is where the ray ends from then on.
    template <class Meets>
    void along(Vec3 from, Vec3 direction, double beyond, double until, const Meets& meets) const;

    // Calls touches(place) for things whose boxes touch a box, until it says false.
    template <class Touches>
    void within(const Box& box, const Touches& touches) const;

private:
    static constexpr std::size_t width = 4;
    // Four boxes: axis by axis, so that one instruction serves several. Behind a box is a node, or with a
    // count above 0 the things of a leaf. An empty box lies infinitely far away.
    struct Node {
        double low[3][width], high[3][width];
        std::uint32_t first[width]{}, count[width]{};
    };
    struct Item {
        Box box;
        std::uint32_t number = 0;
    };
    struct Span {
        std::uint32_t first, count;
    };
    struct Waiting {
        std::uint32_t node;
        double near;  // its square of the distance, or where the ray enters it
    };
    // Three a level, twenty levels at most.
    static constexpr std::size_t most_waiting = 96;

    static std::array<Span, 2> halves(std::vector<Item>& items, Span span);
    void build(std::vector<Item>& items, std::uint32_t node, Span span);

    // The walk that both questions take: enters(node, child) tells how near a child is, at_leaf(place) looks
    // at a thing, `limit` is what has to be nearer than.
    template <class Enters, class AtLeaf>
    void walk(const double& limit, const Enters& enters, const AtLeaf& at_leaf) const;

    std::vector<Node> nodes_;
    std::vector<std::uint32_t> order_;
};

template <class Enters, class AtLeaf>
void BoxTree::walk(const double& limit, const Enters& enters, const AtLeaf& at_leaf) const {
    if (order_.empty()) return;
    std::array<Waiting, most_waiting> stack;  // NOLINT: written before it is read
    std::size_t waiting = 0;
    stack[waiting++] = {0, -Box::infinite};
    while (waiting > 0) {
        const Waiting here = stack[--waiting];
        if (here.near >= limit) continue;
        const Node& node = nodes_[here.node];
        double near[width];
        enters(node.low, node.high, near);
        const std::size_t before = waiting;
        for (std::size_t child = 0; child < width; ++child) {
            if (!(near[child] < limit)) continue;
            if (node.count[child] == 0) {
                // Kept in order, so that the nearest is on top.
                std::size_t at = waiting++;
                for (; at > before && stack[at - 1].near < near[child]; --at)
                    stack[at] = stack[at - 1];
                stack[at] = {node.first[child], near[child]};
                continue;
            }
            for (std::uint32_t at = node.first[child]; at < node.first[child] + node.count[child]; ++at)
                at_leaf(at);
        }
    }
}

template <class Measure>
void BoxTree::nearest(Vec3 point, double square, const Measure& measure) const {
    const double p[3] = {point.x, point.y, point.z};
    walk(
        square,
        [&](const double(&low)[3][width], const double(&high)[3][width], double(&near)[width]) {
            for (double& apart : near)
                apart = 0;
            for (std::size_t axis = 0; axis < 3; ++axis)
                for (std::size_t child = 0; child < width; ++child) {
                    const double below = low[axis][child] - p[axis], above = p[axis] - high[axis][child];
                    double out = below > above ? below : above;
                    out = out > 0 ? out : 0;
                    near[child] += out * out;
                }
        },
        [&](std::uint32_t place) { square = std::min(square, measure(place)); });
}

template <class Meets>
void BoxTree::along(Vec3 from, Vec3 direction, double beyond, double until, const Meets& meets) const {
    const double p[3] = {from.x, from.y, from.z};
    // A direction square to an axis meets slabs of it everywhere or nowhere: infinities say so.
    const double by[3] = {1 / direction.x, 1 / direction.y, 1 / direction.z};
    walk(
        until,
        [&](const double(&low)[3][width], const double(&high)[3][width], double(&near)[width]) {
            double leave[width];
            for (std::size_t child = 0; child < width; ++child) {
                near[child] = beyond;
                leave[child] = until;
            }
            for (std::size_t axis = 0; axis < 3; ++axis)
                for (std::size_t child = 0; child < width; ++child) {
                    const double a = (low[axis][child] - p[axis]) * by[axis],
                                 b = (high[axis][child] - p[axis]) * by[axis];
                    // Nothing times infinite is not a number: a ray along a side of the box, which is inside.
                    const bool along_side = a != a || b != b;  // NOLINT: quicker than isnan here
                    const double in = along_side ? -Box::infinite : a < b ? a : b;
                    const double out = along_side ? Box::infinite : a < b ? b : a;
                    near[child] = in > near[child] ? in : near[child];
                    leave[child] = out < leave[child] ? out : leave[child];
                }
            for (std::size_t child = 0; child < width; ++child)
                if (!(near[child] <=
                      leave[child] + 1e-12 * (leave[child] < 0 ? -leave[child] : leave[child])))
                    near[child] = Box::infinite;
        },
        [&](std::uint32_t place) { until = meets(place); });
}

template <class Touches>
void BoxTree::within(const Box& box, const Touches& touches) const {
    const double lowest[3] = {box.low.x, box.low.y, box.low.z},
                 highest[3] = {box.high.x, box.high.y, box.high.z};
    double limit = 1;
    walk(
        limit,
        [&](const double(&low)[3][width], const double(&high)[3][width], double(&near)[width]) {
            for (double& apart : near)
                apart = 0;
            for (std::size_t axis = 0; axis < 3; ++axis)
                for (std::size_t child = 0; child < width; ++child)
                    if (low[axis][child] > highest[axis] || high[axis][child] < lowest[axis])
                        near[child] = Box::infinite;
        },
        [&](std::uint32_t place) {
            if (limit > 0 && !touches(place)) limit = -Box::infinite;
        });
}

}  // namespace plume
