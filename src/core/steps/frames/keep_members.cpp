#include <cmath>

#include "core/geometry/frames/frame_edits.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_members(in.held<BarFrame>("frame"));
    site.results.push_back({"", "the last line is the condition: yes where it is not 0", true});
    return site;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    const auto condition = computed(*formula, "", term_of(*formula, "")->dimension, *site, in, run);
    if (!condition) return condition.error();
    const bool drops = in.word("what") == "drop";
    std::vector<std::uint8_t> mask(frame.member_count());
    std::size_t odd = 0;
    for (std::size_t at = 0; at < mask.size(); ++at) {
        const double number = (**condition)[at];
        odd += std::isnan(number) ? 1 : 0;
        const bool holds = !std::isnan(number) && number != 0;
        mask[at] = holds != drops ? 1 : 0;
    }
    if (odd > 0) run.remark_loss("Where the condition is no number it counts as no.");
    auto kept = kept_members(frame, mask);
    if (!kept) return about_slot(kept.error(), "formula");
    return Value(*std::move(kept));
}

}  // namespace

StepKind keep_members() {
    return {
        .key = "frame.keep",
        .verb = "Keep members of a frame",
        .synonyms = "drop delete filter select remove bars condition where",
        .sentence = "{what} the members of {frame} where {formula}.",
        .slots = {choice_slot(
                      "what", "What",
                      {{"keep", "Keep", "the others are left out"}, {"drop", "Drop", "the others stay"}}),
                  frame_slot(), formula_slot("formula", formula_label, "valence > 2")},
        .results = {Kind::frame},
        .result_name = "kept",
        .help =
            "Members where a condition holds, or all others. It reads length, rise (the angle above the "
            "ground), x, y and z of the member's middle, row, valence (members at its end where fewer meet), "
            "along_i, along_j, along_k, diagonal, counter and web, each 1 of members that run so, and every "
            "number of members and nodes. Nodes that no member ends at any more are gaps.",
        .estimate = [](const Inputs& in) { return frame_estimate(in, 140, 3e-7); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
