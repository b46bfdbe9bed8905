// Numbers and directions read off curves, against circles, a helix and a line.

#include "core/geometry/numbers/curve_readings.hpp"

#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// A circle of 4 m about the origin and points off it, each nearest to a known angle.
struct AroundACircle {
    CurveSet circle;
    PointLattice points = test::grid(8, 1);
    std::vector<double> angles;

    AroundACircle() {
        StudyMaker maker;
        maker.add("outline.shape", "rim");
        maker.word("rim", "shape", "circle").number("rim", "radius", "4 m");
        circle = std::get<CurveSet>(test::value_of(test::run(maker.study), "rim"));
        Doubles x(8), y(8), z(8);
        for (std::size_t at = 0; at < 8; ++at) {
            angles.push_back(0.2 + 0.7 * static_cast<double>(at));
            const double from_middle = at % 2 == 0 ? 3 : 6;
            x[at] = from_middle * std::cos(angles[at]);
            y[at] = from_middle * std::sin(angles[at]);
            z[at] = static_cast<double>(at) - 3;
        }
        points = points.moved(std::move(x), std::move(y), std::move(z));
    }
    Doubles numbers(CurveNumber what) const {
        const Field field = *curve_numbers(points, circle, what, plume::Run());
        return {field.values.data(), field.values.data() + field.values.size()};
    }
};

TEST(CurveReadings, OfACircle) {
    const AroundACircle around;
    const Doubles curvature = around.numbers(CurveNumber::curvature),
                  radius = around.numbers(CurveNumber::radius), length = around.numbers(CurveNumber::length),
                  share = around.numbers(CurveNumber::share);
    for (std::size_t at = 0; at < 8; ++at) {
        EXPECT_NEAR(curvature[at], 0.25, 1e-9);
        EXPECT_NEAR(radius[at], 4, 1e-8);
        EXPECT_NEAR(length[at], 4 * around.angles[at], 1e-7);
        EXPECT_NEAR(share[at], around.angles[at] / (2 * std::numbers::pi), 1e-8);
    }
}

TEST(CurveReadings, DirectionsOfACircle) {
    const AroundACircle around;
    const auto read = [&](CurveDirection what) {
        return *curve_directions(around.points, around.circle, what, plume::Run());
    };
    const DirectionColumns tangent = read(CurveDirection::tangent), normal = read(CurveDirection::normal),
                           binormal = read(CurveDirection::binormal);
    for (std::size_t at = 0; at < 8; ++at) {
        const double c = std::cos(around.angles[at]), s = std::sin(around.angles[at]);
        EXPECT_LT(length(Vec3{tangent.x[at], tangent.y[at], tangent.z[at]} - Vec3{-s, c, 0}), 1e-7);
        EXPECT_LT(length(Vec3{normal.x[at], normal.y[at], normal.z[at]} - Vec3{-c, -s, 0}), 1e-7);
        EXPECT_LT(length(Vec3{binormal.x[at], binormal.y[at], binormal.z[at]} - Vec3{0, 0, 1}), 1e-9);
    }
}

// A line far from the origin has no bend that rounding could make.
TEST(CurveReadings, OfALine) {
    CurvePoints ends;
    ends.points = {{1e6, 1e6, 0}, {1e6 + 3, 1e6 + 4, 0}};
    const CurveSet line{{*curve_through(ends, CurveShape::smooth)}};
    const PointLattice points = test::grid(3, 1).moved(Doubles{1e6, 1e6 + 1.5, 1e6 + 9},
                                                       Doubles{1e6, 1e6 + 2, 1e6 + 9}, Doubles{1, 0, 0});
    const Field curvature = *curve_numbers(points, line, CurveNumber::curvature, plume::Run());
    const Field radius = *curve_numbers(points, line, CurveNumber::radius, plume::Run());
    const Field share = *curve_numbers(points, line, CurveNumber::share, plume::Run());
    const DirectionColumns normal = *curve_directions(points, line, CurveDirection::normal, plume::Run());
    for (std::size_t at = 0; at < 3; ++at) {
        EXPECT_EQ(curvature.values[at], 0);
        EXPECT_TRUE(std::isinf(radius.values[at]));
        EXPECT_NEAR(share.values[at], 0.5 * static_cast<double>(at), 1e-9);
        EXPECT_EQ(normal.x[at], 0);
        EXPECT_EQ(normal.y[at], 0);
    }
}

// Of several curves the nearest counts; gaps stay gaps.
TEST(CurveReadings, TheNearestCurveCounts) {
    CurvePoints low, high;
    low.points = {{0, 0, 0}, {10, 0, 0}};
    high.points = {{10, 0, 9}, {0, 0, 9}};
    const CurveSet both{
        {*curve_through(low, CurveShape::straight), *curve_through(high, CurveShape::straight)}};
    const PointLattice points = test::grid(2, 1).moved(Doubles{2, 2}, Doubles{0, 0}, Doubles{1, 8});
    const Field length = *curve_numbers(points, both, CurveNumber::length, plume::Run());
    EXPECT_NEAR(length.values[0], 2, 1e-12);
    EXPECT_NEAR(length.values[1], 8, 1e-12);
    EXPECT_FALSE(curve_numbers(points, CurveSet{}, CurveNumber::length, plume::Run()));
    plume::Run run;
    run.cancel();
    EXPECT_EQ(curve_numbers(points, both, CurveNumber::length, run).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
