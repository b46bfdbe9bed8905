#include "core/picture/creases.hpp"

#include <cmath>
#include <numeric>

#include "core/base/parallel.hpp"

namespace plume {
namespace {

// The corners that stand at each vertex.
struct Around {
    std::vector<std::uint32_t> first, corners;
};
Around corners_around(const Mesh& mesh) {
    Around around{std::vector<std::uint32_t>(mesh.vertex_count() + 1, 0),
                  std::vector<std::uint32_t>(mesh.corner_count())};
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t vertex : mesh.face(face))
            ++around.first[vertex + 1];
    std::partial_sum(around.first.begin(), around.first.end(), around.first.begin());
    std::vector<std::uint32_t> filled(around.first.begin(), around.first.end() - 1);
    std::uint32_t corner = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t vertex : mesh.face(face))
            around.corners[filled[vertex]++] = corner++;
    return around;
}

}  // namespace

Creases creases_of(const Mesh& mesh, double angle_rad) {
    const double least_cosine = std::cos(angle_rad);
    const Around around = corners_around(mesh);
    std::vector<Vec3> areas(mesh.face_count());
    std::vector<std::uint32_t> face_of(mesh.corner_count()), next(mesh.corner_count());
    std::uint32_t start = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        areas[face] = area_vector(mesh, face);
        const auto corners = mesh.face(face);
        const auto count = static_cast<std::uint32_t>(corners.size());
        for (std::uint32_t at = 0; at < count; ++at) {
            face_of[start + at] = static_cast<std::uint32_t>(face);
            next[start + at] = corners[(at + 1) % count];
        }
        start += count;
    }
    Creases creases{std::vector<Vec3>(mesh.corner_count()),
                    std::vector<std::uint8_t>(mesh.corner_count(), 1)};
    const auto smooth = [&](std::uint32_t a, std::uint32_t b) {
        return dot(areas[a], areas[b]) >= least_cosine * length(areas[a]) * length(areas[b]);
    };
    parallel_blocks(mesh.vertex_count(), usual_block, Run(), [&](std::size_t begin, std::size_t end) {
        for (std::size_t vertex = begin; vertex < end; ++vertex)
            for (std::uint32_t at = around.first[vertex]; at < around.first[vertex + 1]; ++at) {
                const std::uint32_t corner = around.corners[at], face = face_of[corner];
                Vec3 sum;
                for (std::uint32_t other = around.first[vertex]; other < around.first[vertex + 1]; ++other)
                    if (const std::uint32_t near = face_of[around.corners[other]]; smooth(face, near))
                        sum = sum + areas[near];
                creases.normals[corner] = unit_or_zero(sum);
                // The face on the other side runs from the next vertex to this one.
                const std::uint32_t to = next[corner];
                for (std::uint32_t other = around.first[to]; other < around.first[to + 1]; ++other) {
                    const std::uint32_t back = around.corners[other];
                    if (next[back] == vertex && smooth(face, face_of[back])) creases.is_edge[corner] = 0;
                }
            }
    });
    return creases;
}

}  // namespace plume
