#pragma once
// Places on the faces of a mesh, by the triangles that these are cut into.

#include <array>
#include <optional>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// The mean of its corners.
Vec3 face_middle(const Mesh& mesh, std::size_t face);

bool has_finite_corners(const Mesh& mesh, std::size_t face);

// Its triangles by their vertices, and the face of each.
struct MeshTriangles {
    std::vector<std::array<std::uint32_t, 3>> vertices;
    std::vector<std::uint32_t> faces;
};
MeshTriangles triangles_of(const Mesh& mesh);
// Without faces that have a corner which is not finite.
MeshTriangles finite_triangles_of(const Mesh& mesh);
std::vector<Box> boxes_of(const Mesh& mesh, const MeshTriangles& triangles);

// Where a place lies in a triangle: (1 - b - c) of its first vertex, b and c of the others.
struct SharesInFace {
    std::array<std::uint32_t, 3> vertices{};
    double b = 0, c = 0;

    // A number of the mesh's vertices there.
    template <class Number>
    auto read(const Number& number) const {
        return number(vertices[0]) * (1 - b - c) + number(vertices[1]) * b + number(vertices[2]) * c;
    }
};

// The triangles of all faces, kept. Reads the mesh, which has to outlive it.
class FaceTriangles {
public:
    explicit FaceTriangles(const Mesh& mesh);
    const std::vector<std::array<std::uint32_t, 3>>& of(std::size_t face) const { return triangles_[face]; }
    // In the triangle of a face that a place on it least lies beside of, with no share outside of 0 to 1; the
    // middle of the first one where none has an area.
    SharesInFace shares_at(std::size_t face, Vec3 place) const;

private:
    const Mesh& mesh_;
    std::vector<std::vector<std::array<std::uint32_t, 3>>> triangles_;
};

}  // namespace plume
