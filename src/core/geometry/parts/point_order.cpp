#include "core/geometry/parts/point_order.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

#include "core/geometry/parts/subset.hpp"

namespace plume {
namespace {

std::vector<std::size_t> present_addresses(const PointLattice& lattice) {
    std::vector<std::size_t> addresses;
    addresses.reserve(lattice.point_count());
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        if (lattice.present(index)) addresses.push_back(index);
    return addresses;
}

// A k-d tree whose points can be taken out: each node counts what is left below it (Bentley, K-d trees for
// semidynamic point sets, SoCG 1990, doi 10.1145/98524.98564).
class EmptyingTree {
public:
    explicit EmptyingTree(std::vector<Vec3> points) : points_(std::move(points)) {
        order_.resize(points_.size());
        for (std::size_t at = 0; at < order_.size(); ++at)
            order_[at] = at;
        leaf_of_.resize(points_.size());
        nodes_.emplace_back();
        build(0, 0, order_.size(), none);
        taken_.assign(points_.size(), 0);
    }

    void take(std::size_t point) {
        taken_[point] = 1;
        for (std::size_t node = leaf_of_[point]; node != none; node = nodes_[node].parent)
            --nodes_[node].left;
    }

    std::size_t nearest(Vec3 place) const {
        std::size_t best = none;
        double square = std::numeric_limits<double>::infinity();
        search(0, place, best, square);
        return best;
    }
    static constexpr std::size_t none = static_cast<std::size_t>(-1);

private:
    struct Node {
        Vec3 low, high;
        std::size_t first = 0, last = 0, child = none, parent = none, left = 0;
    };
    static double part(Vec3 v, int axis) { return axis == 0 ? v.x : (axis == 1 ? v.y : v.z); }

    void build(std::size_t node, std::size_t first, std::size_t last, std::size_t parent) {
        Node made;
        made.first = first;
        made.last = last;
        made.parent = parent;
        made.left = last - first;
        Box box;
        for (std::size_t at = first; at < last; ++at)
            box.include(points_[order_[at]]);
        made.low = box.low;
        made.high = box.high;
        if (last - first <= 8) {
            for (std::size_t at = first; at < last; ++at)
                leaf_of_[order_[at]] = node;
            nodes_[node] = made;
            return;
        }
        int axis = 0;
        for (int other = 1; other < 3; ++other)
            if (part(made.high, other) - part(made.low, other) > part(made.high, axis) - part(made.low, axis))
                axis = other;
        const std::size_t middle = (first + last) / 2;
        std::nth_element(
            order_.begin() + static_cast<std::ptrdiff_t>(first),
            order_.begin() + static_cast<std::ptrdiff_t>(middle),
            order_.begin() + static_cast<std::ptrdiff_t>(last),
            [&](std::size_t a, std::size_t b) { return part(points_[a], axis) < part(points_[b], axis); });
        made.child = nodes_.size();
        const std::size_t child = made.child;
        nodes_[node] = made;
        nodes_.emplace_back();
        nodes_.emplace_back();
        build(child, first, middle, node);
        build(child + 1, middle, last, node);
    }

    double square_to(const Node& node, Vec3 p) const {
        const Vec3 off{std::max({node.low.x - p.x, p.x - node.high.x, 0.0}),
                       std::max({node.low.y - p.y, p.y - node.high.y, 0.0}),
                       std::max({node.low.z - p.z, p.z - node.high.z, 0.0})};
        return dot(off, off);
    }

    void search(std::size_t number, Vec3 place, std::size_t& best, double& square) const {
        const Node& node = nodes_[number];
        if (node.left == 0 || square_to(node, place) >= square) return;
        if (node.child == none) {
            for (std::size_t at = node.first; at < node.last; ++at) {
                const std::size_t point = order_[at];
                const Vec3 off = points_[point] - place;
                if (taken_[point] != 0 || dot(off, off) >= square) continue;
                square = dot(off, off);
                best = point;
            }
            return;
        }
        const bool first_nearer =
            square_to(nodes_[node.child], place) <= square_to(nodes_[node.child + 1], place);
        search(node.child + (first_nearer ? 0 : 1), place, best, square);
        search(node.child + (first_nearer ? 1 : 0), place, best, square);
    }

    std::vector<Vec3> points_;
    std::vector<std::size_t> order_, leaf_of_;
    std::vector<Node> nodes_;
    std::vector<std::uint8_t> taken_;
};

}  // namespace

std::vector<std::size_t> by_number(const PointLattice& lattice, const Column& numbers) {
    std::vector<std::size_t> order = present_addresses(lattice);
    const auto key = [&](std::size_t index) {
        return std::isfinite(numbers[index]) ? numbers[index] : std::numeric_limits<double>::infinity();
    };
    std::ranges::stable_sort(order, [&](std::size_t a, std::size_t b) { return key(a) < key(b); });
    return order;
}

Result<std::vector<std::size_t>> nearest_walk(const PointLattice& lattice, const Run& run) {
    const auto [points, addresses] = finite_points(lattice);
    std::vector<std::size_t> walk;
    if (points.empty()) return walk;
    EmptyingTree tree(points);
    std::size_t here = 0;
    while (here != EmptyingTree::none) {
        if ((walk.size() & 0xfffU) == 0) {
            if (run.cancelled()) return cancelled_error();
            run.report(static_cast<double>(walk.size()) / static_cast<double>(points.size()));
        }
        walk.push_back(addresses[here]);
        tree.take(here);
        here = tree.nearest(points[here]);
    }
    return walk;
}

PointLattice row_of(const PointLattice& lattice, const std::vector<std::size_t>& order) {
    return rearranged(lattice, {Arrangement::row, {order.size(), 1, 1}, {}}, order);
}

}  // namespace plume
