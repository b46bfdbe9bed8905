#pragma once
// Some of the parts of a mesh.

#include <cstdint>
#include <span>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// The faces of the parts whose entry in `mask` (one a part) is not 0, with the vertices they use; at least
// one is. Fields come along. O(corners).
Mesh with_parts(const Mesh& mesh, const std::vector<std::uint8_t>& mask);
// One of them alone, and which vertices of the whole are its own. O(c log c) for its c corners.
struct PartAlone {
    Mesh mesh;
    std::vector<std::uint32_t> vertices;
};
PartAlone part_alone(const Mesh& mesh, std::size_t part);

// The corners of its faces, one face after the other; and from which vertex to which they reach: nothing else
// stands between these where a part is a shape by itself.
std::span<const std::uint32_t> corners_of_part(const Mesh& mesh, std::size_t part);
struct VertexRange {
    std::uint32_t first = 0;
    std::size_t count = 0;
};
VertexRange vertices_of_part(const Mesh& mesh, std::size_t part);

// The mean of a part's corners.
Vec3 part_place(const Mesh& mesh, std::size_t part);

}  // namespace plume
