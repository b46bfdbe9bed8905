// The planarity gap against forms whose gap is known.

#include "core/geometry/surfaces/flatness.hpp"

#include <cmath>

#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

// A row of square panels, the n-th with corners n * 10 cm above and below its plane by turns.
StudyMaker panels() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "4")
        .number("ground", "rows", "1")
        .number("ground", "width", "8 m")
        .number("ground", "depth", "2 m");
    maker.add("points.move_formula", "twisted");
    // Corners of bay n: the differences across it are ±2 n h when z = h (i² - i) (2 j - 1).
    maker.formula("twisted", "to_z = 0.1 m * (i * i - i) * (2 * j - 1)");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"twisted"}).word("skin", "surface", "flat");
    maker.add("thing.flatness", "measured");
    return maker;
}

TEST(Flatness, TheGapOfATwistedSquareIsHowFarItsCornersStandOff) {
    // z = ±a at opposite corners of a square fits the plane z = 0 by symmetry.
    Mesh::Parts parts;
    parts.x = Doubles{0, 1, 1, 0};
    parts.y = Doubles{0, 0, 1, 1};
    parts.z = Doubles{0.05, -0.05, 0.05, -0.05};
    parts.first = {0, 4};
    parts.corners = {0, 1, 2, 3};
    const auto gaps = panel_gaps(*Mesh::make(std::move(parts)), plume::Run());
    ASSERT_TRUE(gaps);
    EXPECT_NEAR((*gaps)[0], 0.05, 1e-12);
}

TEST(Flatness, PanelsCarryTheWorstAtTheirCornersAndARemarkSaysWhich) {
    const StudyMaker maker = panels();
    const Evaluation evaluation = test::run(maker.study);
    const Mesh skin = std::get<Mesh>(value_of(evaluation, "skin"));
    const auto gaps = panel_gaps(skin, plume::Run());
    ASSERT_TRUE(gaps);
    ASSERT_EQ(gaps->size(), 4U);
    EXPECT_NEAR((*gaps)[0], 0, 1e-12) << "both its rows are level";
    for (std::size_t panel = 1; panel < 4; ++panel)
        EXPECT_GT((*gaps)[panel], (*gaps)[panel - 1]);
    const Mesh measured = std::get<Mesh>(value_of(evaluation, "measured"));
    ASSERT_EQ(measured.fields().back().name, "flatness");
    const Column& at_vertex = measured.fields().back().values;
    for (std::size_t vertex = 0; vertex < 10; ++vertex) {
        const std::size_t i = vertex % 5;
        const double left = i > 0 ? (*gaps)[i - 1] : 0, right = i < 4 ? (*gaps)[i] : 0;
        EXPECT_EQ(at_vertex[vertex], std::max(left, right)) << vertex;
    }
    const auto& remarks = evaluation.outcome("measured")->remarks;
    ASSERT_EQ(remarks.size(), 1U);
    EXPECT_TRUE(remarks[0].text.starts_with("Number 3, counted from 0, is the worst of 4: "))
        << remarks[0].text;
    EXPECT_NE(remarks[0].text.find("3 are more than 0.002 m off"), std::string::npos) << remarks[0].text;
}

TEST(Flatness, OneNumberForExpressions) {
    StudyMaker maker = panels();
    maker.add("number.flatness", "gap");
    maker.set("gap", "panels", ResultName{"skin"});
    maker.add("number.flatness", "usual");
    maker.word("usual", "figure", "mean").set("usual", "panels", ResultName{"skin"});
    const Evaluation evaluation = test::run(maker.study);
    const auto gaps = panel_gaps(std::get<Mesh>(value_of(evaluation, "skin")), plume::Run());
    EXPECT_EQ(std::get<Quantity>(value_of(evaluation, "gap")).value, (*gaps)[3]);
    EXPECT_NEAR(std::get<Quantity>(value_of(evaluation, "usual")).value,
                ((*gaps)[0] + (*gaps)[1] + (*gaps)[2] + (*gaps)[3]) / 4, 1e-15);
    EXPECT_EQ(std::get<Quantity>(value_of(evaluation, "gap")).dimension, a_length);
}

TEST(Flatness, OutlinesCarryTheirSignedDistance) {
    StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.set("corners", "rows", Lines{"0, 0, 0.2\n4, 0, -0.2\n4, 4, 0.2\n0, 4, -0.2"});
    maker.add("curve.join", "outline");
    maker.word("outline", "ends", "closed").word("outline", "shape", "straight");
    maker.add("thing.flatness", "measured");
    maker.set("measured", "panels", ResultName{"outline"});
    const Evaluation evaluation = test::run(maker.study);
    const SplineCurve curve = std::get<CurveSet>(value_of(evaluation, "measured")).curves.front();
    EXPECT_NEAR(flatness_of(curve).gap, 0.2, 1e-12);
    ASSERT_EQ(curve.fields().back().name, "flatness");
    const Column& signed_gaps = curve.fields().back().values;
    for (std::size_t pole = 0; pole < 4; ++pole)
        EXPECT_NEAR(signed_gaps[pole], pole % 2 == 0 ? 0.2 : -0.2, 1e-12);
}

}  // namespace
}  // namespace plume
