#pragma once
// Schedules of frames.

#include "core/data/bar_frame.hpp"
#include "core/results/columns.hpp"

namespace plume {

// A row a member: its mark, length, way, row, ends, numbers, and at each end the angle of its cut: half the
// least angle to another member there, at which two that meet are mitred; square where there is none.
Table members_table(const BarFrame& frame);

// A row a node that a member ends at: its mark, place, numbers, how many members meet, and the angles between
// every two of them, the smallest first. Items are numbered on behind the members.
Table nodes_table(const BarFrame& frame);

}  // namespace plume
