#pragma once
// What the steps that draw the branches of what grew share.

#include "core/growth/branch_tree.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The slots `placements`, `tip` and `exponent`.
std::vector<SlotSpec> branch_slots();
inline constexpr const char* branch_sentence =
    "{tip} thick at the ends and thicker by what they carry[more|, to the power of {exponent}]";

struct Branches {
    BranchTree tree;
    std::vector<double> thicknesses;
};
// Error, about the slot: wrong_kind of placements that did not grow; cancelled.
Result<Branches> branches_of(const Inputs& in, const Run& run);

}  // namespace plume
