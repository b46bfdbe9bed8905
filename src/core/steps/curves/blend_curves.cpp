#include "core/geometry/curves/curve_chains.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto first = only_curve(in, "curve");
    if (!first) return first.error();
    const auto last = only_curve(in, "last");
    if (!last) return last.error();
    const auto set = blended(*first, *last, in.count("between"), run);
    if (!set) return about_slot(set.error(), "last");
    return Value(*set);
}

}  // namespace

StepKind blend_curves() {
    SlotSpec between = count_slot("between", "Curves between", "5", 0);
    between.most = 100'000;
    return {
        .key = "curve.blend",
        .verb = "Blend two curves",
        .synonyms = "morph between interpolate transition sections",
        .sentence = "Blend from {curve} to {last} with {between} curves between.",
        .slots = {curves_slot("curve", "First curve"), curves_slot("last", "Last curve"), between},
        .results = {Kind::curves},
        .result_name = "blend",
        .help =
            "Curves from one to another, both among them. Made with as many poles, they go pole by pole; "
            "else by "
            "equal shares of their lengths.",
        .estimate =
            [](const Inputs& in) {
                const double poles =
                    4 * (pole_count(in.held<CurveSet>("curve")) + pole_count(in.held<CurveSet>("last")));
                const double curves = in.number("between") + 2;
                return Estimate{poles * 4 * curves, poles * (2e-5 + curves * 4e-8)};
            },
        .make = make,
    };
}

}  // namespace plume
