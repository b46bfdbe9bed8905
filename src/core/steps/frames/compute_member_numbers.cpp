#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_members(in.held<BarFrame>("frame"));
    site.results.push_back({"", "the last line is the number", true});
    return site;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    const Dimension dimension = term_of(*formula, "")->dimension;
    auto made = computed(*formula, "", dimension, *site, in, run);
    if (!made) return made.error();
    return Value(
        in.held<BarFrame>("frame").with_field({in.result_name(), Column(*std::move(*made)), dimension}));
}

}  // namespace

StepKind compute_member_numbers() {
    return {
        .key = "frame.formula",
        .verb = "Compute numbers of members",
        .synonyms = "bars frame formula field length colour expression",
        .sentence = "Compute a number of each member of {frame} as {formula}.",
        .slots = {frame_slot(), formula_slot("formula", formula_label, "length")},
        .results = {Kind::frame},
        .result_name = "number",
        .help =
            "The frame with a number for each member, by the name of the result: it colours the members, and "
            "later steps read it. The formula reads what conditions on members do (Keep members of a frame).",
        .bears_name = true,
        .estimate = [](const Inputs& in) { return frame_estimate(in, 130, 3e-7); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
