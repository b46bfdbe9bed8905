#include <algorithm>
#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

constexpr double most_bays = 1e6;

Result<std::size_t> bays_of(const SplineCurve& curve, const Inputs& in) {
    const std::size_t least = curve.closed() ? 3 : 1;
    if (in.word("rule") == "bays") return std::max(in.count("bays"), least);
    const double total = length_of(curve), bays = std::round(total / in.number("spacing"));
    if (bays > most_bays)
        return about_slot(Error{ErrorCode::over_budget, "", "would give more than a million points",
                                "Type a larger spacing."},
                          "spacing");
    return std::max(static_cast<std::size_t>(bays), least);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const CurveShape shape = in.word("shape") == "straight" ? CurveShape::straight : CurveShape::smooth;
    double deviation = 0;
    Result<Value> made = each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        const auto bays = bays_of(curve, in);
        if (!bays) return bays.error();
        const auto rebuilt = rebuilt_evenly(curve, *bays, shape, run);
        if (!rebuilt) return rebuilt.error();
        deviation = std::max(deviation, rebuilt->deviation);
        return rebuilt->curve;
    });
    if (made) run.remark(deviation_sentence(deviation, in));
    return made;
}

}  // namespace

StepKind rebuild_curve() {
    SlotSpec bays = count_slot("bays", "Bays", "24", 1);
    bays.most = most_bays;
    return {
        .key = "curve.even",
        .verb = "Even out a curve",
        .synonyms = "rebuild equal spacing resample points regular smooth polyline",
        .sentence =
            "Rebuild {curve} from points {rule} [rule=bays|{bays} bays][rule=spacing|{spacing}], as {shape}.",
        .slots = {curves_slot(),
                  choice_slot("rule", "Rule",
                              {{"bays", "in", "so many bays of the same length"},
                               {"spacing", "about every", "the nearest length that goes in evenly"}}),
                  bays, length_above_zero_slot("spacing", "Spacing", "1 m"),
                  choice_slot("shape", "Shape",
                              {{"smooth", "a smooth curve", "a cubic spline through the points"},
                               {"straight", "straight lines", "a polyline"}})},
        .results = {Kind::curves},
        .result_name = "even",
        .help =
            "The curve through points at even lengths along it; a closed one stays closed. How far the two "
            "are "
            "apart at most is measured and said.",
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
