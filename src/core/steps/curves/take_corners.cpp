#include <algorithm>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

// An open curve's ends are among its corners.
PointRow corners_with_ends(const SplineCurve& curve, double angle) {
    PointRow row;
    const auto add = [&](Vec3 place, double turn) {
        row.points.push_back(place);
        row.numbers.push_back(turn);
    };
    if (!curve.closed()) add(evaluate(curve, curve.basis().start()).position, 0);
    for (const CurveCorner& corner : corners_of(curve, angle))
        add(corner.place, corner.turn_rad);
    if (!curve.closed()) add(evaluate(curve, curve.basis().end()).position, 0);
    return row;
}

Result<Value> make(const Inputs& in, const Run& run) {
    std::vector<PointRow> rows;
    std::size_t most = 0, smooth = 0;
    bool closed = true;
    for (const SplineCurve& curve : in.held<CurveSet>("curve").curves) {
        if (run.cancelled()) return cancelled_error();
        rows.push_back(corners_with_ends(curve, in.number("angle")));
        most = std::max(most, rows.back().points.size());
        smooth += rows.back().points.empty() ? 1 : 0;
        closed = closed && curve.closed();
    }
    if (most == 0)
        return about_slot(Error{ErrorCode::too_few_points, "", "has no corner as sharp as that",
                                "Type a smaller angle, or place points along it."},
                          "curve");
    if (smooth > 0)
        run.remark_loss(std::to_string(smooth) +
                        (smooth == 1 ? " curve has no corner." : " curves have no corner."));
    return rows_of_points(rows, "turn", an_angle, closed && most > 2);
}

}  // namespace

StepKind take_corners() {
    SlotSpec angle = angle_slot("angle", "Angle", "10°");
    angle.least = 0;
    return {
        .key = "points.corners",
        .verb = "Take the corners of a curve",
        .synonyms = "vertices kinks discontinuities outline corner points",
        .sentence = "Take the corners of {curve}, where it turns by more than {angle}.",
        .slots = {curves_slot(), angle},
        .results = {Kind::points},
        .result_name = "corners",
        .help =
            "A row of points for each curve, with the field turn: by how much it turns there. An open "
            "curve's ends "
            "are among them. Move them by numbers of their own and join them again.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 200, 1e-5); },
        .make = make,
    };
}

}  // namespace plume
