#include "core/exchange/mesh_export.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/surface_sampling.hpp"

namespace plume {
namespace {

// About this many quads for a surface: a chord error well under a millimetre on a roof of 36 m.
constexpr std::size_t usual_quads = 20'000;

Result<Mesh> faces_of(const Value& value, const Run& run) {
    if (const auto* mesh = std::get_if<Mesh>(&value)) return *mesh;
    if (const auto* set = std::get_if<SurfaceSet>(&value)) {
        if (set->patches.empty()) return Mesh::make({});
        return mesh_of(*set, usual_quads, run);
    }
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

Result<Mesh> exportable_mesh(const Value& value, double scale, double largest, const Run& run) {
    Result<Mesh> mesh = faces_of(value, run);
    if (!mesh) return mesh;
    if (mesh->face_count() == 0)
        return Error{ErrorCode::nothing_to_write, "", "is empty",
                     "Choose a result that has something in it."};
    for (std::size_t index = 0; index < mesh->vertex_count(); ++index)
        if (Status fine = check_coordinates(mesh->vertex(index) * scale, largest, "vertex", index); !fine)
            return fine.error();
    return mesh;
}

}  // namespace plume
