#include "core/geometry/curves/curve_corners.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    std::size_t rounded = 0, left = 0;
    Result<Value> made = each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        const RoundedCurve result = with_round_corners(curve, in.number("radius"), in.number("angle"));
        rounded += result.rounded;
        left += result.left;
        return result.curve;
    });
    if (!made) return made;
    const auto corners = [](std::size_t count) {
        return count == 1 ? std::string("One corner") : std::to_string(count) + " corners";
    };
    if (rounded + left == 0) run.remark("There is no corner as sharp as that.");
    if (left > 0)
        run.remark(corners(left) + (left == 1 ? " has" : " have") +
                   " no room for the radius, or sides that lie in no plane, and stay.");
    return made;
}

}  // namespace

StepKind round_corners() {
    SlotSpec angle = angle_slot("angle", "Angle", "10°");
    angle.least = 0;
    return {
        .key = "curve.round",
        .verb = "Round the corners of a curve",
        .synonyms = "fillet radius arc corner edge soften",
        .sentence =
            "Round the corners of {curve} by a radius of {radius}, where it turns by more than {angle}.",
        .slots = {curves_slot(), length_above_zero_slot("radius", "Radius", "1 m"), angle},
        .results = {Kind::curves},
        .result_name = "rounded",
        .help =
            "Exact arcs that touch both sides of a corner. Corners whose sides are too short for the arc "
            "stay, and "
            "are counted.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 900, 1e-4); },
        .make = make,
    };
}

}  // namespace plume
