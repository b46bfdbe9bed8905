// Nearest places and rays on meshes, against looking at every triangle and against closed forms.

#include "core/geometry/meshes/triangle_tree.hpp"

#include <gtest/gtest.h>

#include "core/geometry/surfaces/form_search.hpp"
#include "core/meshes/round_meshes.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

using test::ball;
using test::mesh_of_triangles;
using test::thrown_triangles;

// The nearest place on a triangle, found without regions: on its plane where that is inside, else on a side.
double plain_distance(const Mesh& mesh, std::size_t face, Vec3 point) {
    const auto corners = mesh.face(face);
    const Vec3 a = mesh.vertex(corners[0]), b = mesh.vertex(corners[1]), c = mesh.vertex(corners[2]);
    const Vec3 normal = unit_or_zero(cross(b - a, c - a));
    const Vec3 on = point - normal * dot(point - a, normal);
    const auto left = [&](Vec3 from, Vec3 to) { return dot(cross(to - from, on - from), normal) >= 0; };
    double best = left(a, b) && left(b, c) && left(c, a) ? length(point - on) : Box::infinite;
    const auto side = [&](Vec3 from, Vec3 to) {
        const Vec3 along = to - from;
        const double share = std::clamp(dot(point - from, along) / dot(along, along), 0.0, 1.0);
        best = std::min(best, length(point - from - along * share));
    };
    side(a, b);
    side(b, c);
    side(c, a);
    return best;
}

TEST(TriangleTree, FindsTheNearestOfThrownTriangles) {
    for (const std::size_t count : {1U, 2U, 5U, 17U, 400U}) {
        const Mesh mesh = thrown_triangles(count, 7);
        const TriangleTree tree(mesh);
        std::mt19937 random(11);
        std::uniform_real_distribution<double> anywhere(-3, 13);
        std::size_t guess = 0;
        for (int time = 0; time < 300; ++time) {
            const Vec3 point{anywhere(random), anywhere(random), anywhere(random)};
            double best = Box::infinite;
            for (std::size_t face = 0; face < mesh.face_count(); ++face)
                best = std::min(best, plain_distance(mesh, face, point));
            const PlaceOnMesh found = tree.nearest(point, guess);
            guess = found.triangle;
            EXPECT_NEAR(found.distance, best, 1e-12);
            EXPECT_NEAR(length(found.place - point), best, 1e-12);
            EXPECT_NEAR(plain_distance(mesh, found.face, point), best, 1e-12);
        }
    }
}

// Where the line through a point meets the plane of a triangle, inside by areas.
std::optional<double> plain_meeting(const Mesh& mesh, std::size_t face, Vec3 from, Vec3 direction) {
    const auto corners = mesh.face(face);
    const Vec3 a = mesh.vertex(corners[0]), b = mesh.vertex(corners[1]), c = mesh.vertex(corners[2]);
    const Vec3 normal = cross(b - a, c - a);
    const double rise = dot(direction, normal);
    if (rise == 0) return {};
    const double at = dot(a - from, normal) / rise;
    const Vec3 on = from + direction * at;
    const auto left = [&](Vec3 p, Vec3 q) { return dot(cross(q - p, on - p), normal) >= 0; };
    return left(a, b) && left(b, c) && left(c, a) ? std::optional(at) : std::nullopt;
}

TEST(TriangleTree, RaysMeetTheFirstOfThrownTriangles) {
    const Mesh mesh = thrown_triangles(300, 3);
    const TriangleTree tree(mesh);
    std::mt19937 random(5);
    std::uniform_real_distribution<double> anywhere(-3, 13), any(-1, 1);
    int met = 0;
    for (int time = 0; time < 500; ++time) {
        const Vec3 from{anywhere(random), anywhere(random), anywhere(random)};
        Vec3 direction{any(random), any(random), any(random)};
        if (time % 5 == 0) direction = {0, 0, time % 2 == 0 ? 1.0 : -1.0};  // square to two axes
        std::optional<double> best;
        for (std::size_t face = 0; face < mesh.face_count(); ++face)
            if (const auto at = plain_meeting(mesh, face, from, direction);
                at && *at > 0.5 && (!best || *at < *best))
                best = at;
        const auto found = tree.first_along(from, direction, 0.5);
        ASSERT_EQ(found.has_value(), best.has_value()) << time;
        if (!found) continue;
        ++met;
        EXPECT_NEAR(found->at, *best, 1e-9);
    }
    EXPECT_GT(met, 40);
}

TEST(TriangleTree, RaysAlongASideOfABoxMeetIt) {
    // A square of two triangles in the plane z = 0: rays straight down on its sides, its diagonal, its
    // corners.
    const Mesh square =
        mesh_of_triangles({{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}}, {{0, 1, 2}, {0, 2, 3}});
    const TriangleTree tree(square);
    for (const Vec3 on :
         {Vec3{0, 0, 0}, Vec3{0.5, 0, 0}, Vec3{0.5, 0.5, 0}, Vec3{1, 1, 0}, Vec3{1, 0.25, 0}}) {
        const auto met = tree.first_along(on + Vec3{0, 0, 2}, {0, 0, -1}, 0);
        ASSERT_TRUE(met) << on.x << ' ' << on.y;
        EXPECT_NEAR(met->at, 2, 1e-12);
    }
    EXPECT_FALSE(tree.first_along({1.001, 0.5, 2}, {0, 0, -1}, 0));
    EXPECT_FALSE(tree.first_along({0.5, 0.5, 2}, {0, 0, 1}, 0)) << "behind the ray";
    EXPECT_FALSE(tree.first_along({-1, 0.5, 0}, {1, 0, 0}, 0)) << "in the plane of the faces";
}

TEST(TriangleTree, HasNothingOfAMeshWithoutFacesAndLeavesOutWhatIsNotFinite) {
    const TriangleTree none(*Mesh::make({}));
    EXPECT_TRUE(none.empty());
    EXPECT_EQ(none.nearest({1, 2, 3}).distance, Box::infinite);
    EXPECT_FALSE(none.first_along({}, {0, 0, 1}, 0));
    const double nan = std::numeric_limits<double>::quiet_NaN();
    const TriangleTree one(
        mesh_of_triangles({{0, 0, 0}, {1, 0, 0}, {0, 1, 0}, {nan, 0, 0}}, {{0, 1, 2}, {1, 3, 2}}));
    EXPECT_EQ(one.triangle_count(), 1U);
    EXPECT_NEAR(one.nearest({0.2, 0.2, 3}).distance, 3, 1e-12);
}

// Points anywhere around a cube, its edges and corners among what is nearest.
TEST(FormSearch, TellsInsideFromOutsideOfACube) {
    test::StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.word("foot", "shape", "rectangle").number("foot", "width", "2 m").number("foot", "depth", "2 m");
    maker.add("body.extrude", "cube");
    maker.number("cube", "by", "2 m");
    const Value cube = test::value_of(test::run(maker.study), "cube");
    const auto form = FormSearch::make(cube, plume::Run());
    ASSERT_TRUE(form);
    EXPECT_TRUE(form->closed());
    std::mt19937 random(2);
    std::uniform_real_distribution<double> anywhere(-2, 2);
    for (int time = 0; time < 400; ++time) {
        const Vec3 p{anywhere(random), anywhere(random), anywhere(random)};  // from the cube's middle
        const Vec3 q{std::abs(p.x) - 1, std::abs(p.y) - 1, std::abs(p.z) - 1};
        const double outside = length({std::max(q.x, 0.0), std::max(q.y, 0.0), std::max(q.z, 0.0)});
        const double expected = outside > 0 ? outside : std::max({q.x, q.y, q.z});
        EXPECT_NEAR(form->signed_distance(p + Vec3{0, 0, 1}), expected, 1e-9)
            << p.x << ' ' << p.y << ' ' << p.z;
    }
}

TEST(FormSearch, TellsInsideOfAMeshWhoseCornersAreSharp) {
    // A thin star-like spike, whose corner is nearest over a wide range: plain sums of normals would err.
    const Mesh spike = mesh_of_triangles({{0, 0, 4}, {1, 0, 0}, {-0.2, 0.3, 0}, {-0.2, -0.3, 0}},
                                         {{0, 1, 2}, {0, 2, 3}, {0, 3, 1}, {1, 3, 2}});
    const auto form = FormSearch::make(spike, plume::Run());
    ASSERT_TRUE(form);
    ASSERT_TRUE(form->closed());
    EXPECT_GT(form->signed_distance({0, 0, 4.5}), 0);
    EXPECT_GT(form->signed_distance({1.5, 0.1, -0.2}), 0);
    EXPECT_GT(form->signed_distance({-0.5, 0, -0.1}), 0);
    EXPECT_LT(form->signed_distance({0.1, 0, 1}), 0);
    std::mt19937 random(9);
    std::uniform_real_distribution<double> anywhere(-1, 2);
    const TriangleTree tree(spike);
    for (int time = 0; time < 400; ++time) {
        const Vec3 p{anywhere(random), anywhere(random), 2 * anywhere(random)};
        bool inside = true;
        for (std::size_t face = 0; face < 4; ++face)
            inside = inside && dot(p - spike.vertex(spike.face(face)[0]), area_vector(spike, face)) < 0;
        EXPECT_EQ(form->signed_distance(p) < 0, inside) << p.x << ' ' << p.y << ' ' << p.z;
    }
}

TEST(FormSearch, IsExactOnATorus) {
    const SplinePatch torus = test::torus(3, 1);
    const auto form = FormSearch::make(Value(SurfaceSet{{torus}}), plume::Run());
    ASSERT_TRUE(form);
    EXPECT_FALSE(form->closed()) << "a surface has no inside";
    std::mt19937 random(4);
    std::uniform_real_distribution<double> anywhere(-4.5, 4.5);
    for (int time = 0; time < 200; ++time) {
        const Vec3 p{anywhere(random), anywhere(random), anywhere(random) / 2};
        const double expected = std::abs(std::hypot(std::hypot(p.x, p.y) - 3, p.z) - 1);
        EXPECT_NEAR(form->nearest(p).distance, expected, 1e-9);
    }
    const auto down = form->first_along({3, 0, 5}, {0, 0, -1}, 0);
    ASSERT_TRUE(down);
    EXPECT_NEAR(down->distance, 4, 1e-9);
    EXPECT_NEAR(length(down->place - Vec3{3, 0, 1}), 0, 1e-9);
    const auto through = form->first_along({3, 0, 5}, {0, 0, -1}, 4.5);
    ASSERT_TRUE(through);
    EXPECT_NEAR(through->distance, 6, 1e-9);
    EXPECT_FALSE(form->first_along({0, 0, 5}, {0, 0, -1}, 0)) << "through the hole";
}

TEST(FormSearch, RefusesWhatHasNoFace) {
    const auto none = FormSearch::make(Value(*Mesh::make({})), plume::Run());
    ASSERT_FALSE(none);
    EXPECT_EQ(none.error().code, ErrorCode::empty_input);
}

}  // namespace
}  // namespace plume
