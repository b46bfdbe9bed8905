#include "core/base/text.hpp"
#include "core/geometry/frames/frame_edits.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    auto split = split_at_crossings(in.held<BarFrame>("frame"), in.number("tolerance"), run);
    if (!split) return about_slot(split.error(), "frame");
    run.remark(split->crossings == 0 ? "No two members cross."
                                     : count_text(split->crossings, "crossing", "crossings") + ".");
    return Value(std::move(split->frame));
}

}  // namespace

StepKind split_members() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "frame.split",
        .verb = "Split members where they cross",
        .synonyms = "intersect crossing nodes bars diagonals break cut join meet",
        .sentence = "Split the members of {frame} where they pass within {tolerance} of each other.",
        .slots = {frame_slot(), tolerance},
        .results = {Kind::frame},
        .result_name = "split",
        .help =
            "A node where two members cross, and one where a member passes a node. Pieces keep the way, the "
            "row and the numbers of their member. Members that lie along each other do not cross: weld them.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 450, 3e-6); },
        .make = make,
    };
}

}  // namespace plume
