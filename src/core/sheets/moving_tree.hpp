#pragma once
// Boxes of things on straight ways, in a tree, to find what may come near what. What goes the same way as a
// thing is as near to it as if both stood still.
//
// The tree is built once and fitted to where things are (S. Gottschalk, M. Lin, D. Manocha: OBBTree, 1996,
// for the walk; M. Teschner et al.: Collision detection for deformable objects, 2005, for fitting).

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

#include "core/sheets/lanes.hpp"

namespace plume {

// Around a thing where its straight way begins, and where it ends. In single precision, four lanes at once,
// the last one idle: whoever asks adds rounding_of() to the reach, and gives places from a middle of theirs.
class MovingBox {
public:
    void include(Vec3 from, Vec3 to) {
        const Four begin = Lanes(from).of, end = Lanes(to).of;
        include({begin, begin}, {end, end});
    }
    void include(const MovingBox& other) { include(other.begin_, other.end_); }
    // Whether they may come nearer than `reach` along each axis: what is farther where they begin and where
    // they end, on the same side, is so all the way.
    bool may_meet(const MovingBox& other, float reach) const {
        const Four at_most = {reach, reach, reach, reach};
        const auto above =
            (begin_.low - other.begin_.high > at_most) & (end_.low - other.end_.high > at_most);
        const auto below =
            (other.begin_.low - begin_.high > at_most) & (other.end_.low - end_.high > at_most);
        const auto away = Halves(above | below);
        return (away[0] | away[1]) == 0;
    }
    // By how much what is asked may be wrong.
    double rounding_of() const {
        constexpr double of_size = 1e-6;
        float most = 0;
        for (const Four& side : {begin_.low, begin_.high, end_.low, end_.high})
            for (int lane = 0; lane < 3; ++lane)
                most = std::max(most, std::abs(side[lane]));
        return of_size * static_cast<double>(most);
    }

private:
    using Four = Lanes::Four;
    using Halves [[gnu::vector_size(16)]] = long long;
    static constexpr float far = std::numeric_limits<float>::infinity();
    struct Sides {
        Four low{far, far, far, 0}, high{-far, -far, -far, 0};
    };
    static Four lesser(Four a, Four b) { return a < b ? a : b; }
    static Four greater(Four a, Four b) { return a > b ? a : b; }
    void include(const Sides& begin, const Sides& end) {
        begin_ = {lesser(begin_.low, begin.low), greater(begin_.high, begin.high)};
        end_ = {lesser(end_.low, end.low), greater(end_.high, end.high)};
    }

    Sides begin_, end_;
};

class MovingTree {
public:
    // Things at these places in the order in which they stand together where they are near each other.
    static std::vector<std::uint32_t> order_of(const std::vector<Vec3>& places);

    // Of so many things, in that order.
    explicit MovingTree(std::size_t things = 0);
    // To boxes, one a thing.
    void fit(const std::vector<MovingBox>& boxes);

    std::size_t leaf_count() const { return leaves_; }
    // Of all.
    const MovingBox& box() const { return nodes_[1]; }
    const MovingBox& box_of(std::size_t leaf) const { return nodes_[first_leaf_ + leaf]; }
    // Things of a leaf: from begin to end.
    std::uint32_t begin_of(std::size_t leaf) const { return static_cast<std::uint32_t>(leaf * leaf_size); }
    std::uint32_t end_of(std::size_t leaf) const {
        return static_cast<std::uint32_t>(std::min(things_, (leaf + 1) * leaf_size));
    }
    // Leaves from this one on whose boxes may come nearer than `reach`, in their order.
    template <class Visit>
    void near(const MovingBox& box, float reach, std::size_t from_leaf, const Visit& visit) const {
        if (leaves_ > 0) walk(1, 0, first_leaf_, box, reach, from_leaf, visit);
    }

private:
    static constexpr std::size_t leaf_size = 4;
    template <class Visit>
    void walk(std::size_t node, std::size_t begin, std::size_t count, const MovingBox& box, float reach,
              std::size_t from_leaf, const Visit& visit) const {
        if (begin + count <= from_leaf || begin >= leaves_ || !nodes_[node].may_meet(box, reach)) return;
        if (count == 1) {
            visit(begin);
            return;
        }
        walk(2 * node, begin, count / 2, box, reach, from_leaf, visit);
        walk(2 * node + 1, begin + count / 2, count / 2, box, reach, from_leaf, visit);
    }

    std::size_t things_, leaves_, first_leaf_;  // leaves are the last of the nodes
    std::vector<MovingBox> nodes_;              // the children of n are 2 n and 2 n + 1
};

}  // namespace plume
