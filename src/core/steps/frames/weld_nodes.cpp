#include "core/geometry/frames/frame_assembly.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    auto welded = welded_frame(frame.parts(), in.number("tolerance"), run);
    if (!welded) return about_slot(welded.error(), "frame");
    if (welded->node_count() == frame.node_count()) run.remark("No two nodes lie that close.");
    return Value(*std::move(welded));
}

}  // namespace

StepKind weld_nodes() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "1 mm");
    tolerance.least = 0;
    return {
        .key = "frame.weld",
        .verb = "Weld nodes of a frame",
        .synonyms = "merge join coincident duplicate doubled members clean bars unify",
        .sentence = "Weld the nodes of {frame} that lie within {tolerance} of each other.",
        .slots = {frame_slot(), tolerance},
        .results = {Kind::frame},
        .result_name = "welded",
        .help =
            "Of nodes that lie that close the first stays, and members end there. What would join a node to "
            "itself, or nodes that are joined already, is left out. Frames that are joined or repeated weld "
            "what is at one place by themselves.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 150, 1e-6); },
        .make = make,
    };
}

}  // namespace plume
