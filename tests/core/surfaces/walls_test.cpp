// Curves extruded so that they lean, or to heights by a formula.

#include <numbers>

#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

StudyMaker wall_of(const std::string& shape) {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", shape);
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"foot"}).number("wall", "by", "1 m");
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"wall"});
    return maker;
}

StudyMaker leaning(const std::string& shape, const std::string& lean) {
    StudyMaker maker = wall_of(shape);
    maker.word("wall", "sides", "leaning").number("wall", "lean", lean);
    return maker;
}

double figure(const StudyMaker& maker) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome("wall");
    EXPECT_TRUE(outcome.value) << sentence(*outcome.error);
    return outcome.value ? std::get<Quantity>(*made.outcome("area")->value).value : 0;
}

Box box_of(const StudyMaker& maker) {
    return bounds_of(test::value_of(test::run(maker.study), "wall"));
}

TEST(LeaningWalls, ASquareBecomesAFrustumWithMitredCorners) {
    StudyMaker maker = leaning("rectangle", "45°");
    maker.number("foot", "width", "4 m").number("foot", "depth", "6 m");
    // Four trapezoids, sqrt(2) m high.
    EXPECT_NEAR(figure(maker), ((4 + 2) + (6 + 4)) * std::sqrt(2), 1e-9);
    maker.number("wall", "lean", "-45°");
    EXPECT_NEAR(figure(maker), ((4 + 6) + (6 + 8)) * std::sqrt(2), 1e-9);
    EXPECT_NEAR(box_of(maker).size().x, 6, 1e-9);
    maker.number("wall", "by", "-1 m").number("wall", "lean", "45°");
    EXPECT_NEAR(figure(maker), ((4 + 2) + (6 + 4)) * std::sqrt(2), 1e-9) << "downwards it leans in, too";
}

TEST(LeaningWalls, RoundOnesBecomeCones) {
    StudyMaker maker = leaning("circle", "45°");
    maker.number("foot", "radius", "2 m");
    EXPECT_NEAR(figure(maker), pi * (2 + 1) * std::sqrt(2), 1e-8);
    // Run through the other way it still leans in.
    StudyMaker behind;
    behind.add("outline.shape", "foot");
    behind.word("foot", "shape", "circle").number("foot", "radius", "2 m");
    behind.add("curve.reverse", "back");
    behind.set("back", "curve", ResultName{"foot"});
    behind.add("surface.extrude", "wall");
    behind.set("wall", "curve", ResultName{"back"}).number("wall", "by", "1 m");
    behind.word("wall", "sides", "leaning").number("wall", "lean", "45°");
    behind.add("number.surface", "area");
    behind.set("area", "surface", ResultName{"wall"});
    EXPECT_NEAR(figure(behind), pi * (2 + 1) * std::sqrt(2), 1e-8);
    EXPECT_NEAR(box_of(behind).size().x, 4, 1e-9);
}

TEST(LeaningWalls, WhatHasNoRoomIsSaid) {
    StudyMaker maker = leaning("rectangle", "45°");
    maker.number("foot", "width", "4 m").number("foot", "depth", "6 m").number("wall", "by", "2500 mm");
    Error error = test::error_of(test::run(maker.study), "wall");
    EXPECT_EQ(error.slot, "lean");
    EXPECT_NE(error.message.find("leaves room for"), std::string::npos) << error.message;
    maker = leaning("circle", "45°");
    maker.number("foot", "radius", "2 m").number("wall", "by", "2500 mm");
    error = test::error_of(test::run(maker.study), "wall");
    EXPECT_EQ(error.slot, "lean") << sentence(error);
}

TEST(WallsByFormula, TheirAreaIsTheMeanHeightTimesTheLength) {
    StudyMaker maker = wall_of("circle");
    maker.number("foot", "radius", "2 m").word("wall", "rule", "formula");
    maker.formula("wall", "height = 3 m + x / 4");
    EXPECT_NEAR(figure(maker), 2 * pi * 2 * 3, 1e-5);
    EXPECT_NEAR(box_of(maker).high.z, 3.5, 1e-6);
    maker.formula("wall", "height = 1 m + s / length * 2 m");
    // At its seam the upper rim has a step: one place cannot have two heights.
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("wall")->value);
    EXPECT_FALSE(made.outcome("wall")->remarks.empty());
}

TEST(WallsByFormula, AnOpenOneRisesExactly) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "row");
    maker.number("row", "columns", "1").number("row", "rows", "1");
    maker.word("row", "sizing", "over").number("row", "width", "4 m").number("row", "depth", "2 m");
    maker.add("curve.join", "lines");
    maker.set("lines", "points", ResultName{"row"}).word("lines", "route", "rows");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"lines"}).word("wall", "rule", "formula");
    maker.formula("wall", "height = 1 m + 2 m * u");
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"wall"});
    EXPECT_NEAR(figure(maker), 2 * 4 * (1 + 3) / 2.0, 1e-9);
    maker.formula("wall", "height = 1 m / (u - 0.5)");
    const Error error = test::error_of(test::run(maker.study), "wall");
    EXPECT_EQ(error.slot, "formula") << sentence(error);
    maker.formula("wall", "tall = 1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "wall").slot, "formula");
}

}  // namespace
}  // namespace plume
