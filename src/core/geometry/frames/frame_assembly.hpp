#pragma once
// Nodes and members as they come, made a frame.

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Of members between the same nodes the first stays. Where one has no length, nodes at one place (to 1e-9 of
// the size) become one, the first of them, and what joins a node to itself is left out. Both are remarked.
// Errors: empty_input without a member; not_finite and the others of BarFrame::make; cancelled.
// O(nodes + members), and O(nodes log nodes) where nodes become one.
Result<BarFrame> assembled_frame(BarFrame::Parts parts, const Run& run);

// Nodes that lie within the tolerance of an earlier one become that one. What joins nodes that are one now,
// or that others join already, is left out; what became of them is remarked, if anything. Errors: the same.
Result<BarFrame> welded_frame(BarFrame::Parts parts, double tolerance_abs, const Run& run);

}  // namespace plume
