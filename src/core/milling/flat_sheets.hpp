#pragma once
// What is cut flat: sheets, the closed lines that bound parts and their openings, open cuts, and marks.
// Millimetres; each sheet's lower left corner is its origin.

#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/geometry/curves/outline.hpp"

namespace plume {

struct FlatLine {
    std::vector<FlatPoint> places;  // of a closed one the first is not repeated
    bool closed = false;
};

struct FlatLines {
    std::vector<FlatLine> rims, cuts, marks;  // of sheets; what goes through; what is only drawn
};

struct CutRing {
    Outline outline;
    std::size_t depth = 0;                   // how many others are around it
    std::optional<std::size_t> within = {};  // the smallest of them

    // Where what is inside falls out of what is around.
    bool is_hole() const { return depth % 2 == 1; }
};

// Where a cut of a width runs that takes nothing of what is kept and leaves nothing of the rest: beside the
// ring by half of it. None where it does not fit in.
std::vector<std::vector<FlatPoint>> loops_beside(const CutRing& ring, double kerf);

struct OpenCut {
    std::vector<FlatPoint> places;
    std::optional<std::size_t> within = {};  // the smallest ring around its beginning
};

struct FlatSheet {
    double width = 0, depth = 0;
    std::vector<CutRing> rings;
    std::vector<OpenCut> open;
    std::vector<FlatLine> marks;
};

// A sheet for each rim, in their order; without rims one that goes on around everything by `margin`. Errors:
// empty_input for nothing to be cut or marked; unlike_arrangement for a closed line that crosses itself,
// naming where; too_few_points for lines that bound nothing; out_of_range for what lies on no sheet;
// cancelled. O(n log n).
Result<std::vector<FlatSheet>> flat_sheets(FlatLines lines, double margin, const Run& run);

}  // namespace plume
