// Edges of a mesh drawn to one length, on a form.

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/forces/even_edges.hpp"
#include "core/geometry/surfaces/form_search.hpp"
#include "core/steps/forces/held_places.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const bool on_form = in.has("on_form");
    const auto form = FormSearch::make(on_form ? in.value("on_form") : in.value("mesh"), run);
    if (!form) return about_slot(form.error(), on_form ? "on_form" : "mesh");
    const auto firmness = firmness_in(Value(*mesh));
    if (!firmness) return about_slot(firmness.error(), "mesh");
    EvenEdgesWishes wishes;
    if (in.has("length")) wishes.length = in.number("length");
    wishes.spread = in.number("spread");
    wishes.rounds = in.count("rounds");
    for (const double firm : *firmness)
        wishes.held.push_back(firm > 0 ? 1 : 0);
    wishes.onto = [&](Vec3 at) { return form->nearest(at).place; };
    const auto made = even_edges(*mesh, wishes, run);
    if (!made) return about_slot(made.error(), "mesh");
    run.remark("Edges are " + quantity_text({made->length, a_length}, in.units(), 4) +
               " long and differ from it by at most " + short_text(100 * made->spread, 3) + " % after " +
               count_text(made->rounds, "round", "rounds") + ".");
    return with_places(Value(*mesh), made->at);
}

}  // namespace

StepKind even_mesh_edges() {
    SlotSpec spread = number_slot("spread", "Spread", "0.01");
    spread.least = 0;
    return {
        .key = "mesh.even_edges",
        .verb = "Make edges equally long on a form",
        .synonyms = "even equal equilateral edges uniform spread gridshell length",
        .sentence =
            "Make the edges of {mesh} equally long, {size}[size=given| {length}], on {on}[on=form| "
            "{on_form}][more|, alike within {spread} or in {rounds} rounds].",
        .slots = {changed_mesh_slot(),
                  choice_slot("size", "Size",
                              {{"mean", "as their mean is", "whatever that becomes"}, {"given", "each", ""}}),
                  length_above_zero_slot("length", "Length", "50 cm"),
                  choice_slot("on", "On",
                              {{"itself", "itself", "its vertices stay on the faces it had"},
                               {"form", "a form", "a mesh, a surface or a body"}}),
                  reference_slot("on_form", "Form", {Kind::mesh, Kind::surface, Kind::bodies}), spread,
                  count_slot("rounds", "Rounds", "200", 1)},
        .results = {Kind::mesh},
        .result_name = "evened",
        .help =
            "Vertices slide along a form until all edges are as long as each other, or as you say, as far as "
            "the "
            "form and the faces allow; by how much they differ is said. What is held stays (*Hold points*): "
            "hold "
            "the border, or let it go.",
        .estimate =
            [](const Inputs& in) {
                const Estimate one = changed_estimate(in, 450, 2.2e-7);
                return Estimate{one.bytes, one.seconds * (4 + in.number("rounds"))};
            },
        .make = make,
    };
}

}  // namespace plume
