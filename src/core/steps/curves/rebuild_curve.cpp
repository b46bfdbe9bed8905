#include <algorithm>

#include "core/steps/curves/curve_support.hpp"
#include "core/steps/curves/line_points.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    double deviation = 0;
    Result<Value> made = each_curve(in, run, [&](const SplineCurve& curve) {
        return evened(curve, {in.word("rule") == "bays", "spacing"}, in, run, deviation);
    });
    if (made) run.remark(deviation_sentence(deviation, in));
    return made;
}

}  // namespace

StepKind rebuild_curve() {
    return {
        .key = "curve.even",
        .verb = "Even out a curve",
        .synonyms = "rebuild equal spacing resample points regular smooth polyline",
        .sentence =
            "Rebuild {curve} from points {rule} [rule=bays|{bays} bays][rule=spacing|{spacing}], as "
            "{shape}[more|, corners above {corner} kept].",
        .slots = {curves_slot(),
                  choice_slot("rule", "Rule",
                              {{"bays", "in", "so many bays of the same length"},
                               {"spacing", "about every", "the nearest length that goes in evenly"}}),
                  bays_slot(), step_slot("spacing"), shape_slot(), corner_slot()},
        .results = {Kind::curves},
        .result_name = "even",
        .help =
            "The curve through points at even lengths along it; a closed one stays closed, and what turns by "
            "more "
            "than an angle stays a corner. How far the two are apart at most is measured and said.",
        .estimate =
            [](const Inputs& in) {
                const Estimate read = poles_estimate(in, 800, 1e-4);
                double points = 0;
                for (const SplineCurve& curve : in.held<CurveSet>("curve").curves)
                    points += in.word("rule") == "bays"
                                  ? in.number("bays")
                                  : std::min(most_bays, polygon_length(curve) / in.number("spacing"));
                return Estimate{read.bytes + points * 600, read.seconds + points * 1e-4};
            },
        .make = make,
    };
}

}  // namespace plume
