#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/frames/curve_frame.hpp"
#include "core/steps/curves/curve_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& set = in.held<CurveSet>("curve");
    auto made = frame_of_curves(set, in.number("tolerance"), run);
    if (!made) return about_slot(made.error(), "curve");
    if (made->beside > 1e-9 * made->frame.nodes().bounds().diagonal())
        run.remark("Members are straight: curves go up to " +
                   quantity_text({made->beside, a_length}, in.units(), 3) +
                   " beside them. Divide them into more for less.");
    if (made->left_out > 0)
        run.remark_loss(count_text(made->left_out, "closed curve", "closed curves") +
                        " with fewer than three nodes left out.");
    return Value(std::move(made->frame));
}

Estimate estimate(const Inputs& in) {
    const double poles = pole_count(in.held<CurveSet>("curve"));
    const auto curves = static_cast<double>(in.held<CurveSet>("curve").curves.size());
    return {poles * 700 + curves * 600, poles * 2e-6 + curves * curves * 2e-6};
}

}  // namespace

StepKind frame_curves() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "frame.of_curves",
        .verb = "Frame curves",
        .synonyms = "lines bars members crossings nodes wires intersect grid gridshell",
        .sentence = "Frame {curve}, with nodes where they pass within {tolerance} of each other.",
        .slots = {curves_slot(), tolerance},
        .results = {Kind::frame},
        .result_name = "frame",
        .help =
            "Straight members from node to node along curves: nodes are where they cross, where they end, "
            "and "
            "the corners of polylines. Members of one curve have its number as their row.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
