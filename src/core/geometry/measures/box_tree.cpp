#include "core/geometry/measures/box_tree.hpp"

#include <cmath>

namespace plume {
namespace {

constexpr std::uint32_t leaf_size = 4;

std::array<double, 3> parts(Vec3 v) {
    return {v.x, v.y, v.z};
}

}  // namespace

BoxTree::BoxTree(const std::vector<Box>& boxes) {
    std::vector<Item> items;
    items.reserve(boxes.size());
    for (const Box& box : boxes)
        items.push_back({box, static_cast<std::uint32_t>(items.size())});
    if (items.empty()) return;
    nodes_.reserve(items.size() / 3 + 1);
    nodes_.emplace_back();
    build(items, 0, {0, static_cast<std::uint32_t>(items.size())});
    order_.reserve(items.size());
    for (const Item& item : items)
        order_.push_back(item.number);
}

// Sorts a span about its middle along its longest side.
std::array<BoxTree::Span, 2> BoxTree::halves(std::vector<Item>& items, Span span) {
    Box box;
    for (std::uint32_t at = span.first; at < span.first + span.count; ++at)
        box.include(items[at].box.centre());
    const std::array<double, 3> size = parts(box.size());
    const auto axis = static_cast<std::size_t>(std::ranges::max_element(size) - size.begin());
    const std::uint32_t half = span.count / 2;
    const auto begin = items.begin() + span.first;
    std::nth_element(begin, begin + half, begin + span.count, [&](const Item& a, const Item& b) {
        return parts(a.box.low)[axis] + parts(a.box.high)[axis] <
               parts(b.box.low)[axis] + parts(b.box.high)[axis];
    });
    return {Span{span.first, half}, Span{span.first + half, span.count - half}};
}

void BoxTree::build(std::vector<Item>& items, std::uint32_t number, Span span) {
    std::array<Span, width> children{span, Span{0, 0}, Span{0, 0}, Span{0, 0}};
    if (span.count > leaf_size) {
        const auto [low, high] = halves(items, span);
        children = {low, Span{0, 0}, high, Span{0, 0}};
        for (const std::size_t pair : {0UL, 2UL}) {
            if (children[pair].count <= leaf_size) continue;
            const auto [first, second] = halves(items, children[pair]);
            children[pair] = first;
            children[pair + 1] = second;
        }
    }
    Node node;
    for (std::size_t child = 0; child < width; ++child) {
        Box box;
        for (std::uint32_t at = children[child].first; at < children[child].first + children[child].count;
             ++at)
            box.include(items[at].box);
        const std::array<double, 3> low = parts(box.low), high = parts(box.high);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            // Corners that are reckoned from an end and a direction round: a hair of slack keeps them inside.
            const double slack = box.empty() ? 0 : 1e-15 * (std::abs(low[axis]) + std::abs(high[axis]));
            node.low[axis][child] = low[axis] - slack;
            node.high[axis][child] = box.empty() ? Box::infinite : high[axis] + slack;
        }
        node.first[child] = children[child].first;
        node.count[child] = children[child].count <= leaf_size ? children[child].count : 0;
    }
    nodes_[number] = node;
    for (std::size_t child = 0; child < width; ++child) {
        if (children[child].count <= leaf_size) continue;
        const auto below = static_cast<std::uint32_t>(nodes_.size());
        nodes_[number].first[child] = below;
        nodes_.emplace_back();
        build(items, below, children[child]);
    }
}

}  // namespace plume
