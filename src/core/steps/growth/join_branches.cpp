#include "core/steps/growth/branch_support.hpp"

namespace plume {
namespace {

Estimate estimate(const Inputs& in) {
    const auto parts = static_cast<double>(in.held<Placements>("placements").origins().address_count());
    return {parts * 120, parts * 3e-7};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto branches = branches_of(in, run);
    if (!branches) return branches.error();
    auto frame = branch_frame(in.held<Placements>("placements"), branches->tree, branches->thicknesses);
    if (!frame) return about_slot(frame.error(), "placements");
    return Value(*std::move(frame));
}

}  // namespace

StepKind join_branches() {
    return {
        .key = "growth.members",
        .verb = "Join what grew into members",
        .synonyms = "branches tree skeleton frame parent child pipe model thickness",
        .sentence = "Join the parts of {placements} into members, " + std::string(branch_sentence) + ".",
        .slots = branch_slots(),
        .results = {Kind::frame},
        .result_name = "branches",
        .help =
            "A frame of what grew: a member from each part to every one that came of it. Parts at one place "
            "are one node. Members carry the numbers thickness, by what hangs on them, and depth: a branch "
            "to "
            "the power of the exponent is as thick as all it carries together to that power; 2 keeps the "
            "area "
            "of the sections.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
