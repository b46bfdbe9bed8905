#include "core/steps/meshes/mesh_support.hpp"

#include "core/base/overloaded.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"

namespace plume {
namespace {

// Quads of a surface or body that is no mesh.
constexpr std::size_t usual_quads = 2400;

}  // namespace

SlotSpec changed_mesh_slot() {
    return reference_slot("mesh", "Mesh", {Kind::mesh, Kind::bodies, Kind::surface});
}

Result<Mesh> changed_mesh(const Inputs& in, const Run& run, const char* slot) {
    const Value& value = in.value(slot);
    Result<Mesh> mesh = Mesh::make({});
    if (const auto* own = std::get_if<Mesh>(&value)) mesh = *own;
    if (const auto* set = std::get_if<SolidSet>(&value))
        mesh = mesh_of(*set, usual_quads * std::max<std::size_t>(set->bodies.size(), 1), run);
    if (const auto* set = std::get_if<SurfaceSet>(&value); set && !set->patches.empty())
        mesh = mesh_of(*set, usual_quads * set->patches.size(), run);
    if (mesh && mesh->face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "has no face", "Choose another."}, slot);
    return mesh;
}

double changed_corners(const Inputs& in) {
    const Value& value = in.value("mesh");
    if (const auto* mesh = std::get_if<Mesh>(&value)) return static_cast<double>(mesh->corner_count());
    const auto quads = static_cast<double>(usual_quads) * 4;
    if (const auto* set = std::get_if<SurfaceSet>(&value)) {
        double corners = 0;
        for (const SplinePatch& patch : set->patches)
            corners += quads + 4 * static_cast<double>(patch.x().size());
        return corners;
    }
    double corners = 0;
    for (const Body& body : std::get<SolidSet>(value).bodies) {
        corners += body.exact() ? quads : static_cast<double>(body.mesh().corner_count());
        for (const SplinePatch& patch : body.patches())
            corners += 4 * static_cast<double>(patch.x().size());
    }
    return corners;
}

Estimate changed_estimate(const Inputs& in, double bytes_a_corner, double seconds_a_corner) {
    const double corners = changed_corners(in);
    return {corners * bytes_a_corner, corners * seconds_a_corner};
}

}  // namespace plume
