#include "core/base/text.hpp"
#include "core/geometry/meshes/dual_mesh.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const bool with_rims = in.word("rims") == "with";
    DualMesh made = dual_of(*mesh, with_rims);
    if (made.mesh.face_count() == 0)
        return about_slot(Error{ErrorCode::too_few_points, "", "has no vertex that faces go all around",
                                with_rims ? "Choose a larger mesh." : "Take its rims along."},
                          "mesh");
    if (with_rims && made.left_out > 0)
        run.remark_loss(count_text(made.left_out, "vertex has", "vertices have") +
                        " no single ring of faces around, and no face.");
    return Value(std::move(made.mesh));
}

}  // namespace

StepKind take_dual() {
    return {
        .key = "mesh.dual",
        .verb = "Take the dual of a mesh",
        .synonyms = "hexagons honeycomb voronoi cells vertices faces swap",
        .sentence = "Take the dual of {mesh}, {rims}.",
        .slots = {changed_mesh_slot(), choice_slot("rims", "Rims",
                                                   {{"with", "up to its rims", "cut off at them"},
                                                    {"without", "without its rims", "whole faces alone"}})},
        .results = {Kind::mesh},
        .result_name = "dual",
        .help =
            "A face for every vertex, between the middles of the faces around it: triangles become hexagons, "
            "for the most part. Numbers of vertices become numbers of faces.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 130, 3e-7); },
        .make = make,
    };
}

}  // namespace plume
