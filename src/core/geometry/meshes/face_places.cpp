#include "core/geometry/meshes/face_places.hpp"

#include <algorithm>

#include "core/data/box.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

void add_triangles(const Mesh& mesh, std::size_t face, MeshTriangles& all) {
    const auto corners = mesh.face(face);
    for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
        all.vertices.push_back({corners[a], corners[b], corners[c]});
        all.faces.push_back(static_cast<std::uint32_t>(face));
    });
}

}  // namespace

bool has_finite_corners(const Mesh& mesh, std::size_t face) {
    return std::ranges::all_of(mesh.face(face), [&](std::uint32_t c) { return is_finite(mesh.vertex(c)); });
}

MeshTriangles triangles_of(const Mesh& mesh) {
    MeshTriangles all;
    all.vertices.reserve(mesh.corner_count() - 2 * mesh.face_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        add_triangles(mesh, face, all);
    return all;
}

MeshTriangles finite_triangles_of(const Mesh& mesh) {
    MeshTriangles all;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        if (has_finite_corners(mesh, face)) add_triangles(mesh, face, all);
    return all;
}

std::vector<Box> boxes_of(const Mesh& mesh, const MeshTriangles& triangles) {
    std::vector<Box> boxes(triangles.vertices.size());
    for (std::size_t at = 0; at < boxes.size(); ++at)
        for (const std::uint32_t vertex : triangles.vertices[at])
            boxes[at].include(mesh.vertex(vertex));
    return boxes;
}

Vec3 face_middle(const Mesh& mesh, std::size_t face) {
    Vec3 sum;
    for (const std::uint32_t corner : mesh.face(face))
        sum = sum + mesh.vertex(corner);
    return sum * (1.0 / static_cast<double>(mesh.face(face).size()));
}

FaceTriangles::FaceTriangles(const Mesh& mesh) : mesh_(mesh), triangles_(mesh.face_count()) {
    const MeshTriangles all = triangles_of(mesh);
    for (std::size_t at = 0; at < all.faces.size(); ++at)
        triangles_[all.faces[at]].push_back(all.vertices[at]);
}

SharesInFace FaceTriangles::shares_at(std::size_t face, Vec3 place) const {
    SharesInFace found{triangles_[face].front(), 1.0 / 3, 1.0 / 3};
    double best = Box::infinite;
    for (const auto& vertices : triangles_[face]) {
        const Vec3 a = mesh_.vertex(vertices[0]), ab = mesh_.vertex(vertices[1]) - a,
                   ac = mesh_.vertex(vertices[2]) - a, area = cross(ab, ac), off = place - a;
        const double square = dot(area, area);
        if (!(square > 0)) continue;
        const double b = dot(cross(off, ac), area) / square, c = dot(cross(ab, off), area) / square;
        const double beside = std::max({0.0, -b, -c, b + c - 1});
        if (!(beside < best)) continue;
        best = beside;
        const double inside_b = std::clamp(b, 0.0, 1.0);
        found = {vertices, inside_b, std::clamp(c, 0.0, 1 - inside_b)};
    }
    return found;
}

}  // namespace plume
