#include <algorithm>

#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    double deviation = 0;
    std::size_t before = 0, behind = 0;
    Result<Value> made = each_curve(in, run, [&](const SplineCurve& curve) -> Result<SplineCurve> {
        const auto simpler = simplified(curve, in.number("tolerance"), run);
        if (!simpler) return simpler.error();
        deviation = std::max(deviation, simpler->deviation);
        before += curve.x().size();
        behind += simpler->curve.x().size();
        return simpler->curve;
    });
    if (made)
        run.remark(std::to_string(behind) + " poles instead of " + std::to_string(before) + ". " +
                   deviation_sentence(deviation, in));
    return made;
}

}  // namespace

StepKind simplify_curve() {
    return {
        .key = "curve.simplify",
        .verb = "Simplify a curve",
        .synonyms = "reduce fewer points tolerance generalise thin polyline",
        .sentence = "Simplify {curve} to within {tolerance}.",
        .slots = {curves_slot(), length_above_zero_slot("tolerance", "Tolerance", "10 mm")},
        .results = {Kind::curves},
        .result_name = "simpler",
        .help =
            "As few points as keep the curve within a tolerance. Polylines stay polylines, corners stay "
            "corners.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 12, 2e-5); },
        .make = make,
    };
}

}  // namespace plume
