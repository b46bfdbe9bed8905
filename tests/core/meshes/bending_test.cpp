// Curvatures of surfaces and meshes against closed forms.

#include "core/geometry/surfaces/bending.hpp"

#include <atomic>

#include "core/geometry/meshes/mesh_bending.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/meshes/round_meshes.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

TEST(Bending, OfASphereIsOneOverItsRadiusEverywhere) {
    const SplinePatch sphere = test::sphere(4);
    const PatchEvaluator evaluator(sphere);
    for (const double u : {0.1, 0.37, 0.9})
        for (const double v : {0.2, 0.5, 0.71}) {
            const auto at = [](const SplineBasis& basis, double share) {
                return std::lerp(basis.start(), basis.end(), share);
            };
            const Bending bending = bending_of(evaluator.bend_at(at(sphere.u(), u), at(sphere.v(), v)));
            EXPECT_NEAR(std::abs(bending.least()), 0.25, 1e-9);
            EXPECT_NEAR(std::abs(bending.most()), 0.25, 1e-9);
            EXPECT_NEAR(number_of(bending, BendingNumber::gaussian), 1.0 / 16, 1e-9);
            EXPECT_NEAR(number_of(bending, BendingNumber::radius), 4, 1e-8);
        }
}

TEST(Bending, OfATorusFollowsItsClosedForm) {
    const SplinePatch torus = test::torus(3, 1);
    const PatchEvaluator evaluator(torus);
    for (int a = 0; a < 7; ++a)
        for (int b = 0; b < 7; ++b) {
            const double u = std::lerp(torus.u().start(), torus.u().end(), a / 7.0),
                         v = std::lerp(torus.v().start(), torus.v().end(), b / 7.0);
            const SurfaceBend bend = evaluator.bend_at(u, v);
            const Vec3 p = bend.point.position;
            const Bending bending = bending_of(bend);
            // 1 across the ring, cos / (R + r cos) around it, both with the side of the normal.
            const double out = std::hypot(p.x, p.y), cosine = out - 3;
            const Vec3 outwards = unit_or_zero(Vec3{p.x, p.y, 0} * (cosine / out) + Vec3{0, 0, p.z});
            const double side = -dot(bending.normal, outwards);
            EXPECT_NEAR(std::abs(side), 1, 1e-9);
            const double across = side * 1, around = side * cosine / out;
            EXPECT_NEAR(bending.most(), std::max(across, around), 1e-8);
            EXPECT_NEAR(bending.least(), std::min(across, around), 1e-8);
            // The direction around the ring belongs to the latter.
            const Vec3 ring = unit_or_zero({-p.y, p.x, 0});
            const Vec3 found = around > across ? bending.along_most() : bending.along_least();
            EXPECT_NEAR(std::abs(dot(found, ring)), 1, 1e-7);
        }
}

// A catenoid: a minimal surface, mean curvature 0 and Gaussian -1 / cosh(v)^4.
PointLattice catenoid(std::size_t around, std::size_t up) {
    PointLattice::Parts parts;
    parts.counts = {around, up, 1};
    parts.closed = {true, false, false};
    Doubles x, y, z;
    for (std::size_t j = 0; j < up; ++j)
        for (std::size_t i = 0; i < around; ++i) {
            const double a = 2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(around);
            const double v = -1 + 2 * static_cast<double>(j) / static_cast<double>(up - 1);
            x.push_back(std::cosh(v) * std::cos(a));
            y.push_back(std::cosh(v) * std::sin(a));
            z.push_back(v);
        }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

TEST(Bending, OfTheSkinOfACatenoidIsMinimal) {
    const PointLattice points = catenoid(96, 61);
    const auto skin = interpolate_grid(points, plume::Run());
    ASSERT_TRUE(skin);
    std::vector<double> u = skin->u().nodes, v = skin->v().nodes;
    u.resize(96);
    std::vector<double> worst_mean(v.size(), 0), worst_gaussian(v.size(), 0);  // rows are on several threads
    visit_bends(
        *skin, u, v,
        [&](std::size_t i, std::size_t j, const SurfaceBend& bend) {
            EXPECT_LT(length(bend.point.position - points.point(i + 96 * j)), 1e-9);
            if (j < 4 || j > 56) return;  // a spline bends a little otherwise at its ends
            const Bending bending = bending_of(bend);
            const double height = bend.point.position.z;
            worst_mean[j] = std::max(worst_mean[j], std::abs(number_of(bending, BendingNumber::mean)));
            worst_gaussian[j] = std::max(
                worst_gaussian[j],
                std::abs(number_of(bending, BendingNumber::gaussian) + 1 / std::pow(std::cosh(height), 4)));
        },
        plume::Run());
    EXPECT_LT(std::ranges::max(worst_mean), 2e-3);
    EXPECT_LT(std::ranges::max(worst_gaussian), 2e-3);
}

TEST(Bending, GridsOfPlacesAgreeWithSingleOnes) {
    for (const SplinePatch& patch : {test::torus(3, 1), test::quadric(-1.5)}) {
        const PatchEvaluator evaluator(patch);
        std::vector<double> u, v;
        for (int at = 0; at < 9; ++at) {
            u.push_back(std::lerp(patch.u().start(), patch.u().end(), at / 9.0));
            v.push_back(std::lerp(patch.v().start(), patch.v().end(), at / 9.0));
        }
        std::atomic<std::size_t> count = 0;
        visit_bends(
            patch, u, v,
            [&](std::size_t a, std::size_t b, const SurfaceBend& bend) {
                const SurfaceBend plain = evaluator.bend_at(u[a], v[b]);
                ++count;
                for (const auto& [one, other] : {std::pair(bend.point.position, plain.point.position),
                                                 {bend.point.along_u, plain.point.along_u},
                                                 {bend.point.along_v, plain.point.along_v},
                                                 {bend.bend_uu, plain.bend_uu},
                                                 {bend.bend_uv, plain.bend_uv},
                                                 {bend.bend_vv, plain.bend_vv}})
                    EXPECT_LT(length(one - other), 1e-9);
            },
            plume::Run());
        EXPECT_EQ(count, 81U);
    }
}

TEST(MeshBending, IsExactOnSpheresHoweverTheyAreCut) {
    for (const int times : {0, 1, 2, 4}) {
        const auto bending = bending_at_vertices(test::ball(2.5, times), plume::Run());
        ASSERT_TRUE(bending);
        for (const Bending& one : *bending) {
            EXPECT_NEAR(one.least(), -0.4, 1e-9) << times;
            EXPECT_NEAR(one.most(), -0.4, 1e-9) << times;
        }
    }
}

TEST(MeshBending, ComesNearerToATorusTheFinerItIsCut) {
    double before = 0;
    for (const std::size_t around : {24U, 48U, 96U}) {
        const Mesh mesh = test::ring(3, 1, around, around / 2);
        const auto bending = bending_at_vertices(mesh, plume::Run());
        ASSERT_TRUE(bending);
        double worst = 0, turned = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
            const Vec3 p = mesh.vertex(vertex);
            const double out = std::hypot(p.x, p.y), around_it = -(out - 3) / out;
            worst = std::max({worst, std::abs((*bending)[vertex].least() + 1),
                              std::abs((*bending)[vertex].most() - around_it)});
            const Vec3 along = unit_or_zero({-p.y, p.x, 0});
            turned = std::max(turned, 1 - std::abs(dot((*bending)[vertex].along_most(), along)));
        }
        if (before > 0) {
            EXPECT_LT(worst, before / 2.5);
        }
        before = worst;
        if (around == 96) {
            EXPECT_LT(worst, 0.02);
            EXPECT_LT(turned, 1e-3);
        }
    }
}

TEST(MeshBending, OfAFlatMeshIsNothingAndOfLooseVerticesToo) {
    const Mesh flat = test::parametric(5, 4, false, false, [](double u, double v) {
        return Vec3{4 * u + v, 3 * v, 0.5 * u};
    });
    const auto none = bending_at_vertices(flat, plume::Run());
    ASSERT_TRUE(none);
    for (const Bending& one : *none) {
        EXPECT_NEAR(one.least(), 0, 1e-12);
        EXPECT_NEAR(one.most(), 0, 1e-12);
        EXPECT_NEAR(length(one.normal), 1, 1e-12);
    }
    // A vertex without a face, and a face of no area.
    const auto loose = bending_at_vertices(
        test::mesh_of_triangles({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}, {5, 5, 5}}, {{0, 1, 2}}), plume::Run());
    ASSERT_TRUE(loose);
    for (const Bending& one : *loose) {
        EXPECT_EQ(one.most(), 0);
        EXPECT_EQ(one.normal, Vec3{});
    }
}

}  // namespace
}  // namespace plume
