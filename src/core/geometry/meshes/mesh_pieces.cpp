#include "core/geometry/meshes/mesh_pieces.hpp"

#include <algorithm>
#include <limits>
#include <numeric>

#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"

namespace plume {
namespace {

constexpr auto none = std::numeric_limits<std::uint32_t>::max();

// Calls use(face, other, side) from face to face along sides that two of them share, every piece from its
// first face on; begin(face) before each piece.
template <class Begin, class Use>
void walk(const Mesh& mesh, const MeshSides& sides, const Begin& begin, const Use& use) {
    const std::vector<std::uint32_t> faces = faces_of_corners(mesh);
    std::vector<std::uint8_t> seen(mesh.face_count(), 0);
    std::vector<std::uint32_t> waiting;
    for (std::uint32_t start = 0; start < mesh.face_count(); ++start) {
        if (seen[start] != 0) continue;
        begin(start);
        seen[start] = 1;
        waiting.push_back(start);
        while (!waiting.empty()) {
            const std::uint32_t face = waiting.back();
            waiting.pop_back();
            for (std::uint32_t corner = mesh.parts().first[face]; corner < mesh.parts().first[face + 1];
                 ++corner) {
                const std::uint32_t side = sides.of_corner[corner];
                for (std::uint32_t at = sides.first[side]; at < sides.first[side + 1]; ++at) {
                    const std::uint32_t other_corner = sides.corners[at], other = faces[other_corner];
                    if (other == face) continue;
                    const bool is_new = seen[other] == 0;
                    use(corner, other_corner, face, other, is_new);
                    if (!is_new) continue;
                    seen[other] = 1;
                    waiting.push_back(other);
                }
            }
        }
    }
}

Mesh with_parts_in(const Mesh& mesh, const std::vector<std::uint32_t>& part_of) {
    std::vector<std::uint32_t> order(mesh.face_count());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, {}, [&](std::uint32_t face) { return part_of[face]; });
    Mesh::Parts parts{.x = mesh.x(), .y = mesh.y(), .z = mesh.z(), .corners = {}, .fields = mesh.fields()};
    std::uint32_t before = none;
    for (const std::uint32_t face : order) {
        if (part_of[face] != before)
            parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
        before = part_of[face];
        const auto corners = mesh.face(face);
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    parts.face_fields = gathered(mesh.face_fields(), order);
    return *Mesh::make(std::move(parts));
}

}  // namespace

MeshPieces pieces_of(const Mesh& mesh) {
    MeshPieces pieces;
    pieces.of_face.assign(mesh.face_count(), 0);
    walk(
        mesh, sides_of(mesh),
        [&](std::uint32_t face) { pieces.of_face[face] = static_cast<std::uint32_t>(pieces.count++); },
        [&](std::uint32_t, std::uint32_t, std::uint32_t face, std::uint32_t other, bool) {
            pieces.of_face[other] = pieces.of_face[face];
        });
    return pieces;
}

Mesh parted_by_pieces(const Mesh& mesh) {
    return with_parts_in(mesh, pieces_of(mesh).of_face);
}

Mesh parted_by_faces(const Mesh& mesh) {
    std::vector<std::uint32_t> all(mesh.face_count());
    std::iota(all.begin(), all.end(), 0U);
    return with_parts_in(mesh, all);
}

TurnedMesh turned_alike(const Mesh& mesh) {
    const MeshSides sides = sides_of(mesh);
    std::vector<std::uint8_t> turns(mesh.face_count(), 0);
    std::vector<std::uint32_t> pieces(mesh.face_count(), 0);
    std::size_t one_sided = 0;
    std::uint32_t count = 0;
    const std::vector<std::uint32_t>& vertices = mesh.parts().corners;
    walk(
        mesh, sides, [&](std::uint32_t face) { pieces[face] = count++; },
        [&](std::uint32_t corner, std::uint32_t other_corner, std::uint32_t face, std::uint32_t other,
            bool is_new) {
            // Two faces turn alike when they run along their side in opposite directions.
            const bool alike = vertices[corner] != vertices[other_corner];
            const auto wanted = static_cast<std::uint8_t>(alike ? turns[face] : 1 - turns[face]);
            if (is_new) {
                turns[other] = wanted;
                pieces[other] = pieces[face];
            } else if (turns[other] != wanted && sides.face_count(sides.of_corner[corner]) == 2) {
                ++one_sided;
            }
        });
    // Which of the two ways: volume where there is one, else area.
    std::vector<double> volumes(count, 0), areas(count, 0);
    std::vector<std::uint8_t> open(count, 0);
    const std::vector<std::uint32_t> faces = faces_of_corners(mesh);
    for (std::size_t side = 0; side < sides.count(); ++side)
        if (sides.face_count(side) != 2) open[pieces[faces[sides.corners[sides.first[side]]]]] = 1;
    const Vec3 middle = mesh.bounds().centre();
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const Vec3 area = area_vector(mesh, face) * (turns[face] != 0 ? -1 : 1);
        volumes[pieces[face]] += dot(mesh.vertex(mesh.face(face)[0]) - middle, area);
        areas[pieces[face]] += length(area) * (turns[face] != 0 ? -1 : 1);
    }
    FaceBuilder built(mesh);
    std::size_t turned = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const std::uint32_t piece = pieces[face];
        const bool over = open[piece] != 0 ? areas[piece] < 0 : volumes[piece] < 0;
        std::vector<std::uint32_t> corners(mesh.face(face).begin(), mesh.face(face).end());
        if ((turns[face] != 0) != over) {
            std::ranges::reverse(corners);
            ++turned;
        }
        built.add(corners, face);
    }
    return {*std::move(built).over_its_vertices(), turned, one_sided / 2};
}

}  // namespace plume
