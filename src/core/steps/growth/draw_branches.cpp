#include "core/steps/growth/branch_support.hpp"

namespace plume {
namespace {

BranchCurves which_of(const Inputs& in) {
    return in.word("which") == "ends" ? BranchCurves::to_each_end : BranchCurves::each_branch_once;
}

Estimate estimate(const Inputs& in) {
    const auto& placements = in.held<Placements>("placements");
    const auto parts = static_cast<double>(placements.origins().address_count());
    if (!placements.tree() || which_of(in) == BranchCurves::each_branch_once)
        return {parts * 200, parts * 2e-6};
    const auto tree = branch_tree(placements, Run());
    if (!tree) return {};
    const double points = branch_curve_points(*tree, BranchCurves::to_each_end);
    return {points * 120 + parts * 60, points * 3e-7};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto branches = branches_of(in, run);
    if (!branches) return branches.error();
    auto curves =
        branch_curves(in.held<Placements>("placements"), branches->tree, branches->thicknesses, which_of(in),
                      in.word("shape") == "smooth" ? CurveShape::smooth : CurveShape::straight, run);
    if (!curves) return about_slot(curves.error(), "placements");
    return Value(*std::move(curves));
}

}  // namespace

StepKind draw_branches() {
    std::vector<SlotSpec> slots = branch_slots();
    slots.push_back(
        choice_slot("which", "Which",
                    {{"once", "each branch once",
                      "the thickest way from the root, and every other branch from where it begins"},
                     {"ends", "from the root to every end", "what they share is drawn several times"}}));
    slots.push_back(choice_slot("shape", "Shape",
                                {{"smooth", "smooth", "cubic splines through every part"},
                                 {"straight", "straight", "lines from part to part"}}));
    return {
        .key = "growth.curves",
        .verb = "Draw curves along what grew",
        .synonyms = "branches tree skeleton root tip centreline centerline",
        .sentence =
            "Draw {shape} curves along {placements}[more|, {which}], " + std::string(branch_sentence) + ".",
        .slots = std::move(slots),
        .results = {Kind::curves},
        .result_name = "boughs",
        .help =
            "Curves through what grew, from where it began to its ends, with the number thickness along "
            "them: "
            "a tube whose radius is thickness / 2 follows what the branches carry.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
