#pragma once
// The sides of a mesh: what stands between two corners of faces that follow each other, once for all faces
// that have it.

#include <array>
#include <cstdint>
#include <span>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

struct MeshSides {
    // Vertices, the lower first; in their order.
    std::vector<std::array<std::uint32_t, 2>> ends;
    // Of each corner of the mesh, in its order: the side from it to the next of its face.
    std::vector<std::uint32_t> of_corner;
    // Of each side the corners where faces begin to run along it: entries first[s] .. first[s + 1] - 1.
    std::vector<std::uint32_t> first{0}, corners;

    std::size_t count() const { return ends.size(); }
    std::size_t face_count(std::size_t side) const { return first[side + 1] - first[side]; }
};
// O(n log n) in the corners.
MeshSides sides_of(const Mesh& mesh);

// Calls use(face, corners, sides) for every face, with the side behind each of its corners.
template <class Use>
void for_each_face(const Mesh& mesh, const MeshSides& sides, const Use& use) {
    std::size_t corner = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        use(face, corners, std::span(sides.of_corner.data() + corner, corners.size()));
        corner += corners.size();
    }
}

// Of each corner of the mesh the face beyond the side from it to the next of its face; no_face at rims and
// where more than two faces meet.
inline constexpr auto no_face = static_cast<std::uint32_t>(-1);
std::vector<std::uint32_t> faces_beyond(const Mesh& mesh);

// The face each corner of a mesh belongs to.
std::vector<std::uint32_t> faces_of_corners(const Mesh& mesh);

}  // namespace plume
