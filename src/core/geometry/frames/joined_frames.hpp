#pragma once
// Several frames as one.

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Nodes become a scatter, marked by the number of their frame and their mark in it, "2:3,2"; nodes at one
// place (to 1e-9 of the size) become one, as where a frame and its mirror image meet. Numbers that all of
// them carry come along. There is at least one frame. Errors: as of assembled_frame().
Result<BarFrame> joined_frames(const std::vector<BarFrame>& frames, const Run& run);

}  // namespace plume
