// Curves beside curves, against closed forms and against distances measured place by place.

#include "core/geometry/curves/offset_curve.hpp"

#include <numbers>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

SplineCurve polyline(std::vector<Vec3> points, bool closed = false) {
    CurvePoints item;
    item.points = std::move(points);
    item.closed = closed;
    return *curve_through(std::move(item), CurveShape::straight);
}
SplineCurve smooth(std::vector<Vec3> points, bool closed = false) {
    CurvePoints item;
    item.points = std::move(points);
    item.closed = closed;
    return *curve_through(std::move(item), CurveShape::smooth);
}
Result<OffsetResult> beside(const SplineCurve& curve, double distance, bool round = false,
                            Vec3 up = {0, 0, 1}) {
    return offset_curve(curve, {up, distance, round}, plume::Run());
}
constexpr double pi = std::numbers::pi;

TEST(OffsetCurve, CirclesAreExactOnBothSides) {
    const SplineCurve circle = ellipse(placement_of({3, 4, 5}, {0, 0, 1}, {1, 0, 0}), 6, 6);
    for (const double distance : {2.0, -2.0, 5.999}) {
        const auto made = beside(circle, distance);  // it runs anticlockwise: the left is inside
        ASSERT_TRUE(made) << sentence(made.error());
        EXPECT_EQ(made->deviation, 0);
        EXPECT_TRUE(made->curve.closed());
        EXPECT_NEAR(length_of(made->curve), 2 * pi * (6 - distance), 1e-9);
        EXPECT_NEAR(evaluate(made->curve, 0.37).position.z, 5, 1e-12);
    }
    const auto refused = beside(circle, 6.001);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::out_of_range);
    EXPECT_NE(refused.error().message.find("a radius of 6"), std::string::npos) << refused.error().message;
}

TEST(OffsetCurve, CornersOfARectangle) {
    const SplineCurve square = polyline({{0, 0, 0}, {10, 0, 0}, {10, 10, 0}, {0, 10, 0}}, true);
    EXPECT_NEAR(length_of(beside(square, 2)->curve), 24, 1e-9) << "inside";
    EXPECT_NEAR(length(area_vector(beside(square, 2)->curve)), 36, 1e-8);
    EXPECT_NEAR(length(area_vector(beside(square, -1)->curve)), 144, 1e-8) << "outside, sharp";
    EXPECT_NEAR(length(area_vector(beside(square, -1, true)->curve)), 100 + 40 + pi, 1e-8)
        << "outside, round: Steiner's formula";
    EXPECT_TRUE(beside(square, -1, true)->curve.closed());
    EXPECT_EQ(beside(square, 5.5).error().code, ErrorCode::out_of_range);
}

TEST(OffsetCurve, OpenOnesWithCornersBothWays) {
    // A step: it turns left, then right.
    const SplineCurve step = polyline({{0, 0, 1}, {10, 0, 1}, {10, 6, 3}, {20, 6, 3}});
    const SplineCurve left = beside(step, 1)->curve;
    EXPECT_FALSE(left.closed());
    EXPECT_LT(length(start_of(left) - Vec3{0, 1, 1}), 1e-12);
    EXPECT_LT(length(evaluate(left, left.basis().end()).position - Vec3{20, 7, 3}), 1e-12);
    // Seen from above the first corner is cut at (9, 1), the second runs on to (9, 7).
    const NearestOnCurve near(beside(polyline({{0, 0, 0}, {10, 0, 0}, {10, 6, 0}, {20, 6, 0}}), 1)->curve);
    for (const Vec3 corner : {Vec3{9, 1, 0}, {9, 7, 0}, {9, 4, 0}, {20, 7, 0}})
        EXPECT_LT(near.nearest(corner).distance, 1e-9);
    // A hairpin is cut off rather than drawn out.
    const SplineCurve hairpin = polyline({{0, 0, 0}, {10, 0, 0}, {0, 0.1, 0}});
    const SplineCurve around = beside(hairpin, -1)->curve;
    EXPECT_LT(NearestOnCurve(around).nearest({14, 0, 0}).distance, 4);
    EXPECT_LT(length_of(around), 24);
}

// Every place of what is beside is as far from the curve, and the other way round.
TEST(OffsetCurve, FreeCurvesKeepTheDistance) {
    const SplineCurve wave = smooth({{0, 0, 0}, {4, 2, 0}, {8, -1, 0}, {12, 3, 0}, {16, 0, 0}});
    const SplineCurve ring = smooth({{8, 0, 0}, {3, 6, 0}, {-6, 4, 0}, {-7, -3, 0}, {2, -6, 0}}, true);
    for (const SplineCurve* curve : {&wave, &ring})
        for (const double distance : {0.6, -0.8}) {
            const auto made = beside(*curve, distance);
            ASSERT_TRUE(made) << sentence(made.error());
            EXPECT_EQ(made->curve.closed(), curve->closed());
            EXPECT_LT(made->deviation, 4e-6) << "a ten-millionth of its poles' box";
            const NearestOnCurve back(*curve);
            for (double share = 0.013; share < 1; share += 0.0171) {
                const Vec3 at = evaluate(made->curve, std::lerp(made->curve.basis().start(),
                                                                made->curve.basis().end(), share))
                                    .position;
                ASSERT_NEAR(back.nearest(at).distance, std::abs(distance), 5e-6);
            }
        }
    // A closed curve's offset is longer by the turn times the distance: 2 pi d outwards.
    EXPECT_NEAR(length_of(beside(ring, -0.8)->curve) - length_of(ring), 2 * pi * 0.8, 1e-5);
}

TEST(OffsetCurve, SeenFromAboveHeightsStay) {
    const SplineCurve ramp = smooth({{0, 0, 0}, {5, 1, 2}, {9, 5, 3}, {9, 9, 6}});
    const SplineCurve rail = beside(ramp, 0.5)->curve;
    for (const double share : {0.0, 0.3, 0.77, 1.0}) {
        const Vec3 a = evaluate(ramp, std::lerp(ramp.basis().start(), ramp.basis().end(), share)).position;
        const Vec3 at = evaluate(rail, std::lerp(rail.basis().start(), rail.basis().end(), share)).position;
        if (share == 0 || share == 1) {
            EXPECT_NEAR(at.z, a.z, 1e-9);
            EXPECT_NEAR(std::hypot(at.x - a.x, at.y - a.y), 0.5, 1e-9);
        }
    }
    const auto upright = beside(polyline({{0, 0, 0}, {0, 0, 4}}), 1);
    ASSERT_FALSE(upright);
    EXPECT_EQ(upright.error().code, ErrorCode::unlike_arrangement);
    EXPECT_TRUE(beside(polyline({{0, 0, 0}, {0, 0, 4}}), 1, false, {0, 1, 0}));
}

// One corner alone.
TEST(OffsetCurve, TheOnlyCornerOfAClosedCurveIsCut) {
    // A curve that leaves its start in one direction and comes back in another.
    const SplineCurve loop =
        closed_up(smooth({{0, 0, 0}, {4, 1, 0}, {6, 4, 0}, {4, 7, 0}, {1, 5, 0}, {0, 0, 0}}));
    ASSERT_TRUE(loop.closed());
    const auto inside = beside(loop, 0.4), outside = beside(loop, -0.4, true);
    ASSERT_TRUE(inside) << sentence(inside.error());
    ASSERT_TRUE(outside) << sentence(outside.error());
    const double area = length(area_vector(loop)), around = length_of(loop);
    EXPECT_NEAR(length(area_vector(outside->curve)), area + 0.4 * around + pi * 0.16, 1e-5) << "Steiner";
    // The corner takes the kite between its two cut sides away once instead of twice.
    const double turn = corners_of(loop, 0.1).front().turn_rad;
    EXPECT_NEAR(length(area_vector(inside->curve)),
                area - 0.4 * around + 0.16 * (pi - turn / 2 + std::tan(turn / 2)), 5e-3);
    const NearestOnCurve back(loop);
    for (double share = 0.011; share < 1; share += 0.037) {
        const SplineBasis& basis = inside->curve.basis();
        const Vec3 at = evaluate(inside->curve, std::lerp(basis.start(), basis.end(), share)).position;
        ASSERT_NEAR(back.nearest(at).distance, 0.4, 1e-5);
    }
}

}  // namespace
}  // namespace plume
