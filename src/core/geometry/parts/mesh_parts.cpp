#include "core/geometry/parts/mesh_parts.hpp"

#include <algorithm>
#include <cassert>
#include <limits>

#include "core/data/gathered.hpp"

namespace plume {
namespace {

constexpr auto unused = std::numeric_limits<std::uint32_t>::max();

// Faces that are made already, with the places and numbers of what is kept.
Mesh with_numbers_of(const Mesh& mesh, const std::vector<std::uint32_t>& kept,
                     const std::vector<std::uint32_t>& kept_faces, Mesh::Parts parts) {
    parts.x = gathered(mesh.x(), kept);
    parts.y = gathered(mesh.y(), kept);
    parts.z = gathered(mesh.z(), kept);
    parts.fields = gathered(mesh.fields(), kept);
    parts.face_fields = gathered(mesh.face_fields(), kept_faces);
    Result<Mesh> made = Mesh::make(std::move(parts));
    assert(made);
    return *std::move(made);
}

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
    parts.part_marks = marks_of(mesh.part_marks(), mask);
    return with_numbers_of(mesh, kept, kept_faces, std::move(parts));
}

PartAlone part_alone(const Mesh& mesh, std::size_t part) {
    const Mesh::Faces faces = mesh.part(part);
    const std::vector<std::uint32_t>& first = mesh.parts().first;
    const auto corners = corners_of_part(mesh, part);
    std::vector<std::uint32_t> sorted(corners.begin(), corners.end());
    std::ranges::sort(sorted);
    sorted.erase(std::unique(sorted.begin(), sorted.end()), sorted.end());
    // Vertices stand in the order in which faces come to them.
    std::vector<std::uint32_t> number(sorted.size(), unused), kept, kept_faces;
    Mesh::Parts parts;
    for (const std::uint32_t corner : corners) {
        const auto at = static_cast<std::size_t>(std::ranges::lower_bound(sorted, corner) - sorted.begin());
        if (number[at] == unused) {
            number[at] = static_cast<std::uint32_t>(kept.size());
            kept.push_back(corner);
        }
        parts.corners.push_back(number[at]);
    }
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        kept_faces.push_back(static_cast<std::uint32_t>(face));
        parts.first.push_back(first[face + 1] - first[faces.begin]);
    }
    return {with_numbers_of(mesh, kept, kept_faces, std::move(parts)), kept};
}

std::span<const std::uint32_t> corners_of_part(const Mesh& mesh, std::size_t part) {
    const Mesh::Faces faces = mesh.part(part);
    const std::vector<std::uint32_t>& first = mesh.parts().first;
    return std::span(mesh.parts().corners).subspan(first[faces.begin], first[faces.end] - first[faces.begin]);
}

VertexRange vertices_of_part(const Mesh& mesh, std::size_t part) {
    const auto [low, high] = std::ranges::minmax(corners_of_part(mesh, part));
    return {low, high - low + std::size_t{1}};
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
