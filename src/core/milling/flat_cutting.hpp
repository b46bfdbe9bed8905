#pragma once
// Paths of a beam or a cutter along what is cut flat: what is marked first, then what lies within before what
// is around it, from place to place by the nearest next one. Outlines of parts are followed clockwise outside
// of them, openings anticlockwise within, by half of what a cut takes away. Millimetres and minutes.

#include <span>

#include "core/milling/flat_sheets.hpp"
#include "core/milling/tool_path.hpp"

namespace plume {

struct FlatTool {
    bool beam = true;
    double kerf = 0;                       // what a cut takes away, from 0; of a cutter its diameter
    double lead_in = 0;                    // a cut begins so far beside its line, in what falls off; from 0
    double feed = 1000, mark_feed = 1000;  // mm a minute
    // Of a beam: seconds before it moves on, and what the file says of its strength.
    double pierce_s = 0, power = 0, mark_power = 0;
    // Of a cutter: how deep cuts go in all, by how much each time, and marks; below 0 is the sheet.
    double depth = 0, step_down = 1, mark_depth = 0, plunge_feed = 300, safe = 5;
};

struct FlatCuts {
    ToolPath path;  // by arcs where they fit
    // Openings that a cut does not fit into, which are left out, and where the first of them is.
    std::size_t too_narrow = 0;
    FlatPoint first_too_narrow;
    std::size_t begun_on_line = 0;  // cuts without room for leading in
};

// Errors: over_budget for more than five million moves; empty_input where nothing is left to be cut;
// cancelled. O(n log n).
Result<FlatCuts> flat_cuts(std::span<const FlatSheet> sheets, const FlatTool& tool, const Run& run);

}  // namespace plume
