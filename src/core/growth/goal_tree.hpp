#pragma once
// Goals, sorted so that a new part of a tree finds those that have no nearer part yet.
//
// A balanced tree of boxes over the goals, cut at the median of their longest side. Every box knows the
// furthest that one of its goals is from the part that is nearest to it: a place whose distance to the box is
// more than that is nearest to none of them. Goals that are reached have a distance below 0 and are passed
// by.

#include <algorithm>
#include <cstdint>
#include <limits>
#include <vector>

#include "core/data/box.hpp"

namespace plume {

class GoalTree {
public:
    // Only what is nearer by more than rounding is: of parts equally near the earlier one stays, in any unit.
    static constexpr double nearer = 1 - 1e-9;
    static constexpr double unseen = std::numeric_limits<double>::infinity(), gone = -1;

    explicit GoalTree(const std::vector<Vec3>& goals);

    // Calls `found` with the number of each goal that is nearer to the place than its nearest part and not
    // beyond reach, and with the distance; what it returns is the goal's distance from now on.
    template <class Found>
    void for_each_nearer(Vec3 place, double reach, Found found) {
        if (!boxes_.empty()) visit(0, 0, goals_.size(), place, reach, found);
    }
    // Brings the boxes up to what was found. O(goals).
    void settle() {
        if (!boxes_.empty()) settle(0, 0, goals_.size());
    }

private:
    static constexpr std::size_t leaf_size = 8;
    struct Node {
        Box box;
        double furthest = unseen;
    };
    struct Goal {
        Vec3 place;
        std::uint32_t number = 0;
        double distance = unseen;
    };
    // A node's goals are [begin, end); its halves are the nodes 2 n + 1 and 2 n + 2.
    void build(std::size_t node, std::size_t begin, std::size_t end);
    double settle(std::size_t node, std::size_t begin, std::size_t end);

    template <class Found>
    void visit(std::size_t node, std::size_t begin, std::size_t end, Vec3 place, double reach, Found& found) {
        const double limit = std::min(reach, boxes_[node].furthest);
        if (limit < 0 || square_to(boxes_[node].box, place) > limit * limit) return;
        if (end - begin <= leaf_size) {
            for (std::size_t at = begin; at < end; ++at) {
                Goal& goal = goals_[at];
                const double distance = length(goal.place - place);
                if (distance < goal.distance * nearer && distance <= reach)
                    goal.distance = found(goal.number, distance);
            }
            return;
        }
        const std::size_t middle = begin + (end - begin) / 2;
        visit(2 * node + 1, begin, middle, place, reach, found);
        visit(2 * node + 2, middle, end, place, reach, found);
    }
    static double square_to(const Box& box, Vec3 place) {
        const auto outside = [](double low, double high, double at) {
            return std::max({low - at, at - high, 0.0});
        };
        const Vec3 off{outside(box.low.x, box.high.x, place.x), outside(box.low.y, box.high.y, place.y),
                       outside(box.low.z, box.high.z, place.z)};
        return dot(off, off);
    }

    std::vector<Goal> goals_;
    std::vector<Node> boxes_;
};

}  // namespace plume
