#pragma once
// Paths of a milling cutter over a form: roughing level by level, finishing along parallels, along contours
// or in a spiral. Three axes; millimetres; the board's top lies at 0, its lower left corner at the origin.

#include <numbers>
#include <optional>

#include "core/base/run.hpp"
#include "core/milling/tip_heights.hpp"
#include "core/milling/tool_path.hpp"

namespace plume {

enum class MillingWay { parallel, contours, spiral };

struct Roughing {
    Cutter cutter;
    double apart = 0;      // above 0
    double step_down = 0;  // above 0
    double allowance = 0;  // left on the form, upwards; from 0
};

struct MillingJob {
    const Mesh* form = nullptr;    // at or below 0
    const Mesh* clamps = nullptr;  // kept clear of, sideways and above
    double clearance = 2;          // from clamps
    Cutter cutter;
    MillingWay way = MillingWay::parallel;
    double angle_rad = 0;  // of parallels, from X on
    double apart = 1;      // of neighbouring paths, of contours in height; above 0
    std::optional<Roughing> roughing = {};
    double feed = 1000, plunge_feed = 300;  // mm a minute
    double safe = 5;                        // above 0: where moves between cuts run
    double within = 0.01;                   // of the exact way; above 0
};

struct MilledPaths {
    std::vector<Cutter> cutters;  // in the order they are used
    ToolPath path;
    double cut_length_roughing = 0;
};

// Errors: over_budget for more than five million moves, or more looks than can be kept; out_of_range where
// clamps reach the safe height (slot "safe"); empty_input where the cutter reaches nothing; cancelled.
Result<MilledPaths> milling_paths(const MillingJob& job, const Run& run);

// Runs of straight cuts that lie on circles, in one of the three planes of axes, as arcs. O(moves).
ToolPath with_arcs(const ToolPath& path, double within);

}  // namespace plume
