// Outlines, points along curves and in regions.

#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/geometry/points/poisson_disc.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

Outline outline_through(std::vector<Vec3> corners) {
    CurvePoints item;
    item.points = std::move(corners);
    item.closed = true;
    return *Outline::make(*curve_through(std::move(item), CurveShape::straight));
}

StudyMaker shape(const std::string& word) {
    StudyMaker maker;
    maker.add("outline.shape", "shape");
    maker.word("shape", "shape", word);
    return maker;
}

Outline outline_of(const StudyMaker& maker, const std::string& name) {
    return *Outline::make(std::get<CurveSet>(test::value_of(test::run(maker.study), name)));
}

TEST(Outline, AreasOfShapes) {
    EXPECT_NEAR(outline_of(shape("rectangle"), "shape").area(), 36 * 24, 1e-9);
    StudyMaker hexagon = shape("polygon");
    hexagon.number("shape", "radius", "2 m");
    EXPECT_NEAR(outline_of(hexagon, "shape").area(), 6 * std::sqrt(3.0), 1e-9);
    StudyMaker circle = shape("circle");
    circle.number("shape", "radius", "3 m");
    EXPECT_NEAR(outline_of(circle, "shape").area() / (9 * std::numbers::pi), 1, 2e-3) << "sampled";
    EXPECT_NEAR(outline_of(shape("ellipse"), "shape").area() / (18 * 12 * std::numbers::pi), 1, 2e-3);
    StudyMaker super = shape("superellipse");
    super.number("shape", "exponent", "4");
    // 4 a b Gamma(1 + 1/n)^2 / Gamma(1 + 2/n).
    const double exact = 4 * 18 * 12 * std::pow(std::tgamma(1.25), 2) / std::tgamma(1.5);
    EXPECT_NEAR(outline_of(super, "shape").area() / exact, 1, 3e-3);
}

TEST(Outline, InsideIsCountedEvenOdd) {
    // An L: the notch is outside.
    const Outline l = outline_through({{0, 0, 0}, {4, 0, 0}, {4, 2, 0}, {2, 2, 0}, {2, 4, 0}, {0, 4, 0}});
    EXPECT_DOUBLE_EQ(l.area(), 12);
    EXPECT_TRUE(l.contains(Vec3{1, 3, 0}));
    EXPECT_TRUE(l.contains(Vec3{3, 1, 7})) << "seen along the normal";
    EXPECT_FALSE(l.contains(Vec3{3, 3, 0}));
    EXPECT_FALSE(l.contains(Vec3{-1, 1, 0}));
    EXPECT_FALSE(l.contains(Vec3{NAN, 1, 0}));
}

TEST(Outline, OpenCrossingAndCrookedOnesAreNamed) {
    CurvePoints open;
    open.points = {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}};
    EXPECT_EQ(Outline::make(*curve_through(open, CurveShape::straight)).error().code, ErrorCode::has_gaps);
    CurvePoints eight;
    eight.points = {{0, 0, 0}, {2, 2, 0}, {2, 0, 0}, {0, 2, 0}};
    eight.closed = true;
    const Error crossing = Outline::make(*curve_through(eight, CurveShape::straight)).error();
    EXPECT_NE(crossing.message.find("crosses itself"), std::string::npos);
    CurvePoints crooked;
    crooked.points = {{0, 0, 0}, {2, 0, 1}, {2, 2, 0}, {0, 2, 1}};
    crooked.closed = true;
    EXPECT_NE(Outline::make(*curve_through(crooked, CurveShape::straight)).error().message.find("not flat"),
              std::string::npos);
    StudyMaker maker;
    maker.add("outline.drawn", "drawn");
    maker.set("drawn", "corners",
              Places{{"a", "0 m", "0 m", "0 m", "1"},
                     {"b", "2 m", "2 m", "0 m", "1"},
                     {"c", "2 m", "0 m", "0 m", "1"},
                     {"d", "0 m", "2 m", "0 m", "1"}});
    EXPECT_NE(test::error_of(test::run(maker.study), "drawn").message.find("crosses itself"),
              std::string::npos);
}

// Two runs through one corner, or through a corner and the middle of an edge.
TEST(Outline, RunningThroughItselfInACornerIsACrossing) {
    const auto made = [](std::vector<Vec3> corners) {
        CurvePoints item;
        item.points = std::move(corners);
        item.closed = true;
        return Outline::make(*curve_through(std::move(item), CurveShape::straight));
    };
    EXPECT_FALSE(made({{0, 0, 0}, {2, 2, 0}, {5, 4, 0}, {4, 0, 0}, {2, 2, 0}, {0, 4, 0}}));
    EXPECT_TRUE(made({{0, 0, 0}, {2, 2, 0}, {4, 0, 0}, {5, 4, 0}, {2, 2, 0}, {0, 4, 0}}))
        << "the same corners, but the two only touch";
    EXPECT_FALSE(made({{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {2, 0, 0}, {1, -3, 0}}));
    EXPECT_TRUE(made({{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {2, 0, 0}, {1, 3, 0}})) << "it stands on an edge";
    CurvePoints smooth;
    smooth.points = {{0, 0, 0}, {2, 2, 0}, {5, 4, 0}, {4, 0, 0}, {2, 2, 0}, {0, 4, 0}};
    smooth.closed = true;
    EXPECT_FALSE(Outline::make(*curve_through(smooth, CurveShape::smooth)));
}

TEST(Outline, OffsetsOfASquare) {
    const Outline square = outline_through({{0, 0, 0}, {10, 0, 0}, {10, 10, 0}, {0, 10, 0}});
    const auto area_of = [](const std::vector<FlatPoint>& loop) {
        double twice = 0;
        for (std::size_t at = 0; at < loop.size(); ++at) {
            const FlatPoint a = loop[at], b = loop[(at + 1) % loop.size()];
            twice += a.x * b.y - a.y * b.x;
        }
        return std::abs(twice / 2);
    };
    EXPECT_NEAR(area_of(offset_loops(square, -2, OffsetCorners::sharp)->front()), 36, 1e-6);
    EXPECT_NEAR(area_of(offset_loops(square, 1, OffsetCorners::sharp)->front()), 144, 1e-6);
    EXPECT_NEAR(area_of(offset_loops(square, 1, OffsetCorners::round)->front()), 140 + std::numbers::pi,
                1e-2);
    EXPECT_EQ(offset_loops(square, -5.1, OffsetCorners::sharp).error().code, ErrorCode::out_of_range);
    // A dumbbell falls into two.
    const Outline bell = outline_through({{0, 0, 0},
                                          {4, 0, 0},
                                          {4, 1.8, 0},
                                          {8, 1.8, 0},
                                          {8, 0, 0},
                                          {12, 0, 0},
                                          {12, 4, 0},
                                          {8, 4, 0},
                                          {8, 2.2, 0},
                                          {4, 2.2, 0},
                                          {4, 4, 0},
                                          {0, 4, 0}});
    EXPECT_EQ(offset_loops(bell, -0.5, OffsetCorners::sharp)->size(), 2U);
}

TEST(Outline, TheOffsetStepGoesInAndOut) {
    StudyMaker maker = shape("rectangle");
    maker.add("outline.offset", "inset");
    maker.number("inset", "distance", "2 m");
    EXPECT_NEAR(outline_of(maker, "inset").area(), 32 * 20, 1e-6);
    maker.word("inset", "side", "out");
    EXPECT_NEAR(outline_of(maker, "inset").area(), 40 * 28, 1e-6);
    maker.word("inset", "side", "in").number("inset", "distance", "13 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "inset").where, "Distance");
}

TEST(Poisson, KeepsItsSpacingAndFillsTheOutline) {
    const Outline field =
        outline_through({{0, 0, 0}, {20, 0, 0}, {20, 12, 0}, {8, 12, 0}, {8, 5, 0}, {0, 5, 0}});
    const auto points = *poisson_points(field, 0.5, 7, plume::Run());
    double nearest = 1e9;
    for (std::size_t a = 0; a < points.size(); ++a) {
        EXPECT_TRUE(field.contains(points[a]));
        for (std::size_t b = a + 1; b < points.size(); ++b)
            nearest = std::min(nearest, std::hypot(points[a].x - points[b].x, points[a].y - points[b].y));
    }
    EXPECT_GE(nearest, 0.5);
    // Every place is nearer than two spacings to a point: no hole was forgotten.
    for (double x = 0.25; x < 20; x += 0.5)
        for (double y = 0.25; y < 12; y += 0.5) {
            if (!field.contains(FlatPoint{x, y})) continue;
            double far = 1e9;
            for (const FlatPoint p : points)
                far = std::min(far, std::hypot(p.x - x, p.y - y));
            EXPECT_LT(far, 0.8) << x << ", " << y;
        }
    // Discs thrown at random jam at 0.547 of the plane; those at the border stick out of it a little.
    const double covered = static_cast<double>(points.size()) * std::numbers::pi * 0.0625 / field.area();
    EXPECT_GT(covered, 0.47);
    EXPECT_LT(covered, 0.60);
    const auto again = *poisson_points(field, 0.5, 7, plume::Run()),
               other = *poisson_points(field, 0.5, 8, plume::Run());
    ASSERT_EQ(again.size(), points.size());
    EXPECT_EQ(again.back().x, points.back().x);
    EXPECT_TRUE(other.size() != points.size() || other.back().x != points.back().x);
}

TEST(Poisson, SpacingLargerThanTheOutlineAndHugeSeeds) {
    StudyMaker maker = shape("circle");
    maker.add("lattice.scatter", "scatter");
    maker.number("shape", "radius", "1 m").number("scatter", "spacing", "50 m");
    const Error error = test::error_of(test::run(maker.study), "scatter");
    EXPECT_EQ(error.code, ErrorCode::out_of_range);
    EXPECT_FALSE(error.mend.empty());
    maker.number("scatter", "spacing", "0.2 m").number("scatter", "seed", "36893488147419103232");
    EXPECT_EQ(test::error_of(test::run(maker.study), "scatter").where, "Seed");
    maker.number("scatter", "seed", "1.5");
    EXPECT_EQ(test::error_of(test::run(maker.study), "scatter").code, ErrorCode::bad_number);
}

TEST(AlongCurve, EvenLengthsAndNoSeamTwice) {
    StudyMaker maker = shape("circle");
    maker.number("shape", "radius", "5 m");
    maker.add("lattice.along_curve", "stations");
    maker.number("stations", "bays", "10");
    const auto ring = std::get<PointLattice>(test::value_of(test::run(maker.study), "stations"));
    EXPECT_EQ(ring.point_count(), 10U);
    EXPECT_TRUE(ring.closed(0));
    const double chord = 2 * 5 * std::sin(std::numbers::pi / 10);
    for (std::size_t at = 0; at < 10; ++at)
        EXPECT_NEAR(length(ring.point(at) - ring.point((at + 1) % 10)), chord, 1e-6);
    maker.word("stations", "rule", "spacing").number("stations", "spacing", "3 m");
    // 31.4 m hold ten whole bays of 3 m; they are stretched to meet.
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "stations")).point_count(), 10U);
    maker.number("stations", "spacing", "99 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "stations").where, "Spacing");
    maker.word("stations", "rule", "shares").set("stations", "shares", Lines{"0 0.5 1"});
    EXPECT_EQ(std::get<PointLattice>(test::value_of(test::run(maker.study), "stations")).point_count(), 2U)
        << "1 is the seam, which is 0 already";
    maker.set("stations", "shares", Lines{"0 1.5"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "stations").code, ErrorCode::bad_number);
}

TEST(OnSurface, PointsLieOnIt) {
    StudyMaker maker = test::canopy();
    maker.add("lattice.on_surface", "panels");
    maker.number("panels", "columns", "24").number("panels", "rows", "16");
    const Evaluation evaluation = test::run(maker.study);
    const auto panels = std::get<PointLattice>(test::value_of(evaluation, "panels"));
    EXPECT_EQ(panels.point_count(), 25U * 17U);
    const auto pushed = std::get<PointLattice>(test::value_of(evaluation, "pushed"));
    EXPECT_LT(length(panels.point(0) - pushed.point(0)), 1e-9);
    EXPECT_LT(length(panels.point(25 * 17 - 1) - pushed.point(25 * 17 - 1)), 1e-9);
}

TEST(KeepInside, BothSidesMakeTheWhole) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("outline.shape", "shape");
    maker.word("shape", "shape", "circle").number("shape", "radius", "6.1 m");
    maker.add("points.keep_inside", "inside");
    maker.add("points.keep_inside", "outside");
    maker.set("inside", "points", ResultName{"grid"}).set("outside", "points", ResultName{"grid"});
    maker.word("outside", "side", "outside");
    const Evaluation evaluation = test::run(maker.study);
    const auto inside = std::get<PointLattice>(test::value_of(evaluation, "inside"));
    const auto outside = std::get<PointLattice>(test::value_of(evaluation, "outside"));
    EXPECT_EQ(inside.point_count() + outside.point_count(), 425U);
    std::size_t expected = 0;
    for (std::size_t index = 0; index < inside.address_count(); ++index)
        expected += std::hypot(inside.x()[index], inside.y()[index]) < 6.1 ? 1 : 0;
    EXPECT_EQ(inside.point_count(), expected);
}

}  // namespace
}  // namespace plume
