// Binary STL (3D Systems, StereoLithography Interface Specification, 1989).

#include <array>
#include <bit>
#include <limits>

#include "core/base/text.hpp"
#include "core/exchange/byte_rows.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/print_check.hpp"
#include "core/exchange/scene.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

static_assert(std::endian::native == std::endian::little,
              "STL is little-endian; other machines need a swap here");

constexpr std::size_t triangle_bytes = 50;

void put_vec(char*& to, Vec3 v) {
    put(to, static_cast<float>(v.x));
    put(to, static_cast<float>(v.y));
    put(to, static_cast<float>(v.z));
}

bool write_triangles(const Mesh& mesh, double scale, const ByteSink& sink, const Run& run) {
    const auto before = [&](std::size_t face) {
        return triangle_bytes * (mesh.parts().first[face] - 2 * face);
    };
    return write_rows(
        mesh.face_count(), before,
        [&](std::size_t face, char* to) {
            const auto corners = mesh.face(face);
            for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                const std::array<Vec3, 3> at{mesh.vertex(corners[a]) * scale, mesh.vertex(corners[b]) * scale,
                                             mesh.vertex(corners[c]) * scale};
                put_vec(to, unit_or_zero(cross(at[1] - at[0], at[2] - at[0])));
                for (const Vec3 corner : at)
                    put_vec(to, corner);
                put(to, std::uint16_t{0});  // attribute byte count
            });
        },
        sink, run);
}

}  // namespace

Result<ExportReport> write_stl(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const auto scene = scene_of(job, largest_float, run);
    if (!scene) return scene.error();
    if (Status fit = check_for_print(*scene, job, run); !fit) return fit.error();
    std::size_t triangles = 0;
    for (const SceneObject& object : *scene)
        triangles += object.form.facets->corner_count() - 2 * object.form.facets->face_count();
    if (triangles > std::numeric_limits<std::uint32_t>::max())
        return Error{ErrorCode::out_of_range, "", "has more triangles than STL can count",
                     "Export it in parts."};
    std::string header = "Plume Lattice, unit " + std::string(symbol(job.unit));
    header.resize(80, ' ');
    std::array<char, 4> count{};
    char* to = count.data();
    put(to, static_cast<std::uint32_t>(triangles));
    sink(header);
    sink({count.data(), count.size()});
    for (const SceneObject& object : *scene)
        if (!write_triangles(*object.form.facets, job.scale(), sink, run)) return cancelled_error();
    return ExportReport{count_text(triangles, "triangle", "triangles")};
}

}  // namespace plume
