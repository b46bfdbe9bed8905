#pragma once
// On which lines of parameters a surface is sampled to be drawn.

#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/picture/drawable.hpp"

namespace plume {

struct PatchLines {
    SampleLines u, v;
    int per_bay = 1;        // samples to a bay where it is seen; 1 where there are fewer
    std::size_t every = 1;  // nodes to a sample where it is seen
};

// About `target` samples for a patch with one or more a bay, at most `most` when it has more bays than that.
PatchLines usual_lines(const SplinePatch& patch, std::size_t target, std::size_t most);

// Lines as many in all, close where the view sees the patch and far apart elsewhere; nothing when that is
// hardly closer than the usual ones. What is seen is found on a grid of some hundred lines either way.
std::optional<PatchLines> closer_lines(const SplinePatch& patch, const PatchLines& usual,
                                       const DrawnView& view, std::size_t most, const Run& run);

}  // namespace plume
