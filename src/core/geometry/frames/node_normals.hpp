#pragma once
// What stands round the nodes of a frame: its members, and the normal of the surface they follow.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Half-members: 2 m runs from its start, 2 m + 1 from its end. Those of a node side by side.
struct Spokes {
    std::vector<std::uint32_t> first, half;  // half[first[n]] .. half[first[n + 1] - 1] begin at n
};
Spokes spokes_of(const BarFrame& frame);

std::uint32_t origin_of(const BarFrame& frame, std::uint32_t half);
std::uint32_t goal_of(const BarFrame& frame, std::uint32_t half);
Vec3 way_of(const BarFrame& frame, std::uint32_t half);  // unit
// Radians, 0 to pi.
double angle_between(const BarFrame& frame, std::uint32_t half, std::uint32_t other);
// Between every two members at a node, the smallest first.
std::vector<double> angles_at(const BarFrame& frame, const Spokes& spokes, std::size_t node);

// One an address, unit; zero at gaps. Of the plane that the members at a node, and those of its neighbours,
// lie nearest to; turned so that neighbours agree, from the highest node of each piece on, whose normal looks
// up. Error: cancelled. O(members x valence).
Result<std::vector<Vec3>> node_normals(const BarFrame& frame, const Run& run);

}  // namespace plume
