#pragma once
// Diagrids: diamonds over a grid of points, so many modules along i and so many along j.
//
// A module is a diamond as wide as it has bays along i and as high as it has bays along j; its corners are
// points of the lattice. Levels are the rows of corners, two a module: those of every other level stand half
// a module further. The last module may be a half one, or be cut where the rows end.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"

namespace plume {

// Rings run along i: none, along the open sides alone, at every module, at every level.
enum class DiagridRings { none, rims, modules, levels };

struct DiagridPattern {
    std::size_t around = 24;
    double up = 8;     // halves end in a half module, other fractions are cut
    double start = 0;  // of the first corner, in modules from the first point
    DiagridRings rings = DiagridRings::none;
};

// Members between points of the lattice, level by level. Open sides along j get members from corner to corner
// with the rims. Errors: wrong_kind, when the lattice is no grid; out_of_range, with the nearest that fit,
// when modules do not come out even on the points: `slot` is "around", "up" or "start"; cancelled.
Result<std::vector<Member>> diagrid_members(const PointLattice& lattice, const DiagridPattern& pattern,
                                            const Run& run);

}  // namespace plume
