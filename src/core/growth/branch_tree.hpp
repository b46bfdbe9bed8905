#pragma once
// A tree of parts as branches: nodes where parts stand, each joined to the one before it, and how thick the
// branches are by what they carry.
//
// Parts at one place are one node: that of their parent, or of a sibling that stands there. Parts that are
// gaps have none; what came of them is joined to the nearest part before that is there.

#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/bar_frame.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"

namespace plume {

struct BranchTree {
    // Addresses, of whose parts the first at each place; parents stand before children.
    std::vector<std::uint32_t> nodes;
    std::vector<std::uint32_t> before;  // where in `nodes` each one's parent is; PartTree::none of roots
};

// The placements have to have a tree. Error: cancelled.
Result<BranchTree> branch_tree(const Placements& grown, const Run& run);

// Of each node the thickness of the branch that leads to it; of roots, of what stands on them. `tip` at nodes
// that carry nothing; elsewhere thickness^exponent is the sum of that of the branches it carries: K.
// Shinozaki and others, A quantitative analysis of plant form: the pipe model theory, 1964, which has 2.
// Neither the exponent nor the tip may be 0 or below.
std::vector<double> branch_thicknesses(const BranchTree& tree, double tip, double exponent);

// A member from each node to the ones it carries, with the field `thickness` and the depth of its far end.
// Error: too_few_points where no part stands away from another.
Result<BarFrame> branch_frame(const Placements& grown, const BranchTree& tree,
                              const std::vector<double>& thicknesses);

enum class BranchCurves { to_each_end, each_branch_once };

// Curves from the roots on, with the field `thickness`: one to each end, or the thickest way from each root
// and one from where each other branch begins. Error: too_few_points where there is none; cancelled.
Result<CurveSet> branch_curves(const Placements& grown, const BranchTree& tree,
                               const std::vector<double>& thicknesses, BranchCurves which, CurveShape shape,
                               const Run& run);
// How many points these curves have in all.
double branch_curve_points(const BranchTree& tree, BranchCurves which);

}  // namespace plume
