#pragma once
// Boxes of things on straight ways, in a tree, to find what may come near what. What goes the same way as a
// thing is as near to it as if both stood still.
//
// The tree is built once and fitted to where things are (S. Gottschalk, M. Lin, D. Manocha: OBBTree, 1996,
// for the walk; M. Teschner et al.: Collision detection for deformable objects, 2005, for fitting).

#include <algorithm>
#include <array>
#include <cstdint>
#include <limits>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// Where a thing is, and where its ways lead from there.
class MovingBox {
public:
    void include(Vec3 at, Vec3 way) {
        include_along(0, at.x, way.x);
        include_along(1, at.y, way.y);
        include_along(2, at.z, way.z);
    }
    void include(const MovingBox& other) {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low_[axis] = std::min(low_[axis], other.low_[axis]);
            high_[axis] = std::max(high_[axis], other.high_[axis]);
            least_[axis] = std::min(least_[axis], other.least_[axis]);
            most_[axis] = std::max(most_[axis], other.most_[axis]);
        }
    }
    // Whether they may come nearer than `reach` along each axis.
    bool may_meet(const MovingBox& other, double reach) const {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double nearest =
                low_[axis] - other.high_[axis] + std::min(0.0, least_[axis] - other.most_[axis]);
            const double farthest =
                high_[axis] - other.low_[axis] + std::max(0.0, most_[axis] - other.least_[axis]);
            if (nearest > reach || farthest < -reach) return false;
        }
        return true;
    }

private:
    static constexpr double far = std::numeric_limits<double>::infinity();
    void include_along(std::size_t axis, double at, double way) {
        low_[axis] = std::min(low_[axis], at);
        high_[axis] = std::max(high_[axis], at);
        least_[axis] = std::min(least_[axis], way);
        most_[axis] = std::max(most_[axis], way);
    }
    std::array<double, 3> low_{far, far, far}, high_{-far, -far, -far};
    std::array<double, 3> least_{far, far, far}, most_{-far, -far, -far};
};

class MovingTree {
public:
    // Of things at these places, which stand together where they are near each other.
    void build(const std::vector<Vec3>& places);
    // To boxes, one a thing.
    void fit(const std::vector<MovingBox>& boxes);

    std::size_t leaf_count() const { return leaves_; }
    const MovingBox& box_of(std::size_t leaf) const { return nodes_[first_leaf_ + leaf]; }
    // Things of a leaf: from begin to end.
    const std::uint32_t* begin_of(std::size_t leaf) const { return order_.data() + leaf * leaf_size; }
    const std::uint32_t* end_of(std::size_t leaf) const {
        return order_.data() + std::min(order_.size(), (leaf + 1) * leaf_size);
    }
    // Leaves from this one on whose boxes may come nearer than `reach`, in their order.
    template <class Visit>
    void near(const MovingBox& box, double reach, std::size_t from_leaf, const Visit& visit) const {
        if (leaves_ > 0) walk(1, 0, first_leaf_, box, reach, from_leaf, visit);
    }

private:
    static constexpr std::size_t leaf_size = 4;
    template <class Visit>
    void walk(std::size_t node, std::size_t begin, std::size_t count, const MovingBox& box, double reach,
              std::size_t from_leaf, const Visit& visit) const {
        if (begin + count <= from_leaf || begin >= leaves_ || !nodes_[node].may_meet(box, reach)) return;
        if (count == 1) {
            visit(begin);
            return;
        }
        walk(2 * node, begin, count / 2, box, reach, from_leaf, visit);
        walk(2 * node + 1, begin + count / 2, count / 2, box, reach, from_leaf, visit);
    }

    std::vector<std::uint32_t> order_;
    std::size_t leaves_ = 0, first_leaf_ = 1;  // leaves are the last of the nodes
    std::vector<MovingBox> nodes_;             // the children of n are 2 n and 2 n + 1
};

}  // namespace plume
