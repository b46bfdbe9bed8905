#include "core/growth/goal_tree.hpp"

namespace plume {

GoalTree::GoalTree(const std::vector<Vec3>& goals) {
    for (const Vec3 place : goals)
        goals_.push_back({place, static_cast<std::uint32_t>(goals_.size())});
    if (!goals_.empty()) build(0, 0, goals_.size());
}

void GoalTree::build(std::size_t node, std::size_t begin, std::size_t end) {
    if (boxes_.size() <= node) boxes_.resize(node + 1);
    Box box;
    for (std::size_t at = begin; at < end; ++at)
        box.include(goals_[at].place);
    boxes_[node].box = box;
    if (end - begin <= leaf_size) return;
    const Vec3 size = box.size();
    const auto longest = size.x >= size.y && size.x >= size.z ? &Vec3::x
                         : size.y >= size.z                   ? &Vec3::y
                                                              : &Vec3::z;
    const std::size_t middle = begin + (end - begin) / 2;
    const auto place = [&](std::size_t at) { return goals_.begin() + static_cast<std::ptrdiff_t>(at); };
    // Of equal places the number decides, so that the order is the same everywhere.
    std::nth_element(place(begin), place(middle), place(end), [&](const Goal& a, const Goal& b) {
        return a.place.*longest != b.place.*longest ? a.place.*longest < b.place.*longest
                                                    : a.number < b.number;
    });
    build(2 * node + 1, begin, middle);
    build(2 * node + 2, middle, end);
}

double GoalTree::settle(std::size_t node, std::size_t begin, std::size_t end) {
    double furthest = gone;
    if (boxes_[node].furthest < 0) return gone;
    if (end - begin <= leaf_size) {
        for (std::size_t at = begin; at < end; ++at)
            furthest = std::max(furthest, goals_[at].distance);
    } else {
        const std::size_t middle = begin + (end - begin) / 2;
        furthest = std::max(settle(2 * node + 1, begin, middle), settle(2 * node + 2, middle, end));
    }
    return boxes_[node].furthest = furthest;
}

}  // namespace plume
