#include "core/geometry/curves/curve_chains.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    for (const char* slot : {"curve", "last"})
        if (const std::size_t count = in.held<CurveSet>(slot).curves.size(); count != 1)
            return about_slot(
                Error{ErrorCode::wrong_kind, "",
                      count == 0 ? "holds no curve" : "holds " + std::to_string(count) + " curves",
                      "Choose a result with one."},
                slot);
    const auto set = blended(in.held<CurveSet>("curve").curves.front(),
                             in.held<CurveSet>("last").curves.front(), in.count("between"), run);
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
