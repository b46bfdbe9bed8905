#include "core/base/text.hpp"
#include "core/geometry/frames/frame_edits.hpp"
#include "core/geometry/frames/member_list.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    auto named = named_members(in.word("marks"), frame);
    if (!named) return about_slot(named.error(), "marks");
    if (named->missing > 0)
        run.remark_loss(named->missing == 1
                            ? "‘" + shortened(named->first_missing) +
                                  "’ is the mark of no member; it counts again when it is."
                            : count_text(named->missing, "mark is", "marks are") +
                                  " of no member, the first ‘" + shortened(named->first_missing) +
                                  "’; they count again when they are.");
    if (in.word("what") == "drop") turn_over(named->mask);
    auto kept = kept_members(frame, named->mask);
    if (!kept) return about_slot(kept.error(), "marks");
    run.remark(count_text(kept->member_count(), "member", "members") + " of " +
               std::to_string(frame.member_count()) + ".");
    return Value(*std::move(kept));
}

}  // namespace

StepKind keep_by_mark() {
    return {
        .key = "frame.keep_marks",
        .verb = "Drop or keep members by mark",
        .synonyms = "delete remove pick select by hand single bars odd list",
        .sentence = "{what} the members {marks} of {frame}.",
        .slots = {choice_slot(
                      "what", "What",
                      {{"drop", "Drop", "the others stay"}, {"keep", "Keep", "the others are left out"}}),
                  addresses_slot("marks", "Marks", "0,0–1,0"), frame_slot()},
        .results = {Kind::frame},
        .result_name = "picked",
        .help =
            "Single members by the marks of their nodes: 3,2–4,2 is the one between two of them, 3,2 alone "
            "names all that end there. Picked in the model they are marks, too, and stay what they are when "
            "counts change.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 30, 4e-7); },
        .make = make,
    };
}

}  // namespace plume
