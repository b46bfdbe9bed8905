// Outlines that run beyond the rims of surfaces, through earlier trims and round closed ones.

#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/traced_curve.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
constexpr Vec3 upwards{0, 0, 1};

SplineCurve circle(double radius, Vec3 centre = {}) {
    return ellipse(placement_of(centre, upwards, {1, 0, 0}), radius, radius);
}
SplineCurve box(double x0, double y0, double x1, double y1) {
    CurvePoints corners;
    corners.closed = true;
    corners.points = {{x0, y0, 0}, {x1, y0, 0}, {x1, y1, 0}, {x0, y1, 0}};
    return *curve_through(corners, CurveShape::straight);
}
// A plate over -3..3 both ways.
SplinePatch plate() {
    return *extruded(*line_between({-3, -3, 1}, {3, -3, 1}), {0, 6, 0});
}
// The same plate, its lines not spaced evenly: outlines are followed over it.
SplinePatch uneven_plate() {
    const SplineBasis basis{2, false, {0, 0, 0, 1, 1, 1}, {}};
    Doubles x, y;
    for (const double b : {-3.0, -1.0, 3.0})
        for (const double a : {-3.0, 1.5, 3.0}) {
            x.push_back(a);
            y.push_back(b);
        }
    return *SplinePatch::make({basis, basis, x, y, Doubles(9, 1.0), {}, {}});
}
// A pipe of radius 2 about the X axis, from -4 to 4.
SplinePatch pipe() {
    return *extruded(ellipse(placement_of({-4, 0, 0}, {1, 0, 0}, {0, 1, 0}), 2, 2), {8, 0, 0});
}

Result<std::vector<SplinePatch>> try_cut(const SplinePatch& patch, const std::vector<SplineCurve>& outlines,
                                         TrimSide keep) {
    std::vector<Cast> casts;
    for (const SplineCurve& outline : outlines) {
        auto cast = cast_onto(shadow_of(patch, upwards), outline, plume::Run());
        if (!cast) return cast.error();
        casts.push_back(*std::move(cast));
    }
    return trimmed(patch, casts, keep, plume::Run());
}
std::vector<SplinePatch> cut(const SplinePatch& patch, const std::vector<SplineCurve>& outlines,
                             TrimSide keep) {
    auto pieces = try_cut(patch, outlines, keep);
    EXPECT_TRUE(pieces) << pieces.error().message;
    return pieces ? *pieces : std::vector<SplinePatch>();
}
double area(const std::vector<SplinePatch>& patches) {
    return *area_of({patches}, plume::Run());
}

// What two circles of radius 1, `apart` from each other, share.
double lens(double apart) {
    return 2 * std::acos(apart / 2) - apart / 2 * std::sqrt(4 - apart * apart);
}

TEST(TrimsAcross, ARimIsCutIntoByHalfACircle) {
    for (const SplinePatch& patch : {plate(), uneven_plate()}) {
        const SplineCurve outline = circle(1, {3, 0.4, 9});
        EXPECT_NEAR(area(cut(patch, {outline}, TrimSide::outside)), 36 - pi / 2, 2e-6);
        EXPECT_NEAR(area(cut(patch, {outline}, TrimSide::inside)), pi / 2, 2e-6);
    }
}

TEST(TrimsAcross, ACornerIsCutOff) {
    for (const SplinePatch& patch : {plate(), uneven_plate()}) {
        const SplineCurve outline = box(1, 2, 5, 6);
        EXPECT_NEAR(area(cut(patch, {outline}, TrimSide::outside)), 36 - 2, 2e-6);
        EXPECT_NEAR(area(cut(patch, {outline}, TrimSide::inside)), 2, 2e-6);
    }
}

TEST(TrimsAcross, AStripCutsItIntoTwo) {
    for (const SplinePatch& patch : {plate(), uneven_plate()}) {
        const auto pieces = cut(patch, {box(-0.5, -4, 1, 4)}, TrimSide::outside);
        ASSERT_EQ(pieces.size(), 2U);
        EXPECT_NEAR(area(pieces), 36 - 1.5 * 6, 2e-6);
        EXPECT_EQ(cut(patch, {box(-0.5, -4, 1, 4)}, TrimSide::inside).size(), 1U);
    }
}

TEST(TrimsAcross, OneAllAroundKeepsAllOrNothing) {
    for (const SplinePatch& patch : {plate(), uneven_plate()}) {
        const auto all = cut(patch, {circle(9)}, TrimSide::inside);
        ASSERT_EQ(all.size(), 1U);
        EXPECT_FALSE(all.front().trimmed());
        EXPECT_EQ(try_cut(patch, {circle(9)}, TrimSide::outside).error().code, ErrorCode::empty_input);
        // With a hole in it: an even number of outlines is outside.
        EXPECT_NEAR(area(cut(patch, {circle(9), circle(1)}, TrimSide::inside)), 36 - pi, 2e-6);
    }
}

TEST(TrimsAcross, ASecondHoleThroughTheFirst) {
    for (const SplinePatch& patch : {plate(), uneven_plate()}) {
        const SplinePatch holed = cut(patch, {circle(1, {-0.4, 0, 0})}, TrimSide::outside).front();
        const auto both = cut(holed, {circle(1, {0.4, 0.3, 0})}, TrimSide::outside);
        ASSERT_EQ(both.size(), 1U);
        EXPECT_EQ(both.front().trims().size(), 2U) << "the rim and one hole";
        const double shared = lens(std::hypot(0.8, 0.3));
        EXPECT_NEAR(area(both), 36 - 2 * pi + shared, 3e-6);
        EXPECT_NEAR(area(cut(holed, {circle(1, {0.4, 0.3, 0})}, TrimSide::inside)), pi - shared, 3e-6);
    }
}

TEST(TrimsAcross, ThePipesEndIsCutInto) {
    // An upright drill of radius 1 whose axis goes through the end of the pipe takes half of what it does
    // inside of it, out of both sides.
    const double whole = [] {
        double sum = 0;
        constexpr int steps = 20'000;
        for (int step = 0; step < steps; ++step) {
            const double t = pi * ((step + 0.5) / steps - 0.5), y = std::sin(t);
            sum += 2 * std::cos(t) * 2 / std::sqrt(4 - y * y) * std::cos(t) * pi / steps;
        }
        return sum;
    }();
    const SplineCurve outline = circle(1, {4, 0, 9});
    EXPECT_NEAR(area(cut(pipe(), {outline}, TrimSide::outside)), 32 * pi - whole, 5e-6);
    const auto lids = cut(pipe(), {outline}, TrimSide::inside);
    EXPECT_EQ(lids.size(), 2U);
    EXPECT_NEAR(area(lids), whole, 5e-6);
}

TEST(TrimsAcross, RoundADomeItCutsTheCapOff) {
    const double radius = 3;
    const SplinePatch dome =
        *revolved(ellipse_arc({placement_of({0, 0, 0}, {0, -1, 0}, {1, 0, 0}), radius, radius, 0, pi / 2}),
                  test::at_origin(), 2 * pi);
    const double cap = 2 * pi * radius * (radius - std::sqrt(radius * radius - 1));
    for (const SplineCurve& outline : {circle(1), reversed(circle(1))}) {
        EXPECT_NEAR(area(cut(dome, {outline}, TrimSide::inside)), cap, 1e-5);
        EXPECT_NEAR(area(cut(dome, {outline}, TrimSide::outside)), 2 * pi * 9 - cap, 1e-5);
    }
    // A ring between two, and a square with corners.
    const double wide = 2 * pi * radius * (radius - std::sqrt(radius * radius - 4));
    EXPECT_NEAR(area(cut(dome, {circle(1), circle(2)}, TrimSide::inside)), wide - cap, 1e-5);
    const auto lid = cut(dome, {box(-0.7, -0.7, 0.7, 0.7)}, TrimSide::inside);
    EXPECT_GT(area(lid), 1.96);
    EXPECT_LT(area(lid), 1.96 * 1.08);
}

TEST(TrimsAcross, WhatRunsAlongARimIsSaidOrCut) {
    // Spaced evenly the side that lies on the rim is known exactly.
    EXPECT_NEAR(area(cut(plate(), {box(1, -1, 3, 1)}, TrimSide::outside)), 36 - 4, 1e-9);
    EXPECT_NEAR(area(cut(plate(), {box(1, -1, 3, 1)}, TrimSide::inside)), 4, 1e-9);
    const auto along = try_cut(uneven_plate(), {box(1, -1, 3, 1)}, TrimSide::outside);
    ASSERT_FALSE(along);
    EXPECT_EQ(along.error().code, ErrorCode::unlike_arrangement);
    EXPECT_NE(along.error().message.find("touches a rim"), std::string::npos) << along.error().message;
}

TEST(TracedOutlines, CutWhereTheyLie) {
    // A window rolled round a pipe, on its upper side and across its seam, cuts that side alone.
    const double radius = 2, half = 0.6;
    for (const double turn : {0.0, 1.1}) {
        CurvePoints window;
        window.closed = true;
        for (int step = 0; step < 96; ++step) {
            const double t = 2 * pi * step / 96, along = half * std::cos(t),
                         round = half * std::sin(t) / radius + turn;
            window.points.push_back({along, radius * std::cos(round), radius * std::sin(round)});
        }
        const SplineCurve outline = *curve_through(window, CurveShape::smooth);
        const auto cast = traced_on(SurfaceSearch(pipe()), outline, plume::Run());
        ASSERT_TRUE(cast) << cast.error().message;
        ASSERT_EQ(cast->curves.size(), 1U);
        const auto lid = trimmed(pipe(), {*cast}, TrimSide::inside, plume::Run());
        ASSERT_TRUE(lid) << lid.error().message;
        EXPECT_EQ(lid->size(), 1U);
        EXPECT_NEAR(area(*lid), pi * half * half, 1e-4) << "flat it is a circle";
        const auto rest = trimmed(pipe(), {*cast}, TrimSide::outside, plume::Run());
        ASSERT_TRUE(rest);
        EXPECT_NEAR(area(*rest), 32 * pi - pi * half * half, 1e-4);
    }
}

TEST(TracedOutlines, WhatDoesNotLieThereIsSaid) {
    EXPECT_TRUE(traced_on(SurfaceSearch(pipe()), circle(1, {0, 0, 9}), plume::Run())->curves.empty())
        << "far away it misses";
    const auto slanted = traced_on(
        SurfaceSearch(pipe()), ellipse(placement_of({0, 0, 2}, {1, 0, 3}, {1, 0, 0}), 1, 1), plume::Run());
    ASSERT_FALSE(slanted);
    EXPECT_EQ(slanted.error().code, ErrorCode::out_of_range);
    const auto round = traced_on(SurfaceSearch(pipe()),
                                 ellipse(placement_of({1, 0, 0}, {1, 0, 0}, {0, 1, 0}), 2, 2), plume::Run());
    ASSERT_FALSE(round);
    EXPECT_EQ(round.error().code, ErrorCode::unlike_arrangement);
    EXPECT_EQ(
        traced_on(SurfaceSearch(pipe()), *line_between({0, 0, 2}, {1, 0, 2}), plume::Run()).error().code,
        ErrorCode::has_gaps);
}

}  // namespace
}  // namespace plume
