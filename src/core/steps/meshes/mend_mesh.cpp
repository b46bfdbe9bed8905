#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/filled_holes.hpp"
#include "core/geometry/meshes/mesh_pieces.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> welded_mesh(const Mesh& mesh, const Inputs& in, const Run& run) {
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        if (!is_finite(mesh.vertex(vertex)))
            return about_slot(Error{ErrorCode::not_finite, "",
                                    "has a vertex that is not finite, number " + std::to_string(vertex),
                                    "Look at the step that moves it."},
                              "mesh");
    Mesh made = without_loose_vertices(welded(mesh, in.number("tolerance")));
    run.remark(count_text(mesh.vertex_count() - made.vertex_count(), "vertex is", "vertices are") +
               " one with another, " + count_text(mesh.face_count() - made.face_count(), "face", "faces") +
               " of no size left out.");
    if (made.face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "leaves no face", "Weld within less."},
                          "tolerance");
    return Value(std::move(made));
}

Result<Value> holes_filled(const Mesh& mesh, const Inputs& in, const Run& run) {
    const double longest =
        in.word("holes") == "all" ? std::numeric_limits<double>::infinity() : in.number("around");
    auto made = filled_holes(mesh, longest, run);
    if (!made) return made.error();
    run.remark(made->filled + made->left == 0
                   ? std::string("It has no hole.")
                   : count_text(made->filled, "hole is", "holes are") + " filled, " +
                         grouped_text(static_cast<std::int64_t>(made->left)) + " left open.");
    return Value(std::move(made->mesh));
}

Result<Value> turned_outwards(const Mesh& mesh, const Run& run) {
    TurnedMesh made = turned_alike(mesh);
    run.remark(count_text(made.turned, "face is", "faces are") + " turned round.");
    if (made.one_sided > 0)
        run.remark_loss("It has one side only, as a Moebius strip: along " +
                        count_text(made.one_sided, "edge", "edges") +
                        " faces still turn against each other.");
    return Value(std::move(made.mesh));
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    if (in.word("how") == "weld") return welded_mesh(*mesh, in, run);
    return in.word("how") == "holes" ? holes_filled(*mesh, in, run) : turned_outwards(*mesh, run);
}

}  // namespace

StepKind mend_mesh() {
    return {
        .key = "mesh.mend",
        .verb = "Mend a mesh",
        .synonyms = "repair weld vertices fill holes close unify normals orient outward flip faces",
        .sentence =
            "Mend {mesh}: {how}[how=weld| {tolerance}][how=holes| {holes}][how=holes&holes=short| {around}].",
        .slots = {changed_mesh_slot(),
                  choice_slot("how", "How",
                              {{"weld", "weld vertices within", "so that faces hang together"},
                               {"holes", "fill its holes,", "with the least area between their corners"},
                               {"turn", "turn its faces outwards", "alike where it encloses no volume"}}),
                  length_above_zero_slot("tolerance", "Tolerance", "1 mm"),
                  choice_slot("holes", "Holes",
                              {{"all", "all of them", "open rims as well"},
                               {"short", "those no longer around than", ""}}),
                  length_above_zero_slot("around", "Around", "2 m")},
        .results = {Kind::mesh},
        .result_name = "mended",
        .help =
            "What a mesh needs to be one skin, or to bound a body: vertices that lie together become one, "
            "rims "
            "are closed, faces turn one way. What was done is said. Check the mesh to see what is wrong.",
        .estimate = [](const Inputs& in) { return changed_estimate(in, 70, 1.5e-6); },
        .make = make,
    };
}

}  // namespace plume
