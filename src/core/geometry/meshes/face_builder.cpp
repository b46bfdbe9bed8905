#include "core/geometry/meshes/face_builder.hpp"

#include <limits>

namespace plume {

Mesh without_loose_vertices(const Mesh& mesh) {
    constexpr auto unused = std::numeric_limits<std::uint32_t>::max();
    std::vector<std::uint32_t> number(mesh.vertex_count(), unused), kept;
    for (const std::uint32_t corner : mesh.parts().corners)
        number[corner] = 0;
    for (std::size_t vertex = 0; vertex < number.size(); ++vertex) {
        if (number[vertex] == unused) continue;
        number[vertex] = static_cast<std::uint32_t>(kept.size());
        kept.push_back(static_cast<std::uint32_t>(vertex));
    }
    if (kept.size() == mesh.vertex_count()) return mesh;
    Mesh::Parts parts = mesh.parts();
    for (std::uint32_t& corner : parts.corners)
        corner = number[corner];
    parts.x = gathered(mesh.x(), kept);
    parts.y = gathered(mesh.y(), kept);
    parts.z = gathered(mesh.z(), kept);
    parts.fields = gathered(mesh.fields(), kept);
    return *Mesh::make(std::move(parts));
}

}  // namespace plume
