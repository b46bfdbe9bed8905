// Branches of what grew: nodes, members, what carries what.

#include "core/growth/branch_tree.hpp"

#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/growth/grown_parts.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

Placements grown(const std::string& text, std::size_t generations, KeptParts kept = KeptParts::all) {
    auto rules = std::make_shared<const GrowthRules>(*check_rules(text, {}));
    const GrowthStart start{{Placement{}}, {1}, {}, 1};
    GrowthLimits limits;
    limits.generations = generations;
    auto made = grow(*rules, start, limits, {}, plume::Run());
    auto placements = grown_parts(*std::move(made), rules, start, {}, {}, kept);
    EXPECT_TRUE(placements) << sentence(placements.error());
    return *std::move(placements);
}

BranchTree tree_of(const Placements& placements) {
    auto tree = branch_tree(placements, plume::Run());
    EXPECT_TRUE(tree);
    return *std::move(tree);
}

// Both children stand at the tip of their parent: one node for the two of them.
constexpr const char* forked =
    "a becomes\na, moved size up, turned 30° about along, sized 0.8\na, moved size up, turned -30° about "
    "along, sized 0.8";

TEST(BranchTree, PartsAtOnePlaceAreOneNode) {
    const Placements placements = grown(forked, 6);
    const BranchTree tree = tree_of(placements);
    // One at the root, one at its tip, two at the next tips, ...
    EXPECT_EQ(tree.nodes.size(), 1U + 1 + 2 + 4 + 8 + 16 + 32);
    const auto frame = branch_frame(placements, tree, branch_thicknesses(tree, 1, 2));
    ASSERT_TRUE(frame) << sentence(frame.error());
    EXPECT_EQ(frame->member_count(), 63U);
    EXPECT_EQ(frame->node_count(), 64U);
    for (const Member& member : frame->members())
        EXPECT_GT(frame->length_of(member), 0.2);
}

TEST(BranchTree, WhatABranchCarriesIsConserved) {
    for (const double exponent : {1.0, 2.0, 2.49, 3.0}) {
        const Placements placements = grown(
            "a becomes\na, moved size up\na, moved size up, turned 40° about along, where depth > 1\n"
            "a times 3, moved size / 2 up, turned 120° * copy about up, turned 50° about along, where number "
            "== 1",
            6);
        const BranchTree tree = tree_of(placements);
        const std::vector<double> thick = branch_thicknesses(tree, 0.02, exponent);
        std::vector<double> carried(tree.nodes.size(), 0);
        for (std::size_t node = 0; node < tree.nodes.size(); ++node)
            if (tree.before[node] != PartTree::none)
                carried[tree.before[node]] += std::pow(thick[node], exponent);
        std::size_t ends = 0;
        for (std::size_t node = 0; node < tree.nodes.size(); ++node) {
            if (carried[node] == 0) {
                ++ends;
                EXPECT_NEAR(thick[node], 0.02, 1e-15);
            } else {
                EXPECT_NEAR(std::pow(thick[node], exponent), carried[node], 1e-12 * carried[node]);
            }
        }
        EXPECT_GT(ends, 20U);
        EXPECT_NEAR(std::pow(thick[0] / 0.02, exponent), static_cast<double>(ends),
                    1e-9 * static_cast<double>(ends));
    }
}

TEST(BranchTree, GapsAreSteppedOver) {
    const Placements all = grown("a becomes\nb, moved 1 up\nb becomes\na, moved 1 along", 6);
    std::vector<std::uint8_t> mask(all.origins().address_count(), 0);
    for (std::size_t part = 0; part < mask.size(); part += 2)
        mask[part] = 1;
    PointLattice::Parts parts{Arrangement::scatter, all.origins().counts(), {},   all.origins().x(),
                              all.origins().y(),    all.origins().z(),      mask, all.origins().fields()};
    const Placements some = all.with_origins(*PointLattice::make(parts));
    const BranchTree tree = tree_of(some);
    EXPECT_EQ(tree.nodes, (std::vector<std::uint32_t>{0, 2, 4, 6}));
    const auto frame = branch_frame(some, tree, branch_thicknesses(tree, 1, 2));
    ASSERT_TRUE(frame);
    for (const Member& member : frame->members())
        EXPECT_NEAR(frame->length_of(member), std::sqrt(2.0), 1e-12);
}

TEST(BranchTree, CurvesRunFromTheRootToEveryEnd) {
    const Placements placements = grown(forked, 5);
    const BranchTree tree = tree_of(placements);
    const std::vector<double> thick = branch_thicknesses(tree, 0.5, 2);
    const auto ends =
        branch_curves(placements, tree, thick, BranchCurves::to_each_end, CurveShape::straight, plume::Run());
    ASSERT_TRUE(ends);
    EXPECT_EQ(ends->curves.size(), 16U);
    EXPECT_EQ(branch_curve_points(tree, BranchCurves::to_each_end), 16.0 * 6);
    double length_of_way = 0;
    for (int generation = 0; generation < 5; ++generation)
        length_of_way += std::pow(0.8, generation);
    for (const SplineCurve& curve : ends->curves) {
        EXPECT_EQ(curve.pole(0), (Vec3{0, 0, 0}));
        EXPECT_NEAR(length_of(curve), length_of_way, 1e-12);
        EXPECT_NEAR(curve.fields().front().values[0], 0.5 * std::sqrt(16.0), 1e-12);
    }
    const auto once = branch_curves(placements, tree, thick, BranchCurves::each_branch_once,
                                    CurveShape::straight, plume::Run());
    ASSERT_TRUE(once);
    double all = 0, members = 0;
    for (const SplineCurve& curve : once->curves)
        all += length_of(curve);
    const auto frame = branch_frame(placements, tree, thick);
    for (const Member& member : frame->members())
        members += frame->length_of(member);
    EXPECT_EQ(once->curves.size(), 16U);
    EXPECT_NEAR(all, members, 1e-12);
}

TEST(BranchTree, OfOnePartOrOfPartsAtOnePlaceThereIsNone) {
    for (const char* text : {"a becomes\nnothing", "a becomes\na, turned 30° about up"}) {
        const Placements placements = grown(text, 4);
        const BranchTree tree = tree_of(placements);
        EXPECT_EQ(tree.nodes.size(), 1U);
        EXPECT_EQ(branch_frame(placements, tree, {1}).error().code, ErrorCode::too_few_points);
        EXPECT_EQ(
            branch_curves(placements, tree, {1}, BranchCurves::to_each_end, CurveShape::smooth, plume::Run())
                .error()
                .code,
            ErrorCode::too_few_points);
    }
}

TEST(BranchTree, ManyCopiesOfOnePartKeepTheirPlaces) {
    const Placements placements = grown(
        "a becomes\nb times 5000, moved 1 along, turned 360° * copy / copies about up, moved copy * 1 mm up",
        1);
    EXPECT_EQ(tree_of(placements).nodes.size(), 5001U);
}

}  // namespace
}  // namespace plume::test
