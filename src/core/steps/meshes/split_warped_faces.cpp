#include "core/base/text.hpp"
#include "core/geometry/meshes/panels.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    auto made = split_warped(*mesh, in.number("limit"), run);
    if (!made) return made.error();
    const bool all = made->split == mesh->face_count();
    run.remark(count_text(made->split, "face was", "faces were") + " split" +
               (all ? "."
                    : "; the others are warped by up to " +
                          quantity_text({made->worst, a_length}, in.units(), 3) + "."));
    return Value(std::move(made->mesh));
}

}  // namespace

StepKind split_warped_faces() {
    SlotSpec limit = length_slot("limit", "Limit", "5 mm");
    limit.least = 0;
    return {
        .key = "mesh.split_warped",
        .verb = "Split warped faces",
        .synonyms = "panels planar quads triangles diagonal fold flat triangulate",
        .sentence = "Split the faces of {mesh} that are warped by more than {limit}.",
        .slots = {changed_mesh_slot(), limit},
        .results = {Kind::mesh},
        .result_name = "split",
        .help =
            "Triangles of the faces whose corners lie further from the plane that fits them best than the "
            "limit: "
            "quadrangles along the diagonal over which they fold less. Flatter ones stay whole.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 28, 3e-7); },
        .make = make,
    };
}

}  // namespace plume
