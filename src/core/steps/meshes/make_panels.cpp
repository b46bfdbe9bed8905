#include <algorithm>

#include "core/base/text.hpp"
#include "core/geometry/meshes/panel_names.hpp"
#include "core/geometry/meshes/panels.hpp"
#include "core/steps/meshes/face_formula.hpp"
#include "core/steps/meshes/mesh_support.hpp"

namespace plume {
namespace {

constexpr const char *gap = "gap", *thickness = "thickness", *opening = "opening", *turn = "turn";

FormulaSite site_over(const Mesh& mesh) {
    FormulaSite site = site_on_faces(mesh);
    site.results = {{gap, "a length, from each edge", false, true},
                    {thickness, "a length", false, true},
                    {opening, "share of the panel's area that is cut out", false},
                    {turn, "an angle about its hinge", false, true}};
    return site;
}

Result<FormulaSite> site_of(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    return site_over(*mesh);
}

struct Sizes {
    std::optional<Doubles> gap, thickness, opening, turn;
};

Result<Sizes> sizes_of(const Inputs& in, const Mesh& mesh, const Run& run) {
    Sizes sizes;
    if (in.word("sizes") != "formula") return sizes;
    const FormulaSite site = site_over(mesh);
    Result<CheckedFormula> formula = checked_formula(in, site);
    if (!formula) return formula.error();
    for (const auto& [name, dimension, to] : {std::tuple(gap, a_length, &sizes.gap),
                                              {thickness, a_length, &sizes.thickness},
                                              {opening, plain_number, &sizes.opening},
                                              {turn, an_angle, &sizes.turn}}) {
        auto made = computed(*formula, name, dimension, site, in, run);
        if (!made) return made.error();
        *to = *std::move(made);
    }
    return sizes;
}

PanelHinge hinge_from(const std::string& word) {
    if (word == "middle") return PanelHinge::middle;
    if (word == "lower") return PanelHinge::lower;
    return word == "upper" ? PanelHinge::upper : PanelHinge::none;
}

double outside_from(const std::string& word) {
    if (word == "outside") return 1;
    return word == "inside" ? 0 : 0.5;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto mesh = changed_mesh(in, run);
    if (!mesh) return mesh.error();
    const auto sizes = sizes_of(in, *mesh, run);
    if (!sizes) return sizes.error();
    const auto number = [](const std::optional<Doubles>& all, double without) {
        return [&all, without](std::size_t face) { return all ? (*all)[face] : without; };
    };
    auto made =
        panels_of(*mesh,
                  {number(sizes->gap, in.number("gap")), number(sizes->thickness, in.number("thickness")),
                   number(sizes->opening, 0), outside_from(in.word("side")), hinge_from(in.word("hinge")),
                   number(sizes->turn, in.has("turn") ? in.number("turn") : 0)},
                  run);
    if (!made) return about_slot(made.error(), in.word("sizes") == "formula" ? "formula" : "gap");
    if (made->used_up > 0)
        run.remark_loss(count_text(made->used_up, "face is", "faces are") +
                        " narrower than the gaps leave, and left out, the first number " +
                        std::to_string(made->first_used_up) + ".");
    run.remark(count_text(made->mesh.part_count(), "panel", "panels") + ", together " +
               quantity_text({made->area, {2, 0}}, in.units()) + ".");
    if (std::holds_alternative<SurfaceSet>(in.value("mesh")))
        run.remark(
            "They are the quads a smooth surface is drawn by: skin points with flat facets for panels of "
            "their cells.");
    return Value(std::move(made->mesh));
}

// Panels carry the number of the face they lie on.
PartStory story(const Inputs& in, const Value& made, PartRef part) {
    const auto& panels = std::get<Mesh>(made);
    const auto number = std::ranges::find(panels.face_fields(), panel_names::panel, &Field::name);
    const bool whole = part.sort == PartSort::item;
    if (number == panels.face_fields().end() || part.sort == PartSort::vertex ||
        !std::holds_alternative<Mesh>(in.value("mesh")))
        return {};
    const std::size_t face = whole ? panels.part(part.number).begin : part.number;
    return {{}, {{{"mesh", {PartSort::face, static_cast<std::size_t>(number->values[face])}}}}};
}

}  // namespace

StepKind make_panels() {
    SlotSpec gap_slot = length_slot(gap, "Gap", "10 mm"),
             thickness_slot = length_slot(thickness, "Thickness", "20 mm");
    thickness_slot.least = 0;
    return {
        .key = "mesh.panels",
        .verb = "Make panels",
        .synonyms =
            "glass cladding plates tiles shingles fins louvres scales cassettes gap joint thickness openings "
            "perforated",
        .sentence =
            "Make panels of the faces of {mesh}, {gap} back from their edges and {thickness} thick[more| "
            "{side}], {hinge}[hinge=middle,lower,upper| by {turn}][more|, {sizes}][sizes=formula| "
            "{formula}].",
        .slots = {changed_mesh_slot(), gap_slot, thickness_slot,
                  choice_slot("side", "Side",
                              {{"outside", "outwards", "their inner sides lie on the faces"},
                               {"inside", "inwards", "their outer sides lie on the faces"},
                               {"middle", "half to either side", ""}}),
                  choice_slot("hinge", "Hinge",
                              {{"none", "lying in the faces", ""},
                               {"middle", "turned about their level middles", "as louvres are"},
                               {"lower", "turned about their lower edges", "what is above goes outwards"},
                               {"upper", "turned about their upper edges",
                                "as shingles are: what is below goes outwards"}}),
                  angle_slot("turn", "Turn", "15°"),
                  choice_slot("sizes", "Sizes",
                              {{"alike", "all alike", ""},
                               {"formula", "by", "lines gap, thickness, opening and turn for each face"}}),
                  formula_slot("formula", formula_label, "opening = 0.1 + 0.5 * (corners == 4)")},
        .results = {Kind::mesh},
        .result_name = "panels",
        .help =
            "Plates on the faces of a mesh, as far from their edges as the gap: closed parts that can be "
            "picked, "
            "and carry the numbers of their faces. Without thickness they are faces. With a gap below 0 they "
            "overlap; turned they are louvres, fins or shingles. A formula gives gap, thickness, opening "
            "(the "
            "share of its area that is cut out of the middle) and turn, panel by panel; it reads x, y and z "
            "of the middle, area, corners, face, slope, and the mesh's numbers.",
        .drawn_plain = true,
        .estimate = [](const Inputs& in) { return changed_estimate(in, 420, 8e-7); },
        .make = make,
        .contexts = {{"formula", context(site_of)}},
        .story = story,
    };
}

}  // namespace plume
