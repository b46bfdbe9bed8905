#pragma once
// Frames with some of their members, with members cut into pieces, and what is made of their members.

#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

// The members whose entry is not 0. Error: empty_input when none is left.
Result<BarFrame> kept_members(const BarFrame& frame, const std::vector<std::uint8_t>& mask);

// Each member in so many equal pieces, one entry a member, at least 1. Nodes within a member are marked by
// its mark and their number, "3,2–4,2·1", and numbers on nodes are straight between its ends.
Result<BarFrame> divided_members(const BarFrame& frame, const std::vector<std::size_t>& pieces,
                                 const Run& run);

// Members that pass each other within the tolerance, and meet at no node, get one where they are nearest,
// marked by both, "0,0–1,1×1,0–0,1"; a node that a member passes becomes one of it. `crossings` counts them.
// O(m log m) where few pass near each other. Error: cancelled.
struct SplitFrame {
    BarFrame frame;
    std::size_t crossings = 0;
};
Result<SplitFrame> split_at_crossings(const BarFrame& frame, double tolerance_abs, const Run& run);

// Lines, one a member, with its numbers and its length.
Result<CurveSet> member_lines(const BarFrame& frame, const Run& run);
// One line for all members of one way and row that follow each other, as those along i round a ring; closed
// where they are. Where more than two of them meet, lines end.
Result<CurveSet> member_chains(const BarFrame& frame, const Run& run);

}  // namespace plume
