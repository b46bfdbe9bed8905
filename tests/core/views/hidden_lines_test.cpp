// Hidden lines against closed forms, and against rays that are cast at every face.

#include "core/geometry/views/hidden_lines.hpp"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>
#include <numbers>
#include <random>

#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/views/seen_forms.hpp"

namespace plume {
namespace {

constexpr double degree = std::numbers::pi / 180;

using test::cube;
using test::mesh_of_faces;
using test::square;
using test::torus;

std::vector<SeenPiece> seen(const std::vector<SeenThing>& things, const ViewFrame& frame,
                            HiddenLineOptions options = {}) {
    auto pieces = seen_lines(things, frame, options, plume::Run());
    if (!pieces) throw std::runtime_error(sentence(pieces.error()));
    return *std::move(pieces);
}

double drawn_length(const std::vector<SeenPiece>& pieces, bool hidden = false) {
    double sum = 0;
    for (const SeenPiece& piece : pieces)
        if (piece.hidden == hidden) sum += std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y);
    return sum;
}

TEST(HiddenLines, FramesAreSquareAndLookWhereTheySay) {
    for (const double azimuth : {0.0, 40.0, 200.0, -75.0})
        for (const double elevation : {0.0, 20.0, 90.0, -30.0}) {
            const ViewFrame frame = view_towards(azimuth * degree, elevation * degree);
            EXPECT_NEAR(length(cross(frame.right, frame.up) + frame.away), 0, 1e-12);
            for (const Vec3 axis : {frame.right, frame.up, frame.away})
                EXPECT_NEAR(length(axis), 1, 1e-12);
            EXPECT_NEAR(dot(frame.right, frame.up), 0, 1e-12);
        }
    EXPECT_NEAR(length(view_towards(0, 0).away - Vec3{0, 1, 0}), 0, 1e-12) << "north";
    EXPECT_NEAR(length(view_towards(90 * degree, 0).away - Vec3{1, 0, 0}), 0, 1e-12) << "east";
    const ViewFrame plan = view_towards(0, 90 * degree);
    EXPECT_NEAR(length(plan.up - plan_view().up) + length(plan.away - plan_view().away), 0, 1e-12);
}

// A cube shows nine of its twelve edges from a corner, four from above.
TEST(HiddenLines, ACubeShowsNineEdges) {
    const Mesh mesh = cube({0, 0, 0}, 2);
    const ViewFrame frame = view_towards(30 * degree, 20 * degree);
    HiddenLineOptions all;
    all.keep_hidden = true;
    const std::vector<SeenPiece> pieces = seen({{&mesh, false, {}}}, frame, all);
    EXPECT_EQ(std::ranges::count(pieces, false, &SeenPiece::hidden), 9);
    EXPECT_EQ(std::ranges::count(pieces, true, &SeenPiece::hidden), 3);
    EXPECT_EQ(std::ranges::count(pieces, SeenEdge::outline, &SeenPiece::edge), 6);
    // Four edges along each axis, three of them seen.
    const double along_x = 2 * std::hypot(frame.right.x, frame.up.x),
                 along_y = 2 * std::hypot(frame.right.y, frame.up.y),
                 along_z = 2 * std::hypot(frame.right.z, frame.up.z);
    EXPECT_NEAR(drawn_length(pieces), 3 * (along_x + along_y + along_z), 1e-9);
    EXPECT_NEAR(drawn_length(pieces, true), along_x + along_y + along_z, 1e-5);
    EXPECT_NEAR(drawn_length(seen({{&mesh, false, {}}}, plan_view())), 8, 1e-9) << "its square";
}

TEST(HiddenLines, ALineGoesUnderASquareAndComesOut) {
    const Mesh roof = square({0, 0, 3}, 1);
    SeenThing line{nullptr, false, {{Vec3{-2, 0.1, 0}, Vec3{2, 0.1, 0}}}};
    const auto lines_of = [&](const std::vector<SeenPiece>& pieces) {
        std::vector<SeenPiece> own;
        std::ranges::copy_if(pieces, std::back_inserter(own),
                             [](const SeenPiece& piece) { return piece.edge == SeenEdge::line; });
        return own;
    };
    std::vector<SeenPiece> own = lines_of(seen({{&roof, false, {}}, line}, plan_view()));
    ASSERT_EQ(own.size(), 2U);
    EXPECT_NEAR(own[0].to.x, -0.5, 1e-9);
    EXPECT_NEAR(own[1].from.x, 0.5, 1e-9);
    EXPECT_EQ(own[0].thing, 1U);
    // Above it, it is whole; through it, as far as it is above: where x is 0.2 it is at its height.
    line.lines = {{Vec3{-2, 0.1, 4}, Vec3{2, 0.1, 4}}};
    EXPECT_EQ(lines_of(seen({{&roof, false, {}}, line}, plan_view())).size(), 1U);
    line.lines = {{Vec3{-2, 0.1, 3 + 2.2}, Vec3{2, 0.1, 3 - 1.8}}};
    own = lines_of(seen({{&roof, false, {}}, line}, plan_view()));
    ASSERT_EQ(own.size(), 2U);
    EXPECT_NEAR(own[0].to.x, 0.2, 1e-6);
    EXPECT_NEAR(own[1].from.x, 0.5, 1e-9);
    // From below it is the other way round.
    own = lines_of(seen({{&roof, false, {}}, line}, view_towards(0, -90 * degree)));
    ASSERT_EQ(own.size(), 2U);
    EXPECT_NEAR(own[0].to.x, -0.5, 1e-9);
    EXPECT_NEAR(own[1].from.x, 0.2, 1e-6);
}

// What lies on a face, or stands on it, is not hidden by it.
TEST(HiddenLines, WhatLiesOnAFaceIsSeen) {
    const Mesh floor = square({0, 0, 0}, 10), tile = square({0, 0, 0}, 2), box = cube({2, 2, 0}, 1);
    const SeenThing line{nullptr, false, {{Vec3{-4, -4, 0}, Vec3{4, -4, 0}}}};
    const std::vector<SeenPiece> pieces =
        seen({{&floor, false, {}}, {&tile, false, {}}, {&box, false, {}}, line}, plan_view());
    std::map<std::uint32_t, double> drawn;
    for (const SeenPiece& piece : pieces)
        drawn[piece.thing] += std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y);
    EXPECT_NEAR(drawn[0], 40, 1e-9);
    EXPECT_NEAR(drawn[1], 8, 1e-9);
    EXPECT_NEAR(drawn[2], 4, 1e-9);
    EXPECT_NEAR(drawn[3], 8, 1e-9);
}

// A ball of many facets is drawn by its outline alone: a circle of its radius.
TEST(HiddenLines, ASmoothThingShowsItsOutline) {
    const Mesh ring = torus({0, 0, 0}, 5, 1, 120, 60);
    const std::vector<SeenPiece> pieces = seen({{&ring, true, {}}}, plan_view());
    for (const SeenPiece& piece : pieces)
        ASSERT_EQ(piece.edge, SeenEdge::outline);
    EXPECT_NEAR(drawn_length(pieces), 2 * std::numbers::pi * (6 + 4), 0.02) << "two circles";
    EXPECT_GT(drawn_length(seen({{&ring, false, {}}}, plan_view(), {0.01, false})), 100) << "and its facets";
}

// Whether anything stands nearer to the viewer, by a ray at every triangle.
bool stands_behind(const std::vector<SeenThing>& things, const ViewFrame& frame, Vec3 seen_place,
                   double nearer) {
    for (const SeenThing& thing : things) {
        for (std::size_t face = 0; thing.mesh && face < thing.mesh->face_count(); ++face) {
            const auto corners = thing.mesh->face(face);
            bool behind = false;
            for_each_triangle(*thing.mesh, face, [&](std::uint32_t ia, std::uint32_t ib, std::uint32_t ic) {
                const Vec3 a = frame.seen(thing.mesh->vertex(corners[ia])),
                           b = frame.seen(thing.mesh->vertex(corners[ib])),
                           c = frame.seen(thing.mesh->vertex(corners[ic]));
                // Möller and Trumbore, Fast, minimum storage ray/triangle intersection, 1997.
                const Vec3 ray{0, 0, 1}, ab = b - a, ac = c - a, p = cross(ray, ac);
                const double determinant = dot(ab, p);
                if (std::abs(determinant) < 1e-14) return;
                const Vec3 from = Vec3{seen_place.x, seen_place.y, -1e3} - a, q = cross(from, ab);
                const double u = dot(from, p) / determinant, v = dot(ray, q) / determinant;
                if (u < 0 || v < 0 || u + v > 1) return;
                behind = behind || dot(ac, q) / determinant - 1e3 < seen_place.z - nearer;
            });
            if (behind) return true;
        }
    }
    return false;
}

TEST(HiddenLines, RaysAgree) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> place(-4, 4), size(0.3, 2.5);
    std::vector<Mesh> meshes{torus({0, 0, 0}, 3, 1.2, 40, 24), torus({1, 2, 1}, 2, 0.4, 30, 12)};
    for (int at = 0; at < 25; ++at)
        meshes.push_back(cube({place(random), place(random), place(random)}, size(random)));
    std::vector<SeenThing> things;
    for (std::size_t at = 0; at < meshes.size(); ++at)
        things.push_back({&meshes[at], at < 2, {}});
    for (int at = 0; at < 40; ++at)
        things.push_back({nullptr,
                          false,
                          {{Vec3{place(random), place(random), place(random)},
                            Vec3{place(random), place(random), place(random)}}}});
    HiddenLineOptions all;
    all.keep_hidden = true;
    for (const auto& [azimuth, elevation] :
         {std::pair(20.0, 35.0), std::pair(130.0, 5.0), std::pair(10.0, 88.0)}) {
        const ViewFrame frame = view_towards(azimuth * degree, elevation * degree);
        std::size_t looked = 0, otherwise = 0, hidden = 0;
        for (const SeenPiece& piece : seen(things, frame, all)) {
            const Vec3 middle = (piece.from + piece.to) * 0.5;
            if (std::hypot(piece.to.x - piece.from.x, piece.to.y - piece.from.y) < 0.01) continue;
            ++looked;
            hidden += piece.hidden ? 1U : 0U;
            // An edge lies in its own faces: nearer by a little more than rounding counts.
            otherwise += stands_behind(things, frame, middle, 1e-5) != piece.hidden ? 1U : 0U;
        }
        EXPECT_GT(looked, 400U);
        EXPECT_GT(hidden, 150U) << "enough of both";
        EXPECT_EQ(otherwise, 0U) << azimuth << ", " << elevation << " of " << looked;
    }
}

TEST(HiddenLines, AwkwardThingsAreTaken) {
    EXPECT_TRUE(seen({}, plan_view()).empty());
    EXPECT_TRUE(seen({{nullptr, false, {}}}, plan_view()).empty());
    const SeenThing point{nullptr, false, {{Vec3{1, 1, 1}, Vec3{1, 1, 1}}}},
        towards{nullptr, false, {{Vec3{1, 1, 1}, Vec3{1, 1, 5}}}};
    EXPECT_TRUE(seen({point, towards}, plan_view()).empty())
        << "neither is longer than a point in the picture";
    // A face seen from its side hides nothing and is a line itself.
    const Mesh upright = mesh_of_faces({{0, 0, 0}, {4, 0, 0}, {4, 0, 3}, {0, 0, 3}}, {{0, 1, 2, 3}});
    const SeenThing beside{nullptr, false, {{Vec3{-1, 0, -1}, Vec3{5, 0, -1}}}};
    EXPECT_NEAR(drawn_length(seen({{&upright, false, {}}, beside}, plan_view())), 4 + 4 + 6, 1e-9);
    // Far away and small, and the other way round.
    for (const double scale : {1e-6, 1e6}) {
        const Mesh mesh = cube({1e3 * scale, 0, 0}, scale);
        EXPECT_EQ(seen({{&mesh, false, {}}}, view_towards(30 * degree, 20 * degree)).size(), 9U) << scale;
    }
    plume::Run cancelled;
    cancelled.cancel();
    const Mesh mesh = cube({0, 0, 0}, 1);
    const std::vector<SeenThing> things{{&mesh, false, {}}};
    EXPECT_EQ(seen_lines(things, plan_view(), {}, cancelled).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
