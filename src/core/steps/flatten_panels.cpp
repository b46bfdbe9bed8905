#include "core/geometry/facets.hpp"
#include "core/geometry/flatten.hpp"
#include "core/study/step_kind.hpp"

namespace plume {
namespace {

Result<Mesh> panels_of(const Inputs& in, const Run& run) {
    if (const auto* mesh = std::get_if<Mesh>(&in.value("panels"))) return *mesh;
    return facets(in.lattice("panels"), FacetShape::quads, run);
}

Estimate estimate(const Inputs& in) {
    const auto bytes = static_cast<double>(bytes_of(in.value("panels")));
    const double rounds = in.word("way") == "together" ? in.number("rounds") : 1;
    return {bytes * 6, bytes * rounds * 1e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<Mesh> panels = panels_of(in, run);
    if (!panels) return at_place(panels.error(), "Panels");
    const bool together = in.word("way") == "together";
    Result<Flattened> flat =
        together ? flattened_together(*panels, in.number("tolerance"), in.count("rounds"), run)
                 : flattened_apart(*panels, run);
    if (!flat) return at_place(flat.error(), "Panels");
    const auto length = [&](double value) { return quantity_text({value, a_length}, in.units(), 3); };
    if (together)
        run.remark("Corners lay up to " + length(flat->worst_before) + " off their panel's plane; after " +
                   std::to_string(flat->rounds) + " rounds up to " + length(flat->worst_after) + ".");
    else
        run.remark("Corners lay up to " + length(flat->worst_before) +
                   " off their panel's plane; every panel is flat now, and neighbours gape by up to " +
                   length(flat->worst_gap) + ".");
    return Value(std::move(flat->mesh));
}

}  // namespace

StepKind flatten_panels() {
    SlotSpec rounds = count_slot("rounds", "Rounds", "400", 1);
    rounds.most = 1'000'000;
    return {
        .key = "mesh.flatten",
        .verb = "Flatten panels",
        .synonyms = "planar planarize best fit plane panels quads polygons cells flat",
        .sentence =
            "Flatten the panels of {panels} {way}[way=together|, to within {tolerance} in at most {rounds} "
            "rounds].",
        .slots = {reference_slot("panels", "Panels", {Kind::mesh, Kind::points}),
                  choice_slot("way", "Way",
                              {{"apart", "one by one", "each onto its best-fit plane; neighbours gape"},
                               {"together", "together", "they stay joined, and move until they are flat"}}),
                  length_above_zero_slot("tolerance", "Tolerance", "1 mm"), rounds},
        .results = {Kind::mesh},
        .result_name = "panels",
        .help =
            "Panels or the cells of a lattice, made flat. The field gap tells how far each corner moved; "
            "what remains "
            "is told below.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
