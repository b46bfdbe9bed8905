#include "core/steps/growth/branch_support.hpp"

namespace plume {

std::vector<SlotSpec> branch_slots() {
    SlotSpec exponent = number_slot("exponent", "Exponent", "2");
    exponent.least = 0.1;
    exponent.most = 100;
    return {reference_slot("placements", "Placements", {Kind::placements}),
            length_above_zero_slot("tip", "Thickness of the ends", "20 mm"), exponent};
}

Result<Branches> branches_of(const Inputs& in, const Run& run) {
    const auto& placements = in.held<Placements>("placements");
    if (!placements.tree())
        return about_slot(Error{ErrorCode::wrong_kind, "", "did not grow, so that none comes of another",
                                "Choose what ‘Grow parts by rules’ made."},
                          "placements");
    auto tree = branch_tree(placements, run);
    if (!tree) return tree.error();
    Branches made{*std::move(tree), {}};
    made.thicknesses = branch_thicknesses(made.tree, in.number("tip"), in.number("exponent"));
    return made;
}

}  // namespace plume
