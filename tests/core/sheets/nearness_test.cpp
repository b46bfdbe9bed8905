// Nearest places of features, and features found by where they are.

#include "core/sheets/nearness.hpp"

#include <random>

#include "core/sheets/feature_grid.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

class Thrown {
public:
    double number() { return between_(random_); }
    Vec3 place() { return {number(), number(), number()}; }

private:
    std::mt19937 random_{7};
    std::uniform_real_distribution<double> between_{-1, 1};
};

// By looking at many places of both.
double least_by_looking(const std::function<Vec3(double, double)>& one,
                        const std::function<Vec3(double, double)>& other) {
    double least = 1e9;
    constexpr int steps = 60;
    for (int i = 0; i <= steps; ++i)
        for (int j = 0; j <= steps; ++j)
            least = std::min(least,
                             length(one(i / static_cast<double>(steps), j / static_cast<double>(steps)) -
                                    other(i / static_cast<double>(steps), j / static_cast<double>(steps))));
    return least;
}

TEST(Nearness, APointAndATriangleAsByLooking) {
    Thrown thrown;
    for (int times = 0; times < 200; ++times) {
        const Vec3 p = thrown.place() * 2, a = thrown.place(), b = thrown.place(), c = thrown.place();
        const Nearest nearest = nearest_of_triangle(p, a, b, c);
        const double looked = least_by_looking(
            [&](double, double) { return p; },
            [&](double u, double v) { return a + (b - a) * (u * (1 - v)) + (c - a) * (u * v); });
        EXPECT_LE(length(nearest.apart), looked + 1e-12);
        EXPECT_GT(length(nearest.apart), looked - 0.05);
        const auto& w = nearest.weights;
        EXPECT_NEAR(w[1] + w[2] + w[3], 1, 1e-12);
        EXPECT_GE(std::min({w[1], w[2], w[3]}), -1e-12);
        EXPECT_NEAR(length(p - (a * w[1] + b * w[2] + c * w[3]) - nearest.apart), 0, 1e-12);
    }
}

TEST(Nearness, TwoSegmentsAsByLooking) {
    Thrown thrown;
    for (int times = 0; times < 200; ++times) {
        const Vec3 a = thrown.place(), b = thrown.place(), c = thrown.place(), d = thrown.place();
        const Nearest nearest = nearest_of_segments(a, b, c, d);
        const double looked = least_by_looking([&](double u, double) { return a + (b - a) * u; },
                                               [&](double, double v) { return c + (d - c) * v; });
        EXPECT_LE(length(nearest.apart), looked + 1e-12);
        EXPECT_GT(length(nearest.apart), looked - 0.05);
    }
}

TEST(Nearness, WhatHasNoSizeHasADistanceAllTheSame) {
    const Vec3 a{1, 0, 0}, b{0, 2, 0};
    EXPECT_DOUBLE_EQ(length(nearest_of_triangle(b, a, a, a).apart), std::sqrt(5.0));
    EXPECT_DOUBLE_EQ(length(nearest_of_segments(a, a, b, b).apart), std::sqrt(5.0));
    EXPECT_DOUBLE_EQ(length(nearest_of_segments({0, 0, 0}, {4, 0, 0}, {1, 1, 0}, {2, 1, 0}).apart), 1)
        << "parallel";
    EXPECT_DOUBLE_EQ(length(nearest_of_segments({0, 0, 0}, {1, 0, 0}, {3, 1, 0}, {4, 1, 0}).apart),
                     std::sqrt(5.0));
}

// Triangles that are nearly lines, as cloth that is pushed together has them.
TEST(Nearness, OfSliversItIsNeverTooFar) {
    Thrown thrown;
    for (int times = 0; times < 2000; ++times) {
        const Vec3 a = thrown.place(), b = thrown.place(), p = thrown.place() * 2;
        const double thin = std::pow(10.0, -2 - times % 16);
        const Vec3 c = a + (b - a) * (0.5 + thrown.number()) + thrown.place() * thin;
        const double told = length(nearest_of_triangle(p, a, b, c).apart);
        double sides = 1e9;
        for (const auto& [from, to] : {std::pair{a, b}, {b, c}, {c, a}})
            sides = std::min(sides, length(nearest_of_segments(p, p, from, to).apart));
        EXPECT_LE(told, sides * (1 + 1e-9)) << thin;
        EXPECT_GE(told, sides - 2 * thin - 1e-12) << thin;
    }
}

TEST(FeatureGrid, FindsAllThatMeetOnceEach) {
    Thrown thrown;
    std::vector<Box> boxes(300);
    for (Box& box : boxes) {
        const Vec3 at = thrown.place() * 5;
        box.include(at);
        box.include(at + thrown.place());
    }
    FeatureGrid grid;
    grid.build(boxes, 0.7);
    for (std::size_t one = 0; one < boxes.size(); ++one) {
        std::vector<int> times(boxes.size(), 0);
        grid.in(boxes[one], [&](std::uint32_t other) { ++times[other]; });
        for (std::size_t other = 0; other < boxes.size(); ++other) {
            const Box &a = boxes[one], &b = boxes[other];
            const bool meet = a.low.x <= b.high.x && b.low.x <= a.high.x && a.low.y <= b.high.y &&
                              b.low.y <= a.high.y && a.low.z <= b.high.z && b.low.z <= a.high.z;
            EXPECT_LE(times[other], 1);
            EXPECT_TRUE(!meet || times[other] == 1);
        }
    }
    grid.build({}, 1);
    grid.in(boxes[0], [](std::uint32_t) { FAIL() << "nothing is there"; });
}

}  // namespace
}  // namespace plume
