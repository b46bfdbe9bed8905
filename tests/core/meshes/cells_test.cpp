// A unit in every cell of a lattice.

#include "core/geometry/meshes/cell_units.hpp"

#include <map>
#include <random>

#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

TEST(CellBoxes, SharePlacesOnCommonSidesToTheLastDigit) {
    std::mt19937 random(1);
    std::uniform_real_distribution<double> any(-5, 5), share(0, 1);
    const auto place = [&] { return Vec3{any(random), any(random), any(random)}; };
    for (int time = 0; time < 100; ++time) {
        CellBox left, right;
        for (Vec3& corner : left.corners)
            corner = place();
        for (Vec3& corner : right.corners)
            corner = place();
        for (const std::size_t corner : {0U, 2U, 4U, 6U})
            right.corners[corner] = left.corners[corner + 1];
        const double y = share(random), z = share(random);
        EXPECT_EQ(left.at(1, y, z), right.at(0, y, z));
        for (std::size_t corner = 0; corner < 8; ++corner)
            EXPECT_EQ(left.at(corner & 1U ? 1 : 0, corner & 2U ? 1 : 0, corner & 4U ? 1 : 0),
                      left.corners[corner]);
    }
}

// A pyramid over a square of 2 m, drawn off the origin, and a vault of 6 by 4 bays.
StudyMaker vault_and_pyramid(const std::function<void(StudyMaker&)>& more = {}) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "plate");
    maker.number("plate", "columns", "2").number("plate", "rows", "2");
    maker.number("plate", "width", "2 m").number("plate", "depth", "2 m");
    maker.add("points.move_formula", "peak");
    maker.formula("peak", "to_z = 1 m * (1 - abs(i - 1)) * (1 - abs(j - 1))");
    maker.add("skin", "pyramid");
    maker.set("pyramid", "points", ResultName{"peak"}).word("pyramid", "surface", "flat");
    maker.word("pyramid", "shape", "triangles");
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "6").number("ground", "rows", "4");
    maker.number("ground", "width", "6 m").number("ground", "depth", "4 m");
    maker.add("points.move_formula", "vault");
    maker.set("vault", "points", ResultName{"ground"}).formula("vault", "to_z = 3 m - x * x / 6 m");
    if (more) more(maker);
    maker.add("cells.fill", "filled");
    maker.set("filled", "unit", ResultName{"pyramid"}).set("filled", "points", ResultName{"vault"});
    return maker;
}

TEST(CellsFill, NeighboursShareTheirEdges) {
    StudyMaker maker = vault_and_pyramid();
    const auto apart = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    EXPECT_EQ(apart.part_count(), 24U);
    EXPECT_EQ(apart.face_count(), 24U * 8);
    EXPECT_EQ(apart.vertex_count(), 24U * 9);
    maker.word("filled", "joints", "welded");
    const auto welded = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    EXPECT_EQ(welded.face_count(), apart.face_count());
    // Corners, middles of sides, peaks.
    EXPECT_EQ(welded.vertex_count(), 7U * 5 + (6U * 5 + 7U * 4) + 24U);
    // Only the rim of the whole is open.
    EXPECT_EQ(test::open_edges(welded), 2U * (6 + 4) * 2);
}

TEST(CellsFill, OnAFlatGridUnitsAreMovedAndScaledAlone) {
    StudyMaker maker = vault_and_pyramid();
    maker.formula("vault", "to_z = 1 m");
    maker.number("filled", "thickness", "0.3 m");
    const auto mesh = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    // The middle of a square of 1 m, 300 mm up; volume under each pyramid a third of base by height.
    const Vec3 peak = mesh.vertex(4);
    EXPECT_LT(length(peak - Vec3{-2.5, -1.5, 1.3}), 1e-12);
    const Box bounds = mesh.bounds();
    EXPECT_LT(length(bounds.low - Vec3{-3, -2, 1}), 1e-12);
    EXPECT_LT(length(bounds.high - Vec3{3, 2, 1.3}), 1e-12);
}

TEST(CellsFill, BodiesFillTheSpaceBetweenTwoSkins) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("outline.shape", "foot");
        more.word("foot", "shape", "rectangle").number("foot", "width", "1 m").number("foot", "depth", "1 m");
        more.add("body.extrude", "brick");
        more.set("brick", "curve", ResultName{"foot"}).number("brick", "by", "1 m");
        more.add("points.move_formula", "upper");
        more.set("upper", "points", ResultName{"vault"}).formula("upper", "to_z = z + 0.5 m + 0.1 * y");
    });
    maker.set("filled", "unit", ResultName{"brick"}).word("filled", "depth_rule", "between");
    maker.set("filled", "upper", ResultName{"upper"});
    const Evaluation made = test::run(maker.study);
    const auto set = std::get<SolidSet>(value_of(made, "filled"));
    ASSERT_EQ(set.bodies.size(), 24U);
    // Bricks between: over each m^2 of plan 0.5 + 0.1 y in the mean, y evens out.
    EXPECT_NEAR(figures_of(set).volume, 6 * 4 * 0.5, 1e-9);
}

TEST(CellsFill, OtherSideTurnsFacesOverNotInsideOut) {
    StudyMaker maker = vault_and_pyramid();
    maker.formula("vault", "to_z = 0 m");
    maker.number("filled", "thickness", "-0.3 m");
    const auto mesh = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        EXPECT_LT(area_vector(mesh, face).z, 0) << "what was its upper side is outside still";
}

TEST(CellsFill, NumbersChooseAndScale) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("thing.repeat", "three");
        more.set("three", "thing", ResultName{"pyramid"}).number("three", "count", "3");
        more.add("thing.scale", "low");
        more.set("low", "thing", ResultName{"pyramid"});
        more.add("field.formula", "which");
        more.set("which", "points", ResultName{"vault"}).formula("which", "i / 6");
    });
    maker.set("filled", "unit", ResultName{"three"}).word("filled", "chosen", "number");
    maker.set("filled", "choice", ResultName{"which"});
    const auto chosen = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    EXPECT_EQ(chosen.part_count(), 24U) << "one of the three in each";
    EXPECT_EQ(chosen.face_count(), 24U * 8);
    maker.word("filled", "chosen", "all").word("filled", "size", "scaled");
    maker.set("filled", "scale", ResultName{"which"}).set("filled", "unit", ResultName{"pyramid"});
    maker.formula("vault", "to_z = 0 m");
    const auto scaled = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    // The first cell's number is the mean of i = 0 and 1: a twelfth of 1 m wide.
    const Vec3 low = scaled.vertex(0), high = scaled.vertex(8);
    EXPECT_NEAR(high.x - low.x, 1.0 / 12, 1e-12);
    EXPECT_NEAR(std::midpoint(low.x, high.x), -2.5, 1e-12);
}

TEST(CellsFill, NumbersOfPointsBecomeNumbersOfFaces) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("field.formula", "rank");
        more.set("rank", "points", ResultName{"vault"}).formula("rank", "i");
    });
    maker.set("filled", "points", ResultName{"rank"});
    const auto mesh = std::get<Mesh>(value_of(test::run(maker.study), "filled"));
    ASSERT_FALSE(mesh.face_fields().empty());
    const Field& rank = mesh.face_fields().back();
    EXPECT_EQ(rank.name, "rank");
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        EXPECT_NEAR(rank.values[face], static_cast<double>(face / 8 % 6) + 0.5, 1e-12);
}

TEST(CellsFill, CurvesAreMorphedToo) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("outline.shape", "ring");
        more.word("ring", "shape", "circle").number("ring", "radius", "1 m");
    });
    maker.formula("vault", "to_z = 0 m");
    maker.set("filled", "unit", ResultName{"ring"});
    const auto set = std::get<CurveSet>(value_of(test::run(maker.study), "filled"));
    ASSERT_EQ(set.curves.size(), 24U);
    EXPECT_TRUE(set.curves.front().closed());
}

TEST(CellsFill, SaysWhatDoesNotFit) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("lattice.triangular", "triangles");
        more.add("lattice.block", "stack");
    });
    maker.set("filled", "points", ResultName{"triangles"});
    Error error = test::error_of(test::run(maker.study), "filled");
    EXPECT_EQ(error.slot, "points");
    EXPECT_EQ(error.code, ErrorCode::unlike_arrangement);
    maker.set("filled", "points", ResultName{"stack"});
    error = test::error_of(test::run(maker.study), "filled");
    EXPECT_EQ(error.slot, "depth_rule");
    maker.word("filled", "depth_rule", "own");
    EXPECT_EQ(std::get<Mesh>(value_of(test::run(maker.study), "filled")).part_count(), 8U * 8 * 4);
    maker.set("filled", "points", ResultName{"vault"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "filled").slot, "depth_rule");
    maker.word("filled", "depth_rule", "between").set("filled", "upper", ResultName{"plate"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "filled").slot, "upper");
    // A unit that leaves its box.
    maker.word("filled", "depth_rule", "normal").word("filled", "box", "typed");
    const Evaluation wide = test::run(maker.study);
    ASSERT_TRUE(wide.outcome("filled")->value);
    EXPECT_NE(wide.outcome("filled")->remarks.front().text.find("beyond its box"), std::string::npos);
}

TEST(CellsFill, LeavesOutCellsWhoseNumberIsNone) {
    StudyMaker maker = vault_and_pyramid([](StudyMaker& more) {
        more.add("field.formula", "odd");
        more.set("odd", "points", ResultName{"vault"}).formula("odd", "sqrt(i + j - 0.5) * 0 + 1");
    });
    maker.word("filled", "size", "scaled").set("filled", "scale", ResultName{"odd"});
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<Mesh>(value_of(made, "filled")).part_count(), 23U);
    bool said = false;
    for (const Remark& remark : made.outcome("filled")->remarks)
        said = said || (remark.loss && remark.text.find("1 cell has a number that is not finite") == 0);
    EXPECT_TRUE(said);
}

}  // namespace
}  // namespace plume
