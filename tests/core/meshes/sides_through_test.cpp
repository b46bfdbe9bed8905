// What goes through a mesh from one side of it to the other.

#include "core/geometry/meshes/sides_through.hpp"

#include <limits>
#include <random>

#include "core/meshes/round_meshes.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using Sides = std::vector<std::uint32_t>;

// One face of four corners, from 0 to 1 m in the plane of X and Y.
Mesh board() {
    return test::mesh_of_faces({{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}},
                               std::vector<std::vector<std::uint32_t>>{{0, 1, 2, 3}});
}

Sides through(const std::vector<Vec3>& ends, const Mesh& mesh) {
    std::vector<std::array<std::uint32_t, 2>> sides;
    for (std::uint32_t at = 0; at < ends.size(); at += 2)
        sides.push_back({at, at + 1});
    const auto found = sides_through(ends, sides, mesh, plume::Run());
    EXPECT_TRUE(found);
    return *found;
}

TEST(SidesThrough, ThoseThatHaveTheirEndsOnEitherSideOfAFace) {
    std::mt19937 random(17);
    std::uniform_real_distribution<double> wide(-1, 2), high(-1, 1);
    std::vector<Vec3> ends;
    Sides expected;
    for (std::uint32_t side = 0; side < 500; ++side) {
        const Vec3 from{wide(random), wide(random), high(random)},
            to{wide(random), wide(random), high(random)};
        ends.push_back(from);
        ends.push_back(to);
        if (from.z * to.z >= 0) continue;
        const Vec3 on = from + (to - from) * (from.z / (from.z - to.z));
        if (on.x > 0 && on.x < 1 && on.y > 0 && on.y < 1) expected.push_back(side);
    }
    EXPECT_GT(expected.size(), 20U);
    EXPECT_EQ(through(ends, board()), expected);
}

TEST(SidesThrough, WhatOnlyTouchesDoesNot) {
    const Mesh without_faces = test::mesh_of_faces({}, std::vector<std::vector<std::uint32_t>>{});
    const double none = std::numeric_limits<double>::quiet_NaN();
    EXPECT_TRUE(through({{0.3, 0.4, 0}, {0.3, 0.4, 1}}, board()).empty()) << "it stands on the face";
    EXPECT_TRUE(through({{0.1, 0.2, 0}, {0.8, 0.4, 0}}, board()).empty()) << "it lies in the face";
    EXPECT_TRUE(through({{0.3, 0.4, -1}, {none, 0.4, 1}}, board()).empty()) << "nobody knows where it ends";
    EXPECT_TRUE(through({{0.3, 0.4, 0.1}, {0.3, 0.4, 1}}, board()).empty()) << "it is above";
    EXPECT_TRUE(through({}, board()).empty());
    EXPECT_TRUE(through({{0.3, 0.4, -1}, {0.3, 0.4, 1}}, without_faces).empty()) << "there is no face";
    EXPECT_EQ(through({{0.5, 0.5, -1}, {0.5, 0.5, 1}}, board()), Sides{0}) << "where its triangles meet";
    EXPECT_EQ(through({{0.3, 0.4, -1e-12}, {0.3, 0.4, 1e-12}}, board()), Sides{0}) << "however short it is";
}

TEST(SidesThrough, ItIsCancelled) {
    plume::Run stopped;
    stopped.cancel();
    const auto found = sides_through({{0, 0, -1}, {0, 0, 1}}, {{0, 1}}, board(), stopped);
    ASSERT_FALSE(found);
    EXPECT_EQ(found.error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
