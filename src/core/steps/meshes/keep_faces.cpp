#include <limits>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/geometry/measures/point_tree.hpp"
#include "core/geometry/meshes/face_builder.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/parts/mesh_parts.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const PointLattice& points = in.lattice("points");
    std::vector<Vec3> places;
    for (std::size_t index = 0; index < points.address_count(); ++index)
        if (points.present(index) && is_finite(points.point(index))) places.push_back(points.point(index));
    const PointTree tree(places);
    // Points that were computed from the faces lie at their middles but for rounding.
    const double within = 1e-9 * mesh->bounds().diagonal(), square = within * within;
    const bool at = in.word("side") == "at";
    FaceBuilder kept(*mesh);
    for (std::size_t face = 0; face < mesh->face_count(); ++face)
        if ((tree.nearest_square(face_middle(*mesh, face)) <= square) == at) kept.add(mesh->face(face), face);
    if (kept.face_count() == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "leave no face",
                                "Choose points in the middles of its faces: take these as points, and keep "
                                "some of them."},
                          "points");
    run.remark(count_text(kept.face_count(), "face of ", "faces of ") +
               grouped_text(static_cast<std::int64_t>(mesh->face_count())) + " kept.");
    auto made = std::move(kept).over_its_vertices();
    if (!made) return made.error();
    return Value(without_loose_vertices(*made));
}

}  // namespace

StepKind keep_faces() {
    return {
        .key = "mesh.keep_faces",
        .verb = "Keep faces of a mesh",
        .synonyms = "select filter remove faces by number formula pick where delete",
        .sentence = "Keep the faces of {mesh} {side} {points}.",
        .slots = {changed_mesh_slot(),
                  choice_slot("side", "Side",
                              {{"at", "whose middles are among", ""},
                               {"without", "whose middles are not among", ""}}),
                  reference_slot("points", "Points", {Kind::points, Kind::field})},
        .results = {Kind::mesh},
        .result_name = "kept",
        .help =
            "Take the middles of a mesh's faces as points, keep some of them by a formula, a number, an "
            "outline "
            "or by hand, and keep their faces. Numbers of faces are numbers of those points.",
        .estimate =
            [](const Inputs& in) {
                const Estimate mesh = changed_estimate(in, 24, 3e-7);
                const auto points = static_cast<double>(in.lattice("points").address_count());
                return Estimate{mesh.bytes + points * 30, mesh.seconds + points * 4e-7};
            },
        .make = make,
    };
}

}  // namespace plume
