// Binary STL (3D Systems, StereoLithography Interface Specification, 1989).

#include <array>
#include <bit>
#include <cstring>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/exchange/formats.hpp"
#include "core/exchange/mesh_export.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

static_assert(std::endian::native == std::endian::little,
              "STL is little-endian; other machines need a swap here");

void append(std::string& bytes, Vec3 v) {
    const std::array<float, 3> numbers{static_cast<float>(v.x), static_cast<float>(v.y),
                                       static_cast<float>(v.z)};
    bytes.append(reinterpret_cast<const char*>(numbers.data()), sizeof numbers);
}

std::string triangle_bytes(Vec3 a, Vec3 b, Vec3 c) {
    std::string bytes;
    append(bytes, unit_or_zero(cross(b - a, c - a)));
    for (const Vec3 corner : {a, b, c})
        append(bytes, corner);
    return bytes.append(2, '\0');  // attribute byte count
}

}  // namespace

Result<std::string> write_stl(const ExportJob& job, const ByteSink& sink, const Run& run) {
    const Result<Mesh> mesh = exportable_mesh(job.value, job.scale(), std::numeric_limits<float>::max(), run);
    if (!mesh) return mesh.error();
    const std::size_t triangles = mesh->corner_count() - 2 * mesh->face_count();
    if (triangles > std::numeric_limits<std::uint32_t>::max())
        return Error{ErrorCode::out_of_range, "", "has more triangles than STL can count",
                     "Export it in parts."};
    std::string header = "Plume Lattice, unit " + std::string(symbol(job.unit));
    header.resize(80, ' ');
    const auto count = static_cast<std::uint32_t>(triangles);
    header.append(reinterpret_cast<const char*>(&count), sizeof count);
    sink(header);
    for (std::size_t face = 0; face < mesh->face_count(); ++face) {
        if (face % 4096 == 0 && run.cancelled()) return cancelled_error();
        const auto corners = mesh->face(face);
        const auto at = [&](std::size_t corner) { return mesh->vertex(corners[corner]) * job.scale(); };
        for_each_triangle(*mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            sink(triangle_bytes(at(a), at(b), at(c)));
        });
    }
    return grouped_text(static_cast<std::int64_t>(triangles)) + " triangles";
}

}  // namespace plume
