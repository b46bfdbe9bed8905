#pragma once
// Which points lie near others, by a grid of cubes as wide as the reach: each point looks into 27 of them.
// O(n) while few points share a cube.

#include <cstdint>
#include <functional>
#include <span>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

class NearPoints {
public:
    // The points have to be finite and outlive this; `reach` is above 0.
    NearPoints(std::span<const Vec3> points, double reach);

    // Calls `found` with every point no further than the reach from `place`, in no particular order.
    void for_each_near(Vec3 place,
                       const std::function<void(std::size_t index, double distance)>& found) const;
    // The same until `found` says false.
    void for_each_near_until(Vec3 place,
                             const std::function<bool(std::size_t index, double distance)>& found) const;
    // Whether there is one; looks no further than the first it meets.
    bool any_near(Vec3 place) const;

private:
    template <class Found>
    bool look(Vec3 place, Found found) const;
    std::uint64_t cell_of(Vec3 place, int di, int dj, int dk) const;

    std::span<const Vec3> points_;
    double reach_;
    Vec3 low_;
    std::vector<std::size_t> order_, first_;  // points sorted by hashed cell; where each cell begins
    std::uint64_t mask_ = 0;
};

// For each point, the first one (in order) that lies within the tolerance and is itself such a first: itself
// when there is none before it. O(n) whatever the tolerance: only such firsts are looked among, and few of
// them find room in one cube.
std::vector<std::size_t> first_within(std::span<const Vec3> points, double tolerance_abs);

}  // namespace plume
