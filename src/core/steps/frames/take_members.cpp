#include "core/geometry/frames/frame_edits.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    auto lines = in.word("what") == "each" ? member_lines(frame, run) : member_chains(frame, run);
    if (!lines) return about_slot(lines.error(), "frame");
    return Value(*std::move(lines));
}

}  // namespace

StepKind take_members() {
    return {
        .key = "curve.of_frame",
        .verb = "Take members as curves",
        .synonyms = "lines polylines bars frame extract convert centre lines",
        .sentence = "Take the members of {frame} as {what}.",
        .slots = {frame_slot(),
                  choice_slot("what", "What",
                              {{"each", "lines, one each", "with their numbers and lengths"},
                               {"rows", "lines along their rows", "those of one way and row end to end"}})},
        .results = {Kind::curves},
        .result_name = "lines",
        .help =
            "Straight curves to be given sections, divided or measured: one a member, or one for all members "
            "of one way and row that follow each other, closed where a ring is.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 800, 3e-6); },
        .make = make,
    };
}

}  // namespace plume
