#pragma once
// A frame from curves: where they cross and end there are nodes.

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

// Members run straight from node to node along each curve, whose number is their row; the corners of
// polylines are nodes as well. Nodes are marked by the number of the curve they were found on first, and
// theirs along it, "3.0". Curves cross where they pass within the tolerance. Crossings are looked for between
// pairs whose boxes meet. Errors: of crossings_with_curve(), naming the curves; empty_input; cancelled.
struct CurveFrame {
    BarFrame frame;
    double beside = 0;         // the farthest that a curve goes beside its members
    std::size_t left_out = 0;  // closed curves with fewer than three nodes
};
Result<CurveFrame> frame_of_curves(const CurveSet& set, double tolerance_abs, const Run& run);

}  // namespace plume
