#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {

StepKind soften_curve() {
    SlotSpec times = count_slot("times", "Times", "4", 0);
    times.most = 100'000;
    SlotSpec strength = number_slot("strength", "Strength", "0.5");
    strength.least = 0;
    strength.most = 1;
    return {
        .key = "curve.soften",
        .verb = "Soften a curve",
        .synonyms = "smooth relax calm fair average poles",
        .sentence = "Soften {curve} {times} times with a strength of {strength}.",
        .slots = {curves_slot(), times, strength},
        .results = {Kind::curves},
        .result_name = "soft",
        .help =
            "Each pole moves towards the middle of its neighbours; the ends of an open curve stay. Small "
            "waves go "
            "first.",
        .estimate =
            [](const Inputs& in) {
                const double poles = pole_count(in.held<CurveSet>("curve"));
                return Estimate{poles * 16, poles * in.number("times") * 2e-9};
            },
        .make =
            [](const Inputs& in, const Run& run) {
                return each_curve(in, run, [&](const SplineCurve& curve) {
                    return softened(curve, in.number("strength"), in.count("times"), run);
                });
            },
    };
}

}  // namespace plume
