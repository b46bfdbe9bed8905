#include "core/geometry/meshes/refined_mesh.hpp"

#include <algorithm>
#include <array>

#include "core/base/parallel.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

constexpr std::uint32_t whole = 0xFFFFFFFF;

// Faces that a side of has to be halved, as triangles.
Mesh triangulated_where(const Mesh& mesh, const MeshSides& sides, const std::vector<std::uint8_t>& halved) {
    FaceBuilder faces(mesh);
    for_each_face(mesh, sides, [&](std::size_t face, auto corners, auto behind) {
        if (corners.size() == 3 ||
            std::ranges::none_of(behind, [&](std::uint32_t side) { return halved[side] != 0; })) {
            faces.add(corners, face);
            return;
        }
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            faces.add(std::array{corners[a], corners[b], corners[c]}, face);
        });
    });
    return *std::move(faces).over_its_vertices();
}

// The triangles of one whose sides may be halved: `middles` behind its corners.
void add_pieces(const std::array<std::uint32_t, 3>& corners, const std::array<std::uint32_t, 3>& middles,
                const std::function<void(std::uint32_t, std::uint32_t, std::uint32_t)>& add) {
    const auto count = std::ranges::count_if(middles, [](std::uint32_t middle) { return middle != whole; });
    if (count == 3) {
        for (std::size_t at = 0; at < 3; ++at)
            add(corners[at], middles[at], middles[(at + 2) % 3]);
        add(middles[0], middles[1], middles[2]);
        return;
    }
    // Turned so that the first side is halved, and with two the last one is whole.
    std::size_t first = 0;
    while (middles[first] == whole || (count == 2 && middles[(first + 2) % 3] != whole))
        ++first;
    const std::uint32_t a = corners[first], b = corners[(first + 1) % 3], c = corners[(first + 2) % 3];
    const std::uint32_t ab = middles[first], bc = middles[(first + 1) % 3];
    if (count == 1) {
        add(a, ab, c);
        add(ab, b, c);
        return;
    }
    add(ab, b, bc);
    add(a, ab, bc);
    add(a, bc, c);
}

struct Halved {
    std::vector<std::uint8_t> sides;
    bool any = false;
};

Result<Halved> asked(const Mesh& mesh, const MeshSides& sides, const HalvesSide& halves, const Run& run) {
    Halved halved;
    halved.sides.resize(sides.ends.size());
    const bool done = parallel_blocks(sides.ends.size(), 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t side = begin; side < end; ++side)
            halved.sides[side] =
                halves(mesh.vertex(sides.ends[side][0]), mesh.vertex(sides.ends[side][1])) ? 1 : 0;
    });
    if (!done) return cancelled_error();
    halved.any = std::ranges::find(halved.sides, 1) != halved.sides.end();
    return halved;
}

Column with_middles(const Column& column, const MeshSides& sides, const std::vector<std::uint32_t>& middles,
                    std::size_t count) {
    Doubles values(count);
    std::ranges::copy(column.span(), values.begin());
    for (std::size_t side = 0; side < middles.size(); ++side)
        if (middles[side] != whole)
            values[middles[side]] = (column[sides.ends[side][0]] + column[sides.ends[side][1]]) / 2;
    return values;
}

Mesh halved_once(const Mesh& mesh, const MeshSides& sides, const std::vector<std::uint8_t>& halved) {
    std::vector<std::uint32_t> middles(sides.ends.size(), whole);
    std::size_t count = mesh.vertex_count();
    for (std::size_t side = 0; side < middles.size(); ++side)
        if (halved[side] != 0) middles[side] = static_cast<std::uint32_t>(count++);
    FaceBuilder faces(mesh);
    for_each_face(mesh, sides, [&](std::size_t face, auto corners, auto behind) {
        if (std::ranges::none_of(behind, [&](std::uint32_t side) { return middles[side] != whole; })) {
            faces.add(corners, face);
            return;
        }
        add_pieces({corners[0], corners[1], corners[2]},
                   {middles[behind[0]], middles[behind[1]], middles[behind[2]]},
                   [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                       faces.add(std::array{a, b, c}, face);
                   });
    });
    std::vector<Field> fields;
    for (const Field& field : mesh.fields())
        fields.push_back({field.name, with_middles(field.values, sides, middles, count), field.dimension});
    return *std::move(faces).over(with_middles(mesh.x(), sides, middles, count),
                                  with_middles(mesh.y(), sides, middles, count),
                                  with_middles(mesh.z(), sides, middles, count), std::move(fields));
}

}  // namespace

Result<Mesh> halved_until(const Mesh& mesh, const HalvesSide& halves, int most_rounds, std::size_t most_faces,
                          const Run& run) {
    Mesh finer = mesh;
    for (int round = 0; round < most_rounds; ++round) {
        MeshSides sides = sides_of(finer);
        auto halved = asked(finer, sides, halves, run);
        if (!halved) return halved.error();
        if (!halved->any) break;
        // Cut into triangles there are more sides, which are asked as well.
        const Mesh triangles = triangulated_where(finer, sides, halved->sides);
        if (triangles.face_count() != finer.face_count()) {
            sides = sides_of(triangles);
            halved = asked(triangles, sides, halves, run);
            if (!halved) return halved.error();
        }
        const auto count = static_cast<std::size_t>(std::ranges::count(halved->sides, 1));
        if (triangles.face_count() + 2 * count > most_faces) break;
        finer = halved_once(triangles, sides, halved->sides);
    }
    return finer;
}

}  // namespace plume
