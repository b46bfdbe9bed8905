#pragma once
// Members between points that lie near each other, in no arrangement.

#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Pairs of points by number, the lower first, in order, each once. The points have to be finite.
using Pairs = std::vector<std::pair<std::uint32_t, std::uint32_t>>;

std::pair<std::uint32_t, std::uint32_t> ordered(std::uint32_t a, std::uint32_t b);
// Puts pairs that are ordered each in order, and drops those that come again.
void each_once(Pairs& pairs);

// Each point with so many nearest others; of several that are equally far, to 1e-9, those with the lowest
// numbers. O(n (count + log n)). Error: cancelled.
Result<Pairs> nearest_pairs(std::span<const Vec3> points, std::size_t count, const Run& run);
// All that lie no further apart than `reach`.
Result<Pairs> pairs_within(std::span<const Vec3> points, double reach, const Run& run);
// About how many pairs there are within a reach, from what a few points see. O(points).
double expected_pairs_within(std::span<const Vec3> points, double reach);
// The tree of least total length: from Kruskal's rule over the edges of the Delaunay tetrahedra (CGAL), among
// which it is. Points at one place count as one, the first. O(n log n) where points are spread in space.
Result<Pairs> shortest_tree(std::span<const Vec3> points, const Run& run);

}  // namespace plume
