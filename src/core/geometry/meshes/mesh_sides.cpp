#include "core/geometry/meshes/mesh_sides.hpp"

#include <algorithm>

namespace plume {

MeshSides sides_of(const Mesh& mesh) {
    struct Half {
        std::uint32_t low, high, corner;
    };
    std::vector<Half> halves;
    halves.reserve(mesh.corner_count());
    std::uint32_t corner = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for (std::size_t at = 0; at < corners.size(); ++at, ++corner) {
            const auto [low, high] = std::minmax(corners[at], corners[(at + 1) % corners.size()]);
            halves.push_back({low, high, corner});
        }
    }
    std::ranges::sort(halves, {},
                      [](const Half& half) { return std::tuple(half.low, half.high, half.corner); });
    MeshSides sides;
    sides.of_corner.resize(halves.size());
    sides.corners.reserve(halves.size());
    for (const Half& half : halves) {
        if (sides.ends.empty() || sides.ends.back() != std::array{half.low, half.high}) {
            sides.ends.push_back({half.low, half.high});
            sides.first.push_back(sides.first.back());
        }
        sides.of_corner[half.corner] = static_cast<std::uint32_t>(sides.ends.size() - 1);
        sides.corners.push_back(half.corner);
        ++sides.first.back();
    }
    return sides;
}

std::vector<std::uint32_t> faces_beyond(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    const std::vector<std::uint32_t> faces = faces_of_corners(mesh);
    std::vector<std::uint32_t> beyond(faces.size(), no_face);
    for (std::size_t side = 0; side < sides.count(); ++side) {
        if (sides.face_count(side) != 2) continue;
        const std::uint32_t one = sides.corners[sides.first[side]],
                            other = sides.corners[sides.first[side] + 1];
        beyond[one] = faces[other];
        beyond[other] = faces[one];
    }
    return beyond;
}

std::vector<std::uint32_t> faces_of_corners(const Mesh& mesh) {
    std::vector<std::uint32_t> faces;
    faces.reserve(mesh.corner_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        faces.insert(faces.end(), mesh.face(face).size(), static_cast<std::uint32_t>(face));
    return faces;
}

}  // namespace plume
