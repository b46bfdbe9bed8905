#pragma once
// Which points are nearest, or near: a k-d tree (nanoflann; Bentley, Multidimensional binary search trees
// used for associative searching, CACM 18, 1975, doi 10.1145/361002.361007). O(n log n) to build, O(log n) a
// question where few points are near. May be asked by many threads at once.

#include <functional>
#include <memory>
#include <span>

#include "core/data/vec3.hpp"

namespace plume {

class PointTree {
public:
    // The points have to be finite and outlive it.
    explicit PointTree(std::span<const Vec3> points);
    ~PointTree();
    PointTree(const PointTree&) = delete;
    PointTree& operator=(const PointTree&) = delete;

    // The square of the distance to the nearest point; infinite when there is none.
    double nearest_square(Vec3 place) const;
    // The numbers of so many nearest points, the nearest first; of all, where there are no more.
    std::vector<std::size_t> nearest_of(Vec3 place, std::size_t count) const;
    // Calls `found` with every point no further than `reach` from the place, in no particular order but
    // always the same, until it says false.
    void for_each_within(Vec3 place, double reach,
                         const std::function<bool(std::size_t index, double distance)>& found) const;

private:
    struct Tree;
    std::unique_ptr<const Tree> tree_;
};

}  // namespace plume
