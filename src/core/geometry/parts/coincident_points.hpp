#pragma once
// Points that lie within a tolerance of an earlier one.

#include <span>
#include <vector>

#include "core/data/vec3.hpp"

namespace plume {

// For each point, the first one (in order) that lies within the tolerance and is itself such a first: itself
// when there is none before it. The points have to be finite. O(n log n) whatever the tolerance: only firsts
// are asked what lies near them, and few of them find room near one point.
std::vector<std::size_t> first_within(std::span<const Vec3> points, double tolerance_abs);

}  // namespace plume
