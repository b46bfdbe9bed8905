#include "core/geometry/curves/curve_division.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<PointRow> crossings_of(const SplineCurve& curve, const Inputs& in, const Run& run) {
    const auto parameters = crossings_with_cutter(curve, in, run);
    if (!parameters) return parameters.error();
    PointRow row;
    const CurveLength measure(curve);
    for (const double at : *parameters) {
        row.points.push_back(evaluate(curve, at).position);
        row.numbers.push_back(measure.total() > 0 ? measure.length_at(at) / measure.total() : 0);
    }
    return row;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveSet& set = in.held<CurveSet>("curve");
    std::vector<PointRow> rows;
    std::size_t without = 0;
    for (std::size_t index = 0; index < set.curves.size(); ++index) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(index) / static_cast<double>(set.curves.size()));
        auto row = crossings_of(set.curves[index], in, run);
        if (!row) return at_curve(row.error(), set, index);
        without += row->points.empty() ? 1 : 0;
        rows.push_back(*std::move(row));
    }
    if (without == rows.size())
        return about_slot(Error{ErrorCode::empty_input, "", "is crossed nowhere",
                                "Move one of the two, or choose a larger tolerance between curves."},
                          "curve");
    if (without > 0)
        run.remark(std::to_string(without) + (without == 1 ? " curve is" : " curves are") +
                   " crossed nowhere.");
    return rows_of_points(rows, "share", plain_number, false);
}

Estimate estimate(const Inputs& in) {
    const Estimate read = poles_estimate(in, 1500, 3e-4);
    const double poles = cutter_poles(in);
    return {read.bytes + poles * 1500, read.seconds * (1 + poles / 100) + poles * 4e-6};
}

}  // namespace

StepKind take_crossings() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "points.crossings",
        .verb = "Take crossings as points",
        .synonyms = "intersection intersect meets pierce through curve surface plane crossing",
        .sentence = "Take the points where {curve} crosses {cutter}, curves within {tolerance}.",
        .slots = {curves_slot(), cutter_slot(true), tolerance},
        .results = {Kind::points},
        .result_name = "crossings",
        .help =
            "A row of points for each curve where it passes through surfaces or the planes of placements, or "
            "comes as near to other curves as the tolerance. The field share tells how far along the curve "
            "they are.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
