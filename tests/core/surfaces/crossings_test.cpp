// Curves that pass through surfaces.

#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/surface_crossings.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

using test::at_origin;
using test::StudyMaker;

SurfaceSet plate() {
    return {{*extruded(*line_between({-3, -3, 0}, {3, -3, 0}), {0, 6, 0})}};
}

std::vector<Vec3> crossings(const SplineCurve& curve, const SurfaceSet& surface) {
    const auto found = crossings_with_surface(curve, surface, plume::Run());
    EXPECT_TRUE(found) << sentence(found.error());
    std::vector<Vec3> places;
    if (found)
        for (const double at : *found)
            places.push_back(evaluate(curve, at).position);
    return places;
}

TEST(SurfaceCrossings, ALineMeetsASphereWhereItsEquationSays) {
    const SurfaceSet ball{{test::sphere(3)}};
    for (const double height : {0.0, 0.5, -2.0, 2.9}) {
        const auto places = crossings(*line_between({-5, height, 0.3}, {5, height, 0.3}), ball);
        const double half = std::sqrt(9 - height * height - 0.09);
        ASSERT_EQ(places.size(), 2U) << height;
        EXPECT_NEAR(places[0].x, -half, 1e-9);
        EXPECT_NEAR(places[1].x, half, 1e-9);
    }
    EXPECT_TRUE(crossings(*line_between({-5, 3.01, 0}, {5, 3.01, 0}), ball).empty());
    const auto touch = crossings(*line_between({-5, 3, 0}, {5, 3, 0}), ball);
    ASSERT_EQ(touch.size(), 1U) << "it touches";
    EXPECT_LT(std::abs(touch[0].x), 1e-3);
}

TEST(SurfaceCrossings, ARoundCurveMeetsARingFourTimes) {
    // In the plane z = 0 the ring is two circles, of 2 and 4; the curve is a circle of 3.5 about (1, 0).
    const SurfaceSet ring{{test::torus(3, 1)}};
    const SplineCurve circle = ellipse(placement_of({1, 0, 0}, {0, 0, 1}, {1, 0, 0}), 3.5, 3.5);
    const auto places = crossings(circle, ring);
    ASSERT_EQ(places.size(), 2U);
    for (const Vec3 place : places) {
        // x x + y y = 16 and (x - 1)^2 + y y = 12.25.
        EXPECT_NEAR(place.x, (16 - 12.25 + 1) / 2, 1e-9);
        EXPECT_NEAR(std::hypot(place.x, place.y), 4, 1e-9);
    }
    const SplineCurve upright = ellipse(placement_of({3, 0, 0.5}, {0, -1, 0}, {1, 0, 0}), 1, 1);
    EXPECT_EQ(crossings(upright, ring).size(), 2U) << "two circles of one plane, one seam";
}

TEST(SurfaceCrossings, AWaveMeetsAPlateOncePerHalfWave) {
    CurvePoints wave;
    for (int at = 0; at <= 200; ++at)
        wave.points.push_back(
            {-2.9 + 5.8 * at / 200.0, 0.1, std::sin(10 * std::numbers::pi * at / 200.0 + 0.5)});
    const auto places = crossings(*curve_through(wave, CurveShape::smooth), plate());
    EXPECT_EQ(places.size(), 10U);
    for (const Vec3 place : places)
        EXPECT_LT(std::abs(place.z), 1e-11);
}

TEST(SurfaceCrossings, HolesLetThrough) {
    const auto cast =
        cast_onto(shadow_of(plate().patches.front(), {0, 0, 1}), ellipse(at_origin(), 1, 1), plume::Run());
    const SurfaceSet holed{*trimmed(plate().patches.front(), {*cast}, TrimSide::outside, plume::Run())};
    EXPECT_TRUE(crossings(*line_between({0.3, 0.2, -1}, {0.3, 0.2, 1}), holed).empty());
    EXPECT_EQ(crossings(*line_between({1.3, 0.2, -1}, {1.3, 0.2, 1}), holed).size(), 1U);
    EXPECT_TRUE(crossings(*line_between({3.3, 0.2, -1}, {3.3, 0.2, 1}), holed).empty());
}

TEST(SurfaceCrossings, WhatRunsAlongIsSaid) {
    const auto along = crossings_with_surface(*line_between({-1, 0, 0}, {1, 0.5, 0}), plate(), plume::Run());
    ASSERT_FALSE(along);
    EXPECT_EQ(along.error().code, ErrorCode::unlike_arrangement);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(crossings_with_surface(*line_between({0, 0, -1}, {0, 0, 1}), plate(), cancelled).error().code,
              ErrorCode::cancelled);
}

// Two lines through a round wall of 2 m, one beside it.
StudyMaker lines_and_wall() {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "1").number("grid", "rows", "2");
    maker.word("grid", "sizing", "over").number("grid", "width", "10 m").number("grid", "depth", "6 m");
    maker.add("thing.move", "raised");
    maker.set("raised", "thing", ResultName{"grid"}).number("raised", "z", "1 m");
    maker.add("curve.join", "lines");
    maker.set("lines", "points", ResultName{"raised"}).word("lines", "route", "rows");
    return maker;
}

TEST(CrossingSteps, PointsWithTheirSharesAndPieces) {
    StudyMaker maker = lines_and_wall();
    maker.add("points.crossings", "met");
    maker.set("met", "curve", ResultName{"lines"}).set("met", "cutter", ResultName{"wall"});
    maker.add("curve.split", "pieces");
    maker.set("pieces", "curve", ResultName{"lines"}).set("pieces", "cutter", ResultName{"wall"});
    maker.word("pieces", "rule", "curves");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("met")->value) << sentence(*made.outcome("met")->error);
    const auto& points = std::get<PointLattice>(*made.outcome("met")->value);
    const auto& lines = std::get<CurveSet>(*made.outcome("lines")->value);
    ASSERT_EQ(lines.curves.size(), 3U);
    std::size_t count = 0;
    for (std::size_t at = 0; at < points.address_count(); ++at) {
        if (!points.present(at)) continue;
        ++count;
        EXPECT_NEAR(std::hypot(points.x()[at], points.y()[at]), 2, 1e-9);
        const Vec3 from = start_of(lines.curves[points.address(at).j]);
        EXPECT_NEAR(points.field("share")->values[at], length(points.point(at) - from) / 10, 1e-9);
    }
    EXPECT_EQ(count, 2U) << "the middle line goes through, the others pass by";
    EXPECT_EQ(std::get<CurveSet>(*made.outcome("pieces")->value).curves.size(), 5U);
}

TEST(CrossingSteps, PlanesAndCurvesToo) {
    StudyMaker maker = lines_and_wall();
    maker.add("placement.frame", "cut");
    maker.add("points.crossings", "met");
    maker.set("met", "curve", ResultName{"lines"}).set("met", "cutter", ResultName{"rim"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "met").slot, "curve") << "the rim is a metre below";
    maker.number("raised", "z", "0 m");
    const auto on_rim = std::get<PointLattice>(test::value_of(test::run(maker.study), "met"));
    EXPECT_EQ(on_rim.point_count(), 2U);
}

}  // namespace
}  // namespace plume
