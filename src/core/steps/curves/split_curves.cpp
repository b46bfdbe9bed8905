#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/steps/curves/curve_support.hpp"
#include "core/steps/points/typed_shares.hpp"

namespace plume {
namespace {

Result<std::vector<double>> at_shares(const SplineCurve& curve, const Inputs& in) {
    const auto shares = typed_shares(in.word("shares"));
    if (!shares) return shares.error();
    const CurveLength measure(curve);
    std::vector<double> parameters;
    for (const double share : *shares)
        parameters.push_back(measure.parameter_at(share * measure.total()));
    return parameters;
}

std::vector<double> at_planes(const SplineCurve& curve, const Inputs& in) {
    std::vector<double> parameters;
    for (const Placement& plane : in.held<Placements>("plane").present_placements()) {
        const std::vector<double> found = crossings_with_plane(curve, plane);
        parameters.insert(parameters.end(), found.begin(), found.end());
    }
    return parameters;
}

Result<std::vector<double>> cuts_of(const SplineCurve& curve, const Inputs& in, const Run& run) {
    const std::string& rule = in.word("rule");
    if (rule == "curves") return crossings_with_cutter(curve, in, run);
    if (rule == "planes") return at_planes(curve, in);
    return at_shares(curve, in);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveSet& set = in.held<CurveSet>("curve");
    CurveSet pieces;
    for (std::size_t index = 0; index < set.curves.size(); ++index) {
        if (run.cancelled()) return cancelled_error();
        run.report(static_cast<double>(index) / static_cast<double>(set.curves.size()));
        const auto cuts = cuts_of(set.curves[index], in, run);
        if (!cuts) return at_curve(cuts.error(), set, index);
        for (SplineCurve& piece : split_at(set.curves[index], *cuts))
            pieces.curves.push_back(std::move(piece));
    }
    if (pieces.curves.size() == set.curves.size()) run.remark("Nothing is cut there.");
    return Value(std::move(pieces));
}

}  // namespace

StepKind split_curves() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "curve.split",
        .verb = "Split a curve",
        .synonyms = "cut divide break crossing intersection plane pieces",
        .sentence =
            "Split {curve} {rule} [rule=shares|{shares}][rule=curves|{cutter} crosses it within {tolerance}]"
            "[rule=planes|{plane}].",
        .slots = {curves_slot(),
                  choice_slot("rule", "Rule",
                              {{"shares", "at the shares", "0 is the start, 1 the end of its length"},
                               {"curves", "where", "at the places where other curves cross it, or surfaces"},
                               {"planes", "at the planes of", "where it crosses the planes of placements"}}),
                  text_slot("shares", "Shares", "0.5"), cutter_slot(false), tolerance,
                  reference_slot("plane", "Planes", {Kind::placements})},
        .results = {Kind::curves},
        .result_name = "pieces",
        .help =
            "Pieces of a curve in order, each exactly as the curve runs there. A closed curve is opened by "
            "one "
            "cut.",
        .estimate =
            [](const Inputs& in) {
                Estimate estimate = poles_estimate(in, 12, 2e-6);
                if (in.word("rule") == "curves") estimate.seconds *= 1 + cutter_poles(in);
                return estimate;
            },
        .make = make,
    };
}

}  // namespace plume
