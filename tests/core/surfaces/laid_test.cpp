// What was drawn flat, laid onto surfaces.

#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/surfaces/surface_map.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

SplinePatch pipe(double radius, double height) {
    return *extruded(ellipse(test::at_origin(), radius, radius), {0, 0, height});
}

TEST(SurfaceMap, EvenLengthsRollARectangleUpWithoutStretching) {
    const double radius = 2, height = 3;
    const SurfaceMap map(pipe(radius, height), {{}, 2 * pi * radius, height}, MapSteps::even_lengths);
    for (const double x : {0.0, 0.7, 3.0, 11.9})
        for (const double y : {0.0, 1.1, 3.0})
            for (const double z : {0.0, 0.4, -0.3}) {
                const auto laid = map.laid({x, y, z});
                ASSERT_TRUE(laid);
                const double turn = x / radius, out = radius + z;
                EXPECT_LT(length(laid->place - Vec3{out * std::cos(turn), out * std::sin(turn), y}), 1e-8);
            }
    EXPECT_FALSE(map.laid({1, 3.1, 0})) << "above the pipe";
    EXPECT_FALSE(map.laid({1, -0.1, 0}));
    const auto round = map.laid({1 + 2 * pi * radius, 1, 0});
    ASSERT_TRUE(round) << "it goes on round it";
    EXPECT_LT(length(round->place - map.laid({1, 1, 0})->place), 1e-8);
}

TEST(SurfaceMap, EvenParametersAreThoseOfThePatch) {
    const SplinePatch patch = pipe(2, 3);
    const SurfaceMap map(patch, {{}, 1, 1}, MapSteps::even_parameters);
    for (const double share : {0.1, 0.4, 0.85}) {
        const Vec3 there = evaluate(patch, std::lerp(patch.u().start(), patch.u().end(), share),
                                    std::lerp(patch.v().start(), patch.v().end(), 0.3))
                               .position;
        EXPECT_LT(length(map.laid({share, 0.3, 0})->place - there), 1e-12);
    }
}

// A circle of 500 mm drawn on the ground and a round wall to lay it onto.
StudyMaker circle_and_wall() {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("outline.shape", "drawn");
    maker.word("drawn", "shape", "circle").number("drawn", "radius", "500 mm");
    maker.add("thing.move", "eye");
    maker.set("eye", "thing", ResultName{"drawn"})
        .number("eye", "x", "3 m")
        .number("eye", "y", "1500 mm")
        .number("eye", "z", "0 m");
    maker.add("thing.lay", "laid");
    maker.set("laid", "thing", ResultName{"eye"}).set("laid", "surface", ResultName{"wall"});
    maker.word("laid", "over", "origin").word("laid", "steps", "lengths");
    maker.number("laid", "width", "2 * pi * 2 m").number("laid", "depth", "3 m");
    return maker;
}

TEST(LaySteps, ACurveKeepsItsLengthOnWhatUnrolls) {
    StudyMaker maker = circle_and_wall();
    const auto laid = std::get<CurveSet>(test::value_of(test::run(maker.study), "laid"));
    ASSERT_EQ(laid.curves.size(), 1U);
    EXPECT_TRUE(laid.curves.front().closed());
    EXPECT_NEAR(length_of(laid.curves.front()), pi, 1e-5);
    for (int step = 0; step < 100; ++step) {
        const SplineBasis& basis = laid.curves.front().basis();
        const Vec3 p =
            evaluate(laid.curves.front(), std::lerp(basis.start(), basis.end(), step / 100.0)).position;
        EXPECT_NEAR(std::hypot(p.x, p.y), 2, 1e-6);
        const double flat = std::atan2(p.y, p.x) * 2 - 3;
        EXPECT_NEAR(std::hypot(flat, p.z - 1.5), 0.5, 1e-6);
    }
    // Across the seam it stays one.
    maker.number("eye", "x", "0 m");
    const auto across = std::get<CurveSet>(test::value_of(test::run(maker.study), "laid"));
    EXPECT_NEAR(length_of(across.curves.front()), pi, 1e-5);
}

TEST(LaySteps, WhatLiesBesideIsSaid) {
    StudyMaker maker = circle_and_wall();
    maker.number("eye", "y", "2800 mm");
    const Error above = test::error_of(test::run(maker.study), "laid");
    EXPECT_EQ(above.slot, "thing");
    EXPECT_NE(above.message.find("beside the rectangle at "), std::string::npos) << above.message;
}

TEST(LaySteps, PointsBesideAreGaps) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "8").number("grid", "rows", "8");
    maker.word("grid", "sizing", "over").number("grid", "width", "4 m").number("grid", "depth", "4 m");
    maker.add("outline.shape", "upright");
    maker.word("upright", "plane", "xz");
    maker.add("thing.lay", "laid");
    maker.set("laid", "thing", ResultName{"grid"}).set("laid", "surface", ResultName{"wall"});
    maker.word("laid", "over", "origin").number("laid", "depth", "3 m");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("laid")->value) << sentence(*made.outcome("laid")->error);
    // About the origin: half of the rows lie below the wall, all columns go round it.
    EXPECT_EQ(std::get<PointLattice>(*made.outcome("laid")->value).point_count(), 9U * 5U);
    ASSERT_EQ(made.outcome("laid")->remarks.size(), 1U);
    EXPECT_TRUE(made.outcome("laid")->remarks.front().loss);
    const Evaluation own = test::run(maker.word("laid", "over", "own").study);
    EXPECT_EQ(std::get<PointLattice>(*own.outcome("laid")->value).point_count(), 81U);
    maker.set("laid", "thing", ResultName{"upright"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "laid").slot, "over") << "it has no extent in plan";
}

}  // namespace
}  // namespace plume
