#include "core/geometry/meshes/joined_meshes.hpp"

#include <algorithm>

namespace plume {
namespace {

// Those that every mesh carries, end to end.
std::vector<Field> fields_of_all(const std::vector<Mesh>& meshes,
                                 const std::vector<Field>& (Mesh::*fields)() const) {
    std::vector<Field> result;
    if (meshes.empty()) return result;
    for (const Field& field : (meshes.front().*fields)()) {
        Doubles values;
        const bool everywhere = std::ranges::all_of(meshes, [&](const Mesh& mesh) {
            const auto found = std::ranges::find((mesh.*fields)(), field.name, &Field::name);
            if (found == (mesh.*fields)().end()) return false;
            values.insert(values.end(), found->values.span().begin(), found->values.span().end());
            return true;
        });
        if (everywhere) result.push_back({field.name, std::move(values), field.dimension});
    }
    return result;
}

}  // namespace

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
    parts.fields = fields_of_all(meshes, &Mesh::fields);
    parts.face_fields = fields_of_all(meshes, &Mesh::face_fields);
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
