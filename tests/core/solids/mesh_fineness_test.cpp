// Meshes of what is curved, as true as they are asked to be: measured against closed forms.

#include <cmath>

#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

// How far the middles of faces, whichever diagonal parts them, and of their sides are off.
template <class Distance>
double worst_of(const Mesh& mesh, const Distance& distance) {
    double worst = 0;
    const auto look = [&](Vec3 place) { worst = std::max(worst, distance(place)); };
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        const auto place = [&](std::size_t at) { return mesh.vertex(corners[at % corners.size()]); };
        for (std::size_t at = 0; at < corners.size(); ++at)
            look((place(at) + place(at + 1)) * 0.5);
        if (corners.size() == 3)
            look((place(0) + place(1) + place(2)) * (1.0 / 3));
        else
            for (const std::size_t at : {0U, 1U})
                look((place(at) + place(at + 2)) * 0.5);
    }
    return worst;
}
double off_sphere(Vec3 place) {
    return std::abs(length(place) - 3);
}
double off_torus(Vec3 place) {
    return std::abs(std::hypot(std::hypot(place.x, place.y) - 5, place.z) - 2);
}
double off_bowl(Vec3 place) {
    return std::abs(place.z - (place.x * place.x + place.y * place.y) / 2);
}

Mesh made(Result<Mesh> mesh) {
    if (!mesh) throw std::runtime_error(sentence(mesh.error()));
    return *std::move(mesh);
}

TEST(MeshFineness, SurfacesAreWithinWhatIsAskedFor) {
    std::size_t before = 0;
    for (const double within : {0.1, 0.01, 0.001}) {
        const Mesh ball = made(mesh_of(SurfaceSet{{test::sphere(3)}}, Fineness::to(within), plume::Run()));
        EXPECT_LE(worst_of(ball, off_sphere), within);
        const Mesh ring = made(mesh_of(SurfaceSet{{test::torus(5, 2)}}, Fineness::to(within), plume::Run()));
        EXPECT_LE(worst_of(ring, off_torus), within);
        const Mesh bowl = made(mesh_of(SurfaceSet{{test::quadric(1)}}, Fineness::to(within), plume::Run()));
        EXPECT_LE(worst_of(bowl, off_bowl), within);
        // A tenth of it is about ten times the faces.
        EXPECT_TRUE(before == 0 || ring.face_count() < 25 * before) << ring.face_count() << ' ' << before;
        before = ring.face_count();
    }
}

TEST(MeshFineness, BodiesStayClosed) {
    for (const double within : {0.05, 0.002}) {
        const auto ball = exact_body({test::sphere(3)}, plume::Run());
        const Mesh mesh = made(closed_mesh(*ball, Fineness::to(within), plume::Run()));
        EXPECT_LE(worst_of(mesh, off_sphere), within);
        const double volume = 36 * std::numbers::pi;
        EXPECT_NEAR(meshed_body(mesh)->figures().volume, volume, 36 * std::numbers::pi * within);
    }
}

TEST(MeshFineness, TrimmedSurfacesAreTrueUpToTheirTrims) {
    SplinePatch::Parts parts = test::quadric(1).parts();
    parts.trims = {ellipse(test::at_origin(), 1.5, 1.5)};
    const auto bowl = SplinePatch::make(std::move(parts));
    ASSERT_TRUE(bowl) << sentence(bowl.error());
    for (const double within : {0.05, 0.005}) {
        const Mesh mesh = made(mesh_of(SurfaceSet{{*bowl}}, Fineness::to(within), plume::Run()));
        EXPECT_LE(worst_of(mesh, off_bowl), within);
        // Beside the rim as well: its chords are as near to the circle.
        double widest = 0;
        for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
            widest = std::max(widest, std::hypot(mesh.vertex(vertex).x, mesh.vertex(vertex).y));
        EXPECT_NEAR(widest, 1.5, 1e-6);
    }
}

TEST(MeshFineness, WhatWouldNeedTooManyFacesIsRefused) {
    const auto refused = mesh_of(SurfaceSet{{test::sphere(3)}}, Fineness::to(1e-9), plume::Run());
    ASSERT_FALSE(refused);
    EXPECT_EQ(sentence(refused.error()),
              "would need more than five million faces to be that true. Type a larger deviation.");
    const auto body = exact_body({test::sphere(3)}, plume::Run());
    EXPECT_EQ(closed_mesh(*body, Fineness::to(1e-12), plume::Run()).error().code, ErrorCode::over_budget);
}

}  // namespace
}  // namespace plume
