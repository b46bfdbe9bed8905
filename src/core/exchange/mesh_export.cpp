#include "core/exchange/mesh_export.hpp"

#include <algorithm>
#include <cmath>

#include "core/results/written.hpp"

namespace plume {
namespace {

Result<Mesh> facets_of(const Value& value, const Run& run) {
    Result<Written> written = written_of(value, run);
    if (!written) return written.error();
    if (written->facets) return *std::move(written->facets);
    return Error{ErrorCode::wrong_kind, "", "has no faces: it holds " + with_article(kind_of(value)),
                 "Skin the points first, or choose a format for points."};
}

}  // namespace

Status check_coordinates(Vec3 point, double largest, const std::string& what, std::size_t index) {
    if (!is_finite(point))
        return Error{ErrorCode::not_finite, "",
                     "has the " + what + ' ' + std::to_string(index + 1) + ", which is not finite",
                     "Look at the step that moves it."};
    if (std::max({std::abs(point.x), std::abs(point.y), std::abs(point.z)}) > largest)
        return Error{
            ErrorCode::out_of_range, "",
            "has the " + what + ' ' + std::to_string(index + 1) + " further out than the format can write",
            "Move the form nearer to zero, or choose a larger unit."};
    return Done{};
}

Status check_facets(const Mesh& mesh, double scale, double largest) {
    if (mesh.face_count() == 0)
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    for (std::size_t index = 0; index < mesh.vertex_count(); ++index)
        if (Status fine = check_coordinates(mesh.vertex(index) * scale, largest, "vertex", index); !fine)
            return fine;
    return Done{};
}

Result<Mesh> exportable_mesh(const Value& value, double scale, double largest, const Run& run) {
    Result<Mesh> mesh = facets_of(value, run);
    if (!mesh) return mesh;
    if (Status fine = check_facets(*mesh, scale, largest); !fine) return fine.error();
    return mesh;
}

}  // namespace plume
