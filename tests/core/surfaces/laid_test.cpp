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

// Uneven knots, closed along v where wished, with weights or without.
SplinePatch bicubic(bool closed, bool rational) {
    SplinePatch::Parts parts;
    Doubles x, y, z, weights;
    const std::vector<double> open_knots{0, 0, 0, 0, 0.3, 1, 1.1, 2, 2, 2, 2};
    const std::vector<double> round_knots{-0.8, -0.7, -0.3, 0, 0.4, 0.5, 0.9, 1.2, 1.6, 1.7, 2.1};
    const std::size_t columns = 7, rows = 7;
    for (std::size_t b = 0; b < rows; ++b)
        for (std::size_t a = 0; a < columns; ++a) {
            const double turn = 2 * pi * static_cast<double>(b % 4) / 4,
                         out = 3 + std::sin(1.7 * static_cast<double>(a));
            x.push_back(static_cast<double>(a));
            y.push_back(closed ? out * std::cos(turn) : static_cast<double>(b));
            z.push_back(closed ? out * std::sin(turn) : std::cos(2.1 * static_cast<double>(a + b)));
            weights.push_back(1 + 0.5 * std::sin(static_cast<double>(3 * a + 5 * (closed ? b % 4 : b))));
        }
    parts.u = {3, false, open_knots, {}};
    parts.v = closed ? SplineBasis{3, true, round_knots, {}} : parts.u;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    if (rational) parts.weights = std::move(weights);
    return *SplinePatch::make(std::move(parts));
}

TEST(BicubicBays, AreTheSamePatch) {
    for (const bool rational : {false, true})
        for (const bool closed : {false, true}) {
            const SplinePatch patch = bicubic(closed, rational);
            const PatchEvaluator few(patch), many(patch, 1'000'000);
            for (int step = 0; step <= 900; ++step) {
                const double u = std::lerp(patch.u().start(), patch.u().end(), step % 31 / 30.0),
                             v = std::lerp(patch.v().start(), patch.v().end(), step / 30 / 30.0);
                const SurfacePoint a = few.at(u, v), b = many.at(u, v);
                EXPECT_LT(length(a.position - b.position), 1e-12);
                EXPECT_LT(length(a.along_u - b.along_u), 1e-10);
                EXPECT_LT(length(a.along_v - b.along_v), 1e-10);
                const Vec3 normal = unit_or_zero(cross(a.along_u, a.along_v));
                if (length(cross(a.along_u, a.along_v)) < 1e-3) continue;
                EXPECT_LT(length(few.raised_at(u, v, -0.3) - (a.position - normal * 0.3)), 1e-10);
                EXPECT_LT(length(many.raised_at(u, v, -0.3) - (a.position - normal * 0.3)), 1e-10);
            }
        }
}

// 37: blocks of any size are gone through, the last one short; the first and last places lie outside.
TEST(PatchEvaluator, ManyPlacesAreThoseOneAfterTheOther) {
    const auto of_degree_two = [] {
        SplinePatch::Parts parts;
        parts.u = parts.v = {2, false, {0, 0, 0, 1, 1, 1}, {}};
        parts.x = Doubles{0, 1, 2, 0, 1, 2, 0, 1, 2};
        parts.y = Doubles{0, 0, 0, 1, 1, 1, 2, 2, 2};
        parts.z = Doubles{0, 1, 0, 1, 3, 1, 0, 1, 0};
        return *SplinePatch::make(std::move(parts));
    };
    for (const SplinePatch& patch :
         {bicubic(false, false), bicubic(false, true), bicubic(true, true), of_degree_two()})
        for (const std::size_t places : {0, 1'000'000}) {
            const PatchEvaluator evaluator(patch, places);
            std::vector<double> u, v;
            for (int step = 0; step < 37; ++step) {
                u.push_back(std::lerp(patch.u().start(), patch.u().end(), (step - 1) / 34.0));
                v.push_back(std::lerp(patch.v().start(), patch.v().end(), std::fmod(step * 0.618, 1.0)));
            }
            const std::vector<SurfacePoint> many = evaluator.at(u, v);
            ASSERT_EQ(many.size(), 37U);
            for (std::size_t at = 0; at < many.size(); ++at) {
                const SurfacePoint one = evaluator.at(u[at], v[at]);
                EXPECT_LT(length(many[at].position - one.position), 1e-13);
                EXPECT_LT(length(many[at].along_u - one.along_u), 1e-12);
                EXPECT_LT(length(many[at].along_v - one.along_v), 1e-12);
                EXPECT_LT(length(one.position - evaluate(patch, u[at], v[at]).position), 1e-12);
            }
            EXPECT_TRUE(evaluator.at(std::vector<double>(), std::vector<double>()).empty());
        }
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

// Points in a hole of a trimmed surface are gaps; a curve runs across it.
TEST(LaySteps, HolesTakePointsAndLeaveCurves) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "sheet");
    maker.number("sheet", "columns", "8").number("sheet", "rows", "8");
    maker.number("sheet", "width", "8 m").number("sheet", "depth", "8 m");
    maker.add("skin", "whole");
    maker.set("whole", "points", ResultName{"sheet"}).word("whole", "surface", "smooth");
    maker.add("outline.shape", "hole");
    maker.word("hole", "shape", "circle").number("hole", "radius", "2 m");
    maker.add("surface.trim", "holed");
    maker.set("holed", "surface", ResultName{"whole"}).set("holed", "curve", ResultName{"hole"});
    maker.word("holed", "keep", "outside");
    maker.add("curve.arc", "line");
    maker.word("line", "shape", "line");
    maker.set("line", "ends", Places{{"a", "1 m", "4 m", "0 m", "1"}, {"b", "7 m", "4 m", "0 m", "1"}});
    maker.add("points.typed", "dots");
    maker.set("dots", "rows", Lines{"1, 4, 0\n4, 4, 0\n7, 4, 0"});
    for (const auto& [name, thing] : {std::pair("laid_line", "line"), {"laid_dots", "dots"}}) {
        maker.add("thing.lay", name);
        maker.set(name, "thing", ResultName{thing}).set(name, "surface", ResultName{"holed"});
        maker.word(name, "over", "origin").number(name, "width", "8 m").number(name, "depth", "8 m");
    }
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<PointLattice>(test::value_of(made, "laid_dots")).point_count(), 2U);
    EXPECT_NEAR(length_of(std::get<CurveSet>(test::value_of(made, "laid_line")).curves.front()), 6, 1e-6);
}

// A block of 1 m by 1 m by 500 mm on the ground, which tiles a round wall of 2 m in radius and 3 m in height.
StudyMaker block_on_wall(const std::function<void(StudyMaker&)>& more = {}) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "rectangle").number("foot", "width", "1 m").number("foot", "depth", "1 m");
    maker.add("body.extrude", "block");
    maker.set("block", "curve", ResultName{"foot"}).number("block", "by", "500 mm");
    if (more) more(maker);
    maker.add("thing.lay", "laid");
    maker.set("laid", "thing", ResultName{"block"}).set("laid", "surface", ResultName{"wall"});
    return maker;
}

TEST(LaySteps, ABodyOverAWholeWallHasTheVolumeOfItsRing) {
    StudyMaker maker = block_on_wall();
    const Evaluation made = test::run(maker.study);
    const auto laid = std::get<SolidSet>(test::value_of(made, "laid"));
    ASSERT_EQ(laid.bodies.size(), 1U);
    // Outwards or inwards by the wall's own normal; its polygons are true to 2e-4 of the size.
    const double outside = pi * (2.5 * 2.5 - 4) * 3, inside = pi * (4 - 1.5 * 1.5) * 3;
    const double volume = laid.bodies.front().figures().volume;
    EXPECT_LT(std::min(std::abs(volume - outside) / outside, std::abs(volume - inside) / inside), 2e-3);
    ASSERT_FALSE(made.outcome("laid")->remarks.empty());
    EXPECT_NE(made.outcome("laid")->remarks.front().text.find("Faces stay flat between their corners"),
              std::string::npos);
}

TEST(LaySteps, TilesOfAMeshMeetWithoutASeamRoundAClosedSurface) {
    StudyMaker maker = block_on_wall([](StudyMaker& more) {
        more.add("lattice.rectangular", "grid");
        more.number("grid", "columns", "3").number("grid", "rows", "2");
        more.add("skin", "panel");
        more.set("panel", "points", ResultName{"grid"}).word("panel", "surface", "flat");
    });
    maker.set("laid", "thing", ResultName{"panel"})
        .word("laid", "tiles", "many")
        .word("laid", "steps", "lengths");
    maker.number("laid", "columns", "8").number("laid", "rows", "5");
    const auto mesh = std::get<Mesh>(test::value_of(test::run(maker.study), "laid"));
    EXPECT_EQ(mesh.face_count(), 8U * 5 * 6);
    EXPECT_EQ(mesh.vertex_count(), (8U * 3) * (5 * 2 + 1)) << "closed around, and one where tiles touch";
    EXPECT_EQ(mesh.part_count(), 40U);
    // Cell areas: all alike on a cylinder, chords of 24.
    const double chord = 2 * 2 * std::sin(pi / 24), height = 3.0 / 10;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        EXPECT_NEAR(length(area_vector(mesh, face)), chord * height, 1e-9);
}

TEST(LaySteps, TilesAreTurnedAndMirrored) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "sheet");
    maker.number("sheet", "width", "8 m").number("sheet", "depth", "4 m");
    maker.add("skin", "roof");
    maker.set("roof", "points", ResultName{"sheet"}).word("roof", "surface", "smooth");
    maker.add("points.typed", "dot");
    maker.set("dot", "rows", Lines{"0.25, 0.5, 0"}).word("dot", "arrangement", "scatter");
    maker.add("thing.lay", "laid");
    maker.set("laid", "thing", ResultName{"dot"}).set("laid", "surface", ResultName{"roof"});
    maker.word("laid", "over", "origin").number("laid", "width", "1 m").number("laid", "depth", "1 m");
    maker.word("laid", "tiles", "many").number("laid", "columns", "2").number("laid", "rows", "1");
    const auto places = [&] {
        const auto points = std::get<PointLattice>(test::value_of(test::run(maker.study), "laid"));
        // In shares of each tile of 4 m by 4 m, from its own corner.
        std::vector<Vec3> shares;
        for (std::size_t index = 0; index < points.address_count(); ++index) {
            const Vec3 p = points.point(index);
            shares.push_back({(p.x + 4) / 4 - static_cast<double>(index), (p.y + 2) / 4, p.z});
        }
        return shares;
    };
    const auto expect = [&](double first_x, double first_y, double second_x, double second_y) {
        const auto found = places();
        ASSERT_EQ(found.size(), 2U);
        EXPECT_LT(length(found[0] - Vec3{first_x, first_y, 0}), 1e-9);
        EXPECT_LT(length(found[1] - Vec3{second_x, second_y, 0}), 1e-9);
    };
    expect(0.25, 0.5, 0.25, 0.5);
    maker.word("laid", "turned", "quarter");
    expect(0.5, 0.25, 0.5, 0.25);
    maker.word("laid", "turned", "half");
    expect(0.75, 0.5, 0.75, 0.5);
    maker.word("laid", "turned", "three");
    expect(0.5, 0.75, 0.5, 0.75);
    maker.word("laid", "turned", "none").word("laid", "mirrored", "u");
    expect(0.25, 0.5, 0.75, 0.5);
}

TEST(LaySteps, PlacementsStandOnTheSurface) {
    StudyMaker maker = block_on_wall([](StudyMaker& more) {
        more.add("lattice.rectangular", "grid");
        more.number("grid", "columns", "7").number("grid", "rows", "4");
        more.add("placement.on_lattice", "frames");
        more.set("frames", "points", ResultName{"grid"});
    });
    maker.set("laid", "thing", ResultName{"frames"});
    const auto laid = std::get<Placements>(test::value_of(test::run(maker.study), "laid"));
    for (const Placement& placement : laid.present_placements()) {
        const Vec3 out = unit_or_zero({placement.origin.x, placement.origin.y, 0});
        EXPECT_NEAR(std::hypot(placement.origin.x, placement.origin.y), 2, 1e-9);
        EXPECT_NEAR(std::abs(dot(placement.up, out)), 1, 1e-6);
    }
}

TEST(CarrySteps, WhatWasLaidComesBackAsItWasDrawn) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("lattice.block", "drawn");
    maker.number("drawn", "width", "10 m").number("drawn", "depth", "2 m").number("drawn", "height", "0.4 m");
    maker.add("thing.move", "moved");
    maker.set("moved", "thing", ResultName{"drawn"})
        .number("moved", "x", "6 m")
        .number("moved", "y", "1.4 m");
    maker.number("moved", "z", "0 m");
    maker.add("thing.lay", "laid");
    maker.set("laid", "thing", ResultName{"moved"}).set("laid", "surface", ResultName{"wall"});
    maker.word("laid", "over", "origin").word("laid", "steps", "lengths");
    maker.number("laid", "width", "2 * pi * 2 m").number("laid", "depth", "3 m");
    maker.add("thing.carry", "back");
    maker.set("back", "thing", ResultName{"laid"}).set("back", "surface", ResultName{"wall"});
    maker.word("back", "steps", "lengths");
    const Evaluation made = test::run(maker.study);
    const auto drawn = std::get<PointLattice>(test::value_of(made, "moved")),
               back = std::get<PointLattice>(test::value_of(made, "back"));
    ASSERT_EQ(back.point_count(), drawn.point_count());
    for (std::size_t index = 0; index < drawn.address_count(); ++index)
        EXPECT_LT(length(back.point(index) - drawn.point(index)), 1e-7);
}

TEST(CarrySteps, OntoAnotherSurfaceSharesStay) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("outline.shape", "wide_rim");
    maker.word("wide_rim", "shape", "circle").number("wide_rim", "radius", "5 m");
    maker.add("surface.extrude", "wide_wall");
    maker.set("wide_wall", "curve", ResultName{"wide_rim"}).number("wide_wall", "by", "6 m");
    maker.add("lattice.on_surface", "dots");
    maker.set("dots", "surface", ResultName{"wall"})
        .number("dots", "columns", "12")
        .number("dots", "rows", "4");
    maker.add("thing.carry", "carried");
    maker.set("carried", "thing", ResultName{"dots"}).set("carried", "surface", ResultName{"wall"});
    maker.word("carried", "onto", "surface").set("carried", "target", ResultName{"wide_wall"});
    const Evaluation made = test::run(maker.study);
    const auto from = std::get<PointLattice>(test::value_of(made, "dots")),
               to = std::get<PointLattice>(test::value_of(made, "carried"));
    for (std::size_t index = 0; index < from.address_count(); ++index) {
        const Vec3 p = from.point(index);
        EXPECT_LT(length(to.point(index) - Vec3{2.5 * p.x, 2.5 * p.y, 2 * p.z}), 1e-7);
    }
}

TEST(LayAlong, ABarFollowsACircleAtItsOwnLength) {
    StudyMaker maker;
    maker.add("outline.shape", "path");
    maker.word("path", "shape", "circle").number("path", "radius", "4 m");
    maker.add("lattice.block", "bar");
    maker.number("bar", "columns", "20").number("bar", "width", "6 m").number("bar", "depth", "1 m");
    maker.number("bar", "height", "1 m");
    maker.add("thing.lay_along", "bent");
    maker.set("bent", "thing", ResultName{"bar"}).word("bent", "rule", "true").number("bent", "start", "1 m");
    const Evaluation made = test::run(maker.study);
    const auto from = std::get<PointLattice>(test::value_of(made, "bar")),
               to = std::get<PointLattice>(test::value_of(made, "bent"));
    for (std::size_t index = 0; index < from.address_count(); ++index) {
        const Vec3 p = from.point(index);
        // To the left of an anticlockwise circle is inwards; x counts from the bar's left end.
        const double turn = (p.x + 3 + 1) / 4, out = 4 - p.y;
        EXPECT_LT(length(to.point(index) - Vec3{out * std::cos(turn), out * std::sin(turn), p.z}), 1e-6);
    }
}

TEST(LayAlong, StretchedItReachesFromEndToEndAndBeyondThereIsNothing) {
    StudyMaker maker;
    maker.add("curve.arc", "path");
    maker.word("path", "shape", "line");
    maker.set("path", "ends", Places{{"a", "0 m", "0 m", "0 m", "1"}, {"b", "0 m", "8 m", "6 m", "1"}});
    maker.add("points.typed", "row");
    maker.set("row", "rows", Lines{"-1, 0, 0\n0, 1, 0\n1, 0, 2"});
    maker.add("thing.lay_along", "bent");
    maker.set("bent", "thing", ResultName{"row"});
    const auto to = std::get<PointLattice>(test::value_of(test::run(maker.study), "bent"));
    EXPECT_LT(length(to.point(0) - Vec3{0, 0, 0}), 1e-9);
    EXPECT_LT(length(to.point(1) - Vec3{-1, 4, 3}), 1e-9) << "left of the way is -x";
    EXPECT_LT(length(to.point(2) - Vec3{0, 8 - 2 * 0.6, 6 + 2 * 0.8}), 1e-9) << "up is square to it";
    maker.word("bent", "rule", "true").number("bent", "start", "8.5 m");
    const Evaluation beyond = test::run(maker.study);
    EXPECT_EQ(std::get<PointLattice>(test::value_of(beyond, "bent")).point_count(), 2U);
    EXPECT_TRUE(beyond.outcome("bent")->remarks.front().loss);
}

TEST(LayAlong, UprightStaysLevelAndCarriedDoesNot) {
    StudyMaker maker;
    maker.add("curve.drawn", "path");
    maker.set("path", "poles",
              Places{{"a", "0 m", "0 m", "0 m", "1"},
                     {"b", "6 m", "0 m", "0 m", "1"},
                     {"c", "6 m", "6 m", "4 m", "1"},
                     {"d", "0 m", "6 m", "9 m", "1"}});
    maker.add("lattice.rectangular", "strip");
    maker.number("strip", "columns", "10").number("strip", "rows", "1").number("strip", "depth", "2 m");
    maker.add("thing.lay_along", "bent");
    maker.set("bent", "thing", ResultName{"strip"});
    const auto steepest = [&] {
        const auto to = std::get<PointLattice>(test::value_of(test::run(maker.study), "bent"));
        double worst = 0;
        for (std::size_t i = 0; i < 11; ++i) {
            const Vec3 across = to.point(i + 11) - to.point(i);
            EXPECT_NEAR(length(across), 2, 1e-9);
            worst = std::max(worst, std::abs(across.z));
        }
        return worst;
    };
    EXPECT_LT(steepest(), 1e-9);
    maker.word("bent", "turning", "least");
    EXPECT_GT(steepest(), 0.1);
}

}  // namespace
}  // namespace plume
