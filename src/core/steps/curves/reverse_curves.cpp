#include "core/geometry/curves/curve_edit.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {

StepKind reverse_curves() {
    return {
        .key = "curve.reverse",
        .verb = "Reverse a curve",
        .synonyms = "flip direction backwards turn round start end",
        .sentence = "Reverse {curve}.",
        .slots = {curves_slot()},
        .results = {Kind::curves},
        .result_name = "reversed",
        .help = "The same curve, run through from its end.",
        .estimate = [](const Inputs& in) { return poles_estimate(in, 12, 1e-7); },
        .make =
            [](const Inputs& in, const Run& run) {
                return each_curve(
                    in, run, [](const SplineCurve& curve) -> Result<SplineCurve> { return reversed(curve); });
            },
    };
}

}  // namespace plume
