#include "core/geometry/parts/mesh_parts.hpp"

#include <cassert>
#include <limits>

#include "core/data/gathered.hpp"

namespace plume {
namespace {

constexpr auto unused = std::numeric_limits<std::uint32_t>::max();

}  // namespace

Mesh with_parts(const Mesh& mesh, const std::vector<std::uint8_t>& mask) {
    Mesh::Parts parts;
    std::vector<std::uint32_t> number(mesh.vertex_count(), unused), kept, kept_faces;
    for (std::size_t part = 0; part < mesh.part_count(); ++part) {
        if (mask[part] == 0) continue;
        parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
        const Mesh::Faces faces = mesh.part(part);
        for (std::size_t face = faces.begin; face < faces.end; ++face) {
            kept_faces.push_back(static_cast<std::uint32_t>(face));
            for (const std::uint32_t corner : mesh.face(face)) {
                if (number[corner] == unused) {
                    number[corner] = static_cast<std::uint32_t>(kept.size());
                    kept.push_back(corner);
                }
                parts.corners.push_back(number[corner]);
            }
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    }
    parts.x = gathered(mesh.x(), kept);
    parts.y = gathered(mesh.y(), kept);
    parts.z = gathered(mesh.z(), kept);
    parts.fields = gathered(mesh.fields(), kept);
    parts.face_fields = gathered(mesh.face_fields(), kept_faces);
    Result<Mesh> made = Mesh::make(std::move(parts));
    assert(made);
    return *std::move(made);
}

Mesh only_part(const Mesh& mesh, std::size_t part) {
    if (mesh.part_count() == 1) return mesh;
    std::vector<std::uint8_t> mask(mesh.part_count(), 0);
    mask[part] = 1;
    return with_parts(mesh, mask);
}

Vec3 part_place(const Mesh& mesh, std::size_t part) {
    Vec3 sum;
    double count = 0;
    const Mesh::Faces faces = mesh.part(part);
    for (std::size_t face = faces.begin; face < faces.end; ++face)
        for (const std::uint32_t corner : mesh.face(face)) {
            sum = sum + mesh.vertex(corner);
            count += 1;
        }
    return count > 0 ? sum * (1 / count) : Vec3{};
}

}  // namespace plume
