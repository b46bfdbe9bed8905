// Sections and levels of surfaces against closed forms.

#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/levels/level_arcs.hpp"
#include "core/geometry/levels/level_lines.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

const Placement level_plane = test::at_origin();

LevelLines levels_of(const SplinePatch& patch, const std::vector<double>& levels,
                     const Placement& plane = level_plane, double tolerance = 1e-7) {
    const auto made = level_lines(patch, heights_above(patch, plane), levels, tolerance, plume::Run());
    EXPECT_TRUE(made);
    return *made;
}

// Every place of every line is on the plane at its level, and where `apart` says it is on the surface.
template <class Apart>
void expect_on(const LevelLines& made, const std::vector<double>& levels, const Apart& apart, double within,
               const Placement& plane = level_plane) {
    for (const LevelLine& line : made.lines)
        for (int step = 0; step <= 300; ++step) {
            const SplineBasis& basis = line.curve.basis();
            const Vec3 p = evaluate(line.curve, std::lerp(basis.start(), basis.end(), step / 300.0)).position;
            ASSERT_NEAR(plane.to_local(p).z, levels[line.level], within);
            ASSERT_LT(std::abs(apart(p)), within);
        }
}

// In bays of half a metre.
SplinePatch quadric(double times) {
    SplinePatch patch = test::quadric(times);
    for (const int direction : {0, 1})
        patch = changed(patch, direction,
                        refined(basis_along(patch, direction), {-1.5, -1, -0.5, 0, 0.5, 1, 1.5}));
    return patch;
}

TEST(LevelLines, OfASphereAreCirclesOfTheirRadii) {
    const std::vector<double> levels{-2.9, -1.5, 0, 0.7, 2.99};
    const LevelLines made = levels_of(test::sphere(3), levels);
    ASSERT_EQ(made.lines.size(), levels.size());
    for (const LevelLine& line : made.lines) {
        EXPECT_TRUE(line.curve.closed());
        const double radius = std::sqrt(9 - levels[line.level] * levels[line.level]);
        EXPECT_NEAR(length_of(line.curve), 2 * pi * radius, 1e-5);
    }
    expect_on(
        made, levels, [](Vec3 p) { return length(p) - 3; }, 2e-7);
    EXPECT_TRUE(levels_of(test::sphere(3), {3.001}).lines.empty());
    EXPECT_TRUE(levels_of(test::sphere(3), {-4, 4}).lines.empty());
}

TEST(LevelLines, OfARingByEveryKindOfPlane) {
    const SplinePatch ring = test::torus(3, 1);
    const auto apart = [](Vec3 p) { return std::hypot(std::hypot(p.x, p.y) - 3, p.z) - 1; };
    // Level: two circles; upright through the axis: two small ones; beside the axis: one, or two ovals.
    EXPECT_EQ(levels_of(ring, {0}).lines.size(), 2U);
    const Placement upright = placement_of({}, {0, 1, 0}, {1, 0, 0});
    const std::vector<double> aside{0, 1, 1.999, 2.001, 3.5};
    const LevelLines sections = levels_of(ring, aside, upright);
    const std::vector<std::size_t> wanted{2, 2, 2, 1, 1};
    for (std::size_t level = 0; level < aside.size(); ++level)
        EXPECT_EQ(std::ranges::count(sections.lines, level, &LevelLine::level),
                  static_cast<std::ptrdiff_t>(wanted[level]))
            << aside[level];
    for (const LevelLine& line : sections.lines)
        EXPECT_TRUE(line.curve.closed());
    expect_on(sections, aside, apart, 3e-7, upright);
    // A plane that touches it within at two places cuts two circles that cross there (Villarceau's): pieces
    // of both, however they are paired.
    const Placement slanted =
        placement_of({}, {std::sin(std::asin(1 / 3.0)), 0, std::cos(std::asin(1 / 3.0))}, {0, 1, 0});
    const LevelLines circles = levels_of(ring, {0}, slanted);
    double total = 0;
    for (const LevelLine& line : circles.lines)
        total += length_of(line.curve);
    EXPECT_NEAR(total, 2 * 2 * pi * 3, 0.02);
}

TEST(LevelLines, OfAParaboloidASaddleAndAPlateau) {
    const SplinePatch bowl = quadric(1);
    const std::vector<double> heights{0.02, 0.5, 1.5, 2.5};
    const LevelLines rings = levels_of(bowl, heights);
    expect_on(
        rings, heights, [](Vec3 p) { return p.z - (p.x * p.x + p.y * p.y) / 2; }, 1e-6);
    EXPECT_EQ(rings.lines.size(), 3U + 4U) << "the last one is cut into four by the rims";
    EXPECT_EQ(std::ranges::count_if(rings.lines, [](const LevelLine& line) { return line.curve.closed(); }),
              3);
    const SplinePatch saddle = quadric(-1);
    const LevelLines two = levels_of(saddle, {-0.5, 0.5});
    EXPECT_EQ(two.lines.size(), 4U);
    const LevelLines cross = levels_of(saddle, {0});
    double length = 0;
    for (const LevelLine& line : cross.lines)
        length += length_of(line.curve);
    EXPECT_NEAR(length, 2 * 4 * std::sqrt(2), 0.02) << "both diagonals";
    const SplinePatch flat = *extruded(*line_between({0, 0, 1}, {3, 0, 1}), {0, 2, 0});
    const LevelLines plateau = levels_of(flat, {1});
    EXPECT_TRUE(plateau.lines.empty());
    EXPECT_GT(plateau.level_bays, 0U);
}

TEST(LevelLines, SmallHillsAreNotMissed) {
    // A bump of a tenth of a bay across, in the middle of one bay: all poles around it hide it from corners.
    const SplineBasis u{3, false, {0, 0, 0, 0, 1, 1, 1, 1}, {}};
    Doubles x, y, z;
    for (int b = 0; b < 4; ++b)
        for (int a = 0; a < 4; ++a) {
            x.push_back(a);
            y.push_back(b);
            z.push_back((a == 1 || a == 2) && (b == 1 || b == 2) ? 1 : 0);
        }
    const SplinePatch hill = *SplinePatch::make({u, u, x, y, z, {}, {}, {}});
    const double top = 0.75 * 0.75;
    for (const double below : {0.1, 1e-2, 1e-4}) {
        const LevelLines ring = levels_of(hill, {top - below});
        ASSERT_EQ(ring.lines.size(), 1U) << below;
        EXPECT_TRUE(ring.lines.front().curve.closed());
    }
    EXPECT_TRUE(levels_of(hill, {top + 1e-9}).lines.empty());
}

TEST(LevelLines, TheHigherSideIsAtTheLeft) {
    const SplinePatch bowl = quadric(1);
    const auto ring = levels_of(bowl, {0.5}).lines;
    ASSERT_EQ(ring.size(), 1U);
    const CurvePoint at = evaluate(ring.front().curve, ring.front().curve.basis().start());
    EXPECT_GT(dot(cross(Vec3{0, 0, 1}, at.along), {at.position.x, at.position.y, 0}), 0)
        << "outwards it rises, seen against the normal, which points up";
}

// Turned about the axis, a flat curve from the axis covers its plane out and in again: the cut goes through
// the tip, straight, and turns where the curve is furthest and nearest.
TEST(LevelLines, ThroughATipAndOverFolds) {
    const SplineCurve cusp = *SplineCurve::make({{3, false, {0, 0, 0, 0, 1, 1, 1, 1}, {}},
                                                 Doubles{0, 4, 0, 4},
                                                 Doubles{0, 4, 4, 0},
                                                 Doubles{0, 0, 0, 0},
                                                 {},
                                                 {}});
    double wanted = 0, before = 0;
    constexpr int steps = 200'000;
    for (int step = 1; step <= steps; ++step) {
        const double radius = length(evaluate(cusp, static_cast<double>(step) / steps).position);
        wanted += 2 * std::abs(radius - before);
        before = radius;
    }
    const SplinePatch folded = *revolved(cusp, level_plane, 2 * pi);
    for (const double turn : {0.0, 0.3, 1.1, 2.0}) {
        const Placement upright = placement_of({}, {std::sin(turn), std::cos(turn), 0}, {0, 0, 1});
        const LevelLines cut = levels_of(folded, {0}, upright, 1e-6);
        ASSERT_EQ(cut.lines.size(), 1U) << turn;
        EXPECT_NEAR(length_of(cut.lines.front().curve), wanted, 2e-3) << turn;
        EXPECT_LT(cut.deviation, 1e-5);
    }
    const SplinePatch cone = *revolved(*line_between({0, 0, 3}, {4, 0, 0}), level_plane, 2 * pi);
    const LevelLines gable = levels_of(cone, {0}, placement_of({}, {0.6, 0.8, 0}, {0, 0, 1}));
    ASSERT_EQ(gable.lines.size(), 1U);
    EXPECT_NEAR(length_of(gable.lines.front().curve), 10, 1e-9);
}

// Where a level touches a rim, a line that ends there and one that goes on are both right; no third one is.
TEST(LevelLines, TouchingARim) {
    const LevelLines parabola = levels_of(quadric(1), {2});
    for (const LevelLine& line : parabola.lines)
        EXPECT_LT(line.curve.x().size(), 500U);
    double total = 0;
    for (const LevelLine& line : parabola.lines)
        total += length_of(line.curve);
    EXPECT_NEAR(total, 2 * pi * 2, 1e-3) << "a circle that touches all four";
}

TEST(LevelLines, CreasesKeepTheirCorners) {
    // A roof of two planes, z = 1 - |x|, cut level: two lines; cut upright across: one with a corner.
    const SplinePatch roof = *SplinePatch::make({{1, false, {0, 0, 1, 2, 2}, {}},
                                                 {1, false, {0, 0, 1, 1}, {}},
                                                 Doubles{-1, 0, 1, -1, 0, 1},
                                                 Doubles{0, 0, 0, 2, 2, 2},
                                                 Doubles{0, 1, 0, 0, 1, 0},
                                                 {},
                                                 {}});
    EXPECT_EQ(levels_of(roof, {0.5}).lines.size(), 2U);
    const Placement across = placement_of({0, 1, 0}, {0, 1, 0}, {1, 0, 0});
    const auto section = levels_of(roof, {0}, across).lines;
    ASSERT_EQ(section.size(), 1U);
    EXPECT_NEAR(length_of(section.front().curve), 2 * std::sqrt(2), 1e-9);
}

TEST(LevelLines, TrimsCutThemOff) {
    const SplinePatch plate = *extruded(*line_between({-3, -3, 0}, {3, -3, 0}), {0, 6, 0});
    const auto cast = cast_onto(shadow_of(plate, {0, 0, 1}), ellipse(test::at_origin(), 1, 1), plume::Run());
    const SplinePatch holed = trimmed(plate, {*cast}, TrimSide::outside, plume::Run())->front();
    const Placement across = placement_of({}, {0, 1, 0}, {1, 0, 0});
    const auto lines = levels_of(holed, {-2, 0, 0.6}, across).lines;
    ASSERT_EQ(lines.size(), 1U + 2U + 2U);
    double length = 0;
    for (const LevelLine& line : lines)
        length += length_of(line.curve);
    EXPECT_NEAR(length, 6 + 4 + (6 - 1.6), 1e-7);
}

TEST(LevelArcs, AreCancelled) {
    plume::Run cancelled;
    cancelled.cancel();
    const std::vector<double> levels{0};
    EXPECT_EQ(level_arcs(heights_above(test::sphere(1), level_plane), levels, cancelled).error().code,
              ErrorCode::cancelled);
}

TEST(SectionSteps, PlanesOfPlacementsCutASurface) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"}).number("wall", "by", "3 m");
    maker.add("placement.frame", "plane");
    maker.set("plane", "place", Places{{"at", "0 m", "0 m", "1 m", "1"}});
    maker.add("curve.section", "sections");
    maker.set("sections", "surface", ResultName{"wall"}).word("sections", "by", "placed");
    maker.set("sections", "planes", ResultName{"plane"});
    const auto level = std::get<CurveSet>(test::value_of(test::run(maker.study), "sections"));
    ASSERT_EQ(level.curves.size(), 1U);
    EXPECT_TRUE(level.curves.front().closed());
    EXPECT_NEAR(length_of(level.curves.front()), 4 * pi, 1e-5);
    EXPECT_EQ(field_at(level.curves.front(), "section", level.curves.front().basis().start()), 0);
    // Upright it cuts two lines.
    const auto upright =
        std::get<CurveSet>(test::value_of(test::run(maker.word("plane", "up", "x").study), "sections"));
    ASSERT_EQ(upright.curves.size(), 2U);
    for (const SplineCurve& curve : upright.curves)
        EXPECT_NEAR(length_of(curve), 3, 1e-9);
    maker.word("plane", "up", "z");
    maker.set("plane", "place", Places{{"at", "0 m", "0 m", "4 m", "1"}});
    EXPECT_EQ(test::error_of(test::run(maker.study), "sections").slot, "surface") << "above it";
}

}  // namespace
}  // namespace plume
