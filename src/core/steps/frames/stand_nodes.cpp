#include "core/geometry/frames/node_bodies.hpp"
#include "core/geometry/frames/node_normals.hpp"
#include "core/steps/frames/frame_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    const auto& frame = in.held<BarFrame>("frame");
    FormulaSite site = site_on_lattice(frame.nodes());
    const std::vector<std::uint32_t> valences = valences_of(frame);
    add_numbers(site, "valence", Doubles(valences.begin(), valences.end()), plain_number,
                "how many members end there");
    site.results.push_back({"", "the last line is the diameter", true, true});
    return site;
}

Result<std::optional<Doubles>> diameters(const Inputs& in, const Run& run) {
    if (in.word("sizes") != "formula") return std::optional<Doubles>();
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    return computed(*formula, "", a_length, *site, in, run);
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto& frame = in.held<BarFrame>("frame");
    const auto sizes = diameters(in, run);
    if (!sizes) return sizes.error();
    NodePlan plan{in.word("shape") == "discs",
                  [&](std::size_t node) { return *sizes ? (**sizes)[node] : in.number("diameter"); },
                  in.has("thickness") ? in.number("thickness") : 0,
                  {}};
    std::vector<Vec3> normals;
    if (plan.discs) {
        auto made = node_normals(frame, run);
        if (!made) return made.error();
        normals = *std::move(made);
    }
    plan.up = [&](std::size_t node) { return normals[node]; };
    auto made = node_bodies(frame, plan, run);
    if (!made) return about_slot(made.error(), *sizes ? "formula" : "frame");
    return Value(*std::move(made));
}

Estimate estimate(const Inputs& in) {
    const auto nodes = static_cast<double>(in.held<BarFrame>("frame").node_count());
    const auto addresses = static_cast<double>(in.held<BarFrame>("frame").nodes().address_count());
    const bool discs = in.word("shape") == "discs";
    return {nodes * (discs ? 3000 : 6500) + addresses * 40, nodes * 6e-6};
}

}  // namespace

StepKind stand_nodes() {
    return {
        .key = "mesh.nodes",
        .verb = "Put balls or discs on nodes",
        .synonyms = "joints spheres plates connectors hubs frame nodes knots",
        .sentence =
            "Put {shape}[shape=discs| {thickness} thick] on the nodes of {frame}, {sizes}[sizes=alike| "
            "{diameter}][sizes=formula| {formula}] across.",
        .slots = {choice_slot("shape", "Shape",
                              {{"balls", "balls", "faceted"},
                               {"discs", "discs", "square to the surface the frame follows"}}),
                  length_above_zero_slot("thickness", "Thickness", "20 mm"), frame_slot(),
                  choice_slot("sizes", "Sizes",
                              {{"alike", "all", "of one size"}, {"formula", "each", "by a formula"}}),
                  length_above_zero_slot("diameter", "Diameter", "0.2 m"),
                  formula_slot("formula", formula_label, "100 mm + 20 mm * valence")},
        .results = {Kind::mesh},
        .result_name = "joints",
        .help =
            "A closed part of a mesh on every node. A formula reads what formulas on points do, and valence, "
            "the number of members that end at the node.",
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
