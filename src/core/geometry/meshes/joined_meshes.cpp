#include "core/geometry/meshes/joined_meshes.hpp"

#include <algorithm>

namespace plume {

Result<Mesh> joined(const std::vector<Mesh>& meshes) {
    if (meshes.size() == 1) return meshes.front();
    Mesh::Parts parts;
    Doubles x, y, z;
    for (const Mesh& mesh : meshes) {
        const auto offset = static_cast<std::uint32_t>(x.size());
        for (std::size_t part = 0; part < mesh.part_count() && mesh.face_count() > 0; ++part)
            parts.part_starts.push_back(
                static_cast<std::uint32_t>(parts.first.size() - 1 + mesh.part(part).begin));
        x.insert(x.end(), mesh.x().span().begin(), mesh.x().span().end());
        y.insert(y.end(), mesh.y().span().begin(), mesh.y().span().end());
        z.insert(z.end(), mesh.z().span().begin(), mesh.z().span().end());
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            for (const std::uint32_t corner : mesh.face(face))
                parts.corners.push_back(corner + offset);
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    }
    for (const Field& field : meshes.empty() ? std::vector<Field>{} : meshes.front().fields()) {
        Doubles values;
        for (const Mesh& mesh : meshes) {
            const auto found = std::ranges::find(mesh.fields(), field.name, &Field::name);
            if (found == mesh.fields().end()) break;
            values.insert(values.end(), found->values.span().begin(), found->values.span().end());
        }
        if (values.size() == x.size())
            parts.fields.push_back({field.name, std::move(values), field.dimension});
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return Mesh::make(std::move(parts));
}

Mesh turned_over(const Mesh& mesh) {
    Mesh::Parts parts = mesh.parts();
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        std::reverse(parts.corners.begin() + parts.first[face],
                     parts.corners.begin() + parts.first[face + 1]);
    return *Mesh::make(std::move(parts));
}

}  // namespace plume
