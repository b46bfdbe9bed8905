#pragma once
// The arcs of a level put end to end: a line as it runs over the parameters, bay by bay.

#include <vector>

#include "core/geometry/levels/level_arcs.hpp"

namespace plume {

// A stretch of a line within one bay.
struct Stretch {
    LevelPlace from, to;
};
// Each stretch begins where the one before ends, or across the seam of a closed direction.
struct ArcChain {
    std::vector<Stretch> stretches;
    bool closed = false;
};

// Open ones first. Ends are at one place where they are no further apart than 1e-9 of the domain; the end of
// a closed direction is its start. O(arcs).
std::vector<ArcChain> arcs_end_to_end(const SplinePatch& patch, const std::vector<LevelArc>& arcs);

}  // namespace plume
