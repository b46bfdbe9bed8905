#pragma once
// What a frame comes to: counts, lengths, how many members meet.

#include <array>

#include "core/data/bar_frame.hpp"

namespace plume {

struct FrameFigures {
    std::array<std::size_t, way_count> ways{};  // members that run each way
    double total_length = 0, shortest = 0, longest = 0;
    std::uint32_t least_valence = 0, most_valence = 0;  // members at a node
    std::size_t pieces = 0;                             // that hang together
};
// O(nodes + members).
FrameFigures figures_of(const BarFrame& frame);

}  // namespace plume
