#include "core/base/sum.hpp"
#include "core/steps/frames/family_support.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// About what panels may differ by: a quarter of a usual side.
double most_apart(const Mesh& mesh) {
    Sum sides;
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        sides.add(length(mesh.vertex(mesh.face(face)[1]) - mesh.vertex(mesh.face(face)[0])));
    return sides.value() / static_cast<double>(mesh.face_count()) / 4;
}

Result<FamilyCounts> counts(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    return counts_of(face_shapes(*mesh, in.word("mirrored") == "together"), most_apart(*mesh),
                     {in.number("tolerance"), a_length}, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const double tolerance = in.number("tolerance");
    const auto families = families_of(face_shapes(*mesh, in.word("mirrored") == "together"), tolerance, run);
    if (!families) return families.error();
    say_families(*families, tolerance, run);
    Mesh::Parts parts = mesh->parts();
    std::erase_if(parts.face_fields, [&](const Field& field) { return field.name == in.result_name(); });
    parts.face_fields.push_back({in.result_name(), family_numbers(*families), plain_number});
    return as_value(Mesh::make(std::move(parts)));
}

}  // namespace

StepKind group_panels() {
    SlotSpec tolerance = length_slot("tolerance", "Tolerance", "5 mm");
    tolerance.least = 0;
    return {
        .key = "mesh.families",
        .verb = "Group panels into families",
        .synonyms = "alike faces shapes congruent mirrored types glass rationalise rationalize",
        .sentence = "Group the faces of {mesh} by their shapes within {tolerance}, mirrored ones {mirrored}.",
        .slots = {changed_mesh_slot(), tolerance,
                  choice_slot("mirrored", "Mirrored ones",
                              {{"apart", "apart", "a left and a right one are two"},
                               {"together", "together", "a left one is a right one turned over"}})},
        .results = {Kind::mesh},
        .result_name = "panel_family",
        .help =
            "A number on each face: faces of one family can be laid over each other, all distances between "
            "their corners within the tolerance, and bend alike out of their plane.",
        .bears_name = true,
        .estimate = [](const Inputs& in) { return changed_estimate(in, 90, 1.5e-6); },
        .make = make,
        .contexts = {{"tolerance", context(counts)}},
    };
}

}  // namespace plume
