// Nearest places of features, and features found by where they are and go.

#include "core/sheets/nearness.hpp"

#include <random>

#include "core/sheets/feature_boxes.hpp"
#include "core/sheets/sheet_features.hpp"
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

// Edges on ways that come near each other are not ruled out by their boxes; most of the others are.
TEST(FeatureBoxes, KeepAllThatComeNear) {
    Thrown thrown;
    constexpr std::uint32_t count = 120;
    constexpr double reach = 0.2;
    SheetFeatures features;
    std::vector<Vec3> at, ways;
    for (std::uint32_t edge = 0; edge < count; ++edge) {
        const Vec3 middle = thrown.place() * 2.5, way = Vec3{3, 0, 0} + thrown.place();
        at.insert(at.end(), {middle, middle + thrown.place() * 0.3});
        ways.insert(ways.end(), {way, way + thrown.place() * 0.1});
        // Corners of what stands still count from others on.
        features.edges.push_back({1000 + 2 * edge, 1001 + 2 * edge});
    }
    FeatureBoxes boxes;
    boxes.fit(features, 1000, at, ways, at.front());
    ASSERT_EQ(boxes.edges.size(), count);
    ASSERT_EQ(boxes.vertices.size(), 2 * count);
    std::size_t near = 0, kept = 0;
    for (std::uint32_t one = 0; one < count; ++one)
        for (std::uint32_t other = one + 1; other < count; ++other) {
            double nearest = 1e9;
            for (int moment = 0; moment <= 50; ++moment) {
                const auto place = [&](std::uint32_t corner) {
                    return at[corner] + ways[corner] * (moment / 50.0);
                };
                nearest = std::min(nearest, length(nearest_of_segments(place(2 * one), place(2 * one + 1),
                                                                       place(2 * other), place(2 * other + 1))
                                                       .apart));
            }
            const bool may = boxes.edges[one].may_meet(boxes.edges[other], static_cast<float>(reach + 1e-5));
            kept += may ? 1 : 0;
            if (nearest > reach) continue;
            ++near;
            EXPECT_TRUE(may) << one << ' ' << other;
        }
    EXPECT_GT(near, 20U);
    EXPECT_LT(kept, count * count / 4) << "half of all pairs at most";
}

// Points on ways: all that come near each other, by looking at many moments, are in leaves that are found.
TEST(MovingTree, FindsAllThatComeNearOnTheirWays) {
    Thrown thrown;
    constexpr std::size_t count = 301;
    constexpr double reach = 0.3;
    std::vector<Vec3> thrown_at, at, ways;
    for (std::size_t index = 0; index < count; ++index) {
        thrown_at.push_back(thrown.place() * 4);
        ways.push_back(Vec3{3, 0, 0} + thrown.place());
    }
    std::vector<std::uint32_t> order = MovingTree::order_of(thrown_at);
    for (const std::uint32_t index : order)
        at.push_back(thrown_at[index]);
    std::ranges::sort(order);
    for (std::uint32_t index = 0; index < count; ++index)
        ASSERT_EQ(order[index], index) << "each stands once in the order";
    std::vector<MovingBox> boxes(count);
    for (std::size_t index = 0; index < count; ++index)
        boxes[index].include(at[index], at[index] + ways[index]);
    MovingTree tree(count);
    tree.fit(boxes);
    std::vector<std::size_t> leaf_of(count, count);
    for (std::size_t leaf = 0; leaf < tree.leaf_count(); ++leaf)
        for (std::uint32_t thing = tree.begin_of(leaf); thing < tree.end_of(leaf); ++thing)
            leaf_of[thing] = leaf;
    EXPECT_EQ(std::ranges::count(leaf_of, count), 0) << "each is in one";
    std::size_t came_near = 0, visited = 0;
    for (std::size_t one = 0; one < count; ++one) {
        std::vector<int> times(tree.leaf_count(), 0);
        tree.near(boxes[one], static_cast<float>(reach + tree.box().rounding_of()), leaf_of[one],
                  [&](std::size_t leaf) {
                      EXPECT_GE(leaf, leaf_of[one]);
                      ++times[leaf];
                      ++visited;
                  });
        EXPECT_EQ(times[leaf_of[one]], 1) << "it is near itself";
        for (std::size_t other = 0; other < count; ++other) {
            double nearest = 1e9;
            for (int moment = 0; moment <= 100; ++moment)
                nearest = std::min(
                    nearest, length(at[one] - at[other] + (ways[one] - ways[other]) * (moment / 100.0)));
            if (nearest > reach || leaf_of[other] < leaf_of[one]) continue;
            came_near += one == other ? 0 : 1;
            EXPECT_EQ(times[leaf_of[other]], 1) << one << ' ' << other;
        }
    }
    EXPECT_GT(came_near, 40U);
    EXPECT_LT(visited, count * tree.leaf_count() / 4) << "what goes the same way is not near all on that way";
    MovingTree nothing(0);
    nothing.fit({});
    nothing.near(boxes[0], 0.3F, 0, [](std::size_t) { FAIL() << "nothing is there"; });
}

TEST(SheetFeatures, EachEdgeAndVertexIsOwnedOnce) {
    // Two triangles at an edge, one alone, and a vertex without any.
    const SheetFeatures features = features_of({{0, 1, 2}, {2, 1, 3}, {4, 5, 6}}, 8);
    EXPECT_EQ(features.edges.size(), 8U);
    EXPECT_EQ(features.first_edge, (std::vector<std::uint32_t>{0, 3, 5, 8}));
    EXPECT_EQ(features.vertices_of.of.size(), 7U);
    EXPECT_EQ(features.vertices_of.at(1).size(), 1U);
    for (std::size_t triangle = 0; triangle < 3; ++triangle)
        for (std::uint32_t edge = features.first_edge[triangle]; edge < features.first_edge[triangle + 1];
             ++edge)
            for (const std::uint32_t end : features.edges[edge])
                EXPECT_NE(std::ranges::find(features.triangles[triangle], end),
                          features.triangles[triangle].end());
}

}  // namespace
}  // namespace plume
