#include <algorithm>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

// A row a curve; shorter ones end in gaps. An open curve's ends are among its corners.
std::vector<CurveCorner> corners_with_ends(const SplineCurve& curve, double angle) {
    std::vector<CurveCorner> corners = corners_of(curve, angle);
    if (curve.closed()) return corners;
    const auto end_at = [&](double t) { return CurveCorner{t, evaluate(curve, t).position, {}, {}, 0}; };
    corners.insert(corners.begin(), end_at(curve.basis().start()));
    corners.push_back(end_at(curve.basis().end()));
    return corners;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveSet& set = in.held<CurveSet>("curve");
    std::vector<std::vector<CurveCorner>> rows;
    std::size_t columns = 0, smooth = 0;
    bool closed = true;
    for (const SplineCurve& curve : set.curves) {
        if (run.cancelled()) return cancelled_error();
        rows.push_back(corners_with_ends(curve, in.number("angle")));
        columns = std::max(columns, rows.back().size());
        smooth += rows.back().empty() ? 1 : 0;
        closed = closed && curve.closed();
    }
    if (columns == 0)
        return about_slot(Error{ErrorCode::too_few_points, "", "has no corner as sharp as that",
                                "Type a smaller angle, or place points along it."},
                          "curve");
    if (smooth > 0)
        run.remark_loss(std::to_string(smooth) +
                        (smooth == 1 ? " curve has no corner." : " curves have no corner."));
    const std::size_t count = columns * rows.size();
    Doubles x(count), y(count), z(count), turns(count);
    PointLattice::Parts parts;
    parts.present.assign(count, 0);
    for (std::size_t row = 0; row < rows.size(); ++row)
        for (std::size_t at = 0; at < columns; ++at) {
            const std::size_t index = at + columns * row;
            const bool there = at < rows[row].size();
            const CurveCorner corner = there ? rows[row][at] : CurveCorner{};
            x[index] = corner.place.x;
            y[index] = corner.place.y;
            z[index] = corner.place.z;
            turns[index] = corner.turn_rad;
            parts.present[index] = there ? 1 : 0;
        }
    const bool even = std::ranges::all_of(parts.present, [](std::uint8_t there) { return there != 0; });
    parts.arrangement = rows.size() == 1 ? Arrangement::row : Arrangement::grid;
    parts.counts = {columns, rows.size(), 1};
    parts.closed = {closed && even && columns > 2, false, false};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.fields.push_back({"turn", std::move(turns), an_angle});
    return as_value(PointLattice::make(std::move(parts)));
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
