#include "core/geometry/solids/hollowed.hpp"

#include <cmath>

#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

constexpr double true_share = 1e-4;

Error no_room() {
    return {ErrorCode::out_of_range, "", "has no room for walls that thick: its hollow would cross itself",
            "Type a smaller thickness."};
}

// Whether the inner face points the way the outer one does, on a grid of places: where it does not, it has
// folded over.
bool keeps_its_side(const SplinePatch& outer, const SplinePatch& inner_reversed) {
    constexpr int lines = 24;
    const PatchEvaluator out(outer), in(inner_reversed);
    for (int b = 0; b < lines; ++b)
        for (int a = 0; a < lines; ++a) {
            const double u = std::lerp(outer.u().start(), outer.u().end(), (a + 0.5) / lines),
                         v = std::lerp(outer.v().start(), outer.v().end(), (b + 0.5) / lines);
            const SurfacePoint one = out.at(u, v), other = in.at(outer.u().start() + outer.u().end() - u, v);
            if (dot(cross(one.along_u, one.along_v), cross(other.along_u, other.along_v)) > 0) return false;
        }
    return true;
}

// Face by face the same of meshes: the first half of the faces is that outside.
bool keeps_its_side(const Mesh& hollow) {
    const std::size_t half = hollow.face_count() / 2;
    for (std::size_t face = 0; face < half; ++face)
        if (dot(area_vector(hollow, face), area_vector(hollow, half + face)) > 0) return false;
    return true;
}

// A hollow that is larger than the body, or that crosses itself or the walls, is none.
Status look_for_room(const Body& hollow, const Body& body, const Mesh& mesh, const Run& run) {
    if (!(hollow.figures().volume < body.figures().volume)) return no_room();
    const auto crosses = runs_through_itself(mesh, run);
    if (!crosses) return crosses.error();
    return *crosses ? Status(no_room()) : Status(Done{});
}

}  // namespace

Result<Body> hollowed(const Body& body, double wall, std::size_t target, const Run& run) {
    if (body.exact() && body.patches().size() == 1) {
        auto made = thickened(body.patches().front(), {{}, offset_by(wall)}, true_share * wall, run);
        if (!made) return made.error();
        const std::vector<SplinePatch>& faces = made->body.patches();
        if (!keeps_its_side(faces[0], faces[1])) return no_room();
        const auto mesh = closed_mesh(made->body, target, run);
        if (!mesh) return mesh.error();
        if (Status room = look_for_room(made->body, body, *mesh, run); !room) return room.error();
        return std::move(made->body);
    }
    const auto mesh = closed_mesh(body, target, run);
    if (!mesh) return mesh.error();
    const std::size_t count = mesh->vertex_count();
    Result<Body> made = thickened(*mesh, Doubles(count, 0.0), Doubles(count, wall), run);
    if (!made) return made.error();
    if (!keeps_its_side(made->mesh())) return no_room();
    if (Status room = look_for_room(*made, body, made->mesh(), run); !room) return room.error();
    return made;
}

}  // namespace plume
