#include <algorithm>
#include <cmath>

#include "core/base/numbers.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/remeshed.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

// How long sides are to be at each vertex.
Result<Column> lengths_of(const Mesh& mesh, const Inputs& in) {
    if (in.word("lengths") == "even") return Column(Doubles(mesh.vertex_count(), in.number("length")));
    const std::string& name = in.word("number");
    const auto found = std::ranges::find(mesh.fields(), name, &Field::name);
    if (found == mesh.fields().end())
        return about_slot(Error{ErrorCode::out_of_range, "", "is no number of the mesh's vertices",
                                "Measure one on it, or skin points that carry one."},
                          "number");
    if (found->dimension != a_length)
        return about_slot(
            Error{ErrorCode::unit_mismatch, "", "is no length", "Bring it to a range of lengths first."},
            "number");
    const auto bad = std::ranges::find_if(
        found->values.span(), [](double length) { return !(length > 0) || !std::isfinite(length); });
    if (bad != found->values.span().end())
        return about_slot(
            Error{ErrorCode::out_of_range, "",
                  "is not above 0 at vertex " + std::to_string(bad - found->values.span().begin()),
                  "Bring it to a range of lengths above 0."},
            "number");
    return found->values;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    if (!is_finite(mesh->bounds().low) || mesh->vertex_count() == 0)
        return about_slot(Error{ErrorCode::not_finite, "", "has no finite place", "Look at what makes it."},
                          "mesh");
    const auto lengths = lengths_of(*mesh, in);
    if (!lengths) return lengths.error();
    const RemeshRule rule{[&](std::size_t vertex) { return (*lengths)[vertex]; }, in.number("angle"), 6};
    auto made = remeshed(*mesh, rule, run);
    if (!made) return about_slot(made.error(), "mesh");
    if (!mesh->face_fields().empty()) run.remark_loss("Numbers of faces are lost: measure them again.");
    double shortest = Box::infinite, longest = 0;
    for (std::size_t face = 0; face < made->face_count(); ++face) {
        const auto corners = made->face(face);
        for (std::size_t at = 0; at < corners.size(); ++at) {
            const double side =
                length(made->vertex(corners[(at + 1) % corners.size()]) - made->vertex(corners[at]));
            shortest = std::min(shortest, side);
            longest = std::max(longest, side);
        }
    }
    const auto text = [&](double side) { return quantity_text({side, a_length}, in.units(), 3); };
    run.remark("Its edges are " + text(shortest) + " to " + text(longest) + " long.");
    return as_value(std::move(made));
}

// Triangles of that edge length on so much area.
Estimate estimate(const Inputs& in) {
    double shortest = 0;
    if (in.word("lengths") == "even") {
        shortest = in.number("length");
    } else if (const auto* mesh = std::get_if<Mesh>(&in.value("mesh"))) {
        const auto found = std::ranges::find(mesh->fields(), in.word("number"), &Field::name);
        if (found != mesh->fields().end() && found->values.size() > 0)
            shortest = std::ranges::min(found->values.span());
    }
    const double size = bounds_of(in.value("mesh")).diagonal();
    double surface = size * size;
    if (const auto* mesh = std::get_if<Mesh>(&in.value("mesh"))) surface = area(*mesh);
    const double triangles = shortest > 0 ? surface / (0.433 * shortest * shortest) : 0;
    const double corners = changed_corners(in);
    return {triangles * 220 + corners * 260, triangles * 4e-5 + corners * 1e-6};
}

}  // namespace

StepKind remesh() {
    return {
        .key = "mesh.remesh",
        .verb = "Remesh evenly",
        .synonyms = "retriangulate isotropic even triangles edge length uniform density adaptive",
        .sentence =
            "Remesh {mesh} with edges {lengths}[lengths=even| {length}][lengths=named| {number}][more|, "
            "keeping creases of more than {angle}].",
        .slots = {changed_mesh_slot(),
                  choice_slot("lengths", "Lengths",
                              {{"even", "of about", "the same everywhere"},
                               {"named", "as long as the number called", "of its vertices"}}),
                  length_above_zero_slot("length", "Length", "500 mm"),
                  name_slot("number", "Number", "reach"), angle_slot("angle", "Angle", "40°")},
        .results = {Kind::mesh},
        .result_name = "remeshed",
        .help =
            "The same surface of nearly even triangles, as long in their edges as is asked for, everywhere "
            "alike or by a number that the vertices carry. Rims and creases keep their places; vertices lie "
            "on "
            "the surface there was. Numbers of vertices are read off it.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
