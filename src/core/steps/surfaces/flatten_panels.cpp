#include "core/geometry/moves/flatten.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/geometry/surfaces/flatness.hpp"
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

// Each curve laid onto its plane: its poles, and so the whole curve.
Result<Value> flat_curves(const CurveSet& set, const Units& units, const Run& run) {
    CurveSet flat;
    double worst = 0;
    for (const SplineCurve& curve : set.curves) {
        const BestFit fit = plane_of(curve);
        worst = std::max(worst, fit.worst);
        const Result<Value> one = transformed(CurveSet{{curve}}, laid_onto(fit.placement));
        if (!one) return one.error();
        flat.curves.push_back(std::get<CurveSet>(*one).curves.front());
    }
    run.remark("The curves lay up to " + quantity_text({worst, a_length}, units, 3) + " off their planes.");
    return Value(std::move(flat));
}

Result<Value> make(const Inputs& in, const Run& run) {
    if (const auto* curves = std::get_if<CurveSet>(&in.value("panels")))
        return flat_curves(*curves, in.units(), run);
    const Result<Mesh> panels = panels_of(in, run);
    if (!panels) return about_slot(panels.error(), "panels");
    const bool together = in.word("way") == "together";
    Result<Flattened> flat =
        together ? flattened_together(*panels, in.number("tolerance"), in.count("rounds"), run)
                 : flattened_apart(*panels, run);
    if (!flat) return about_slot(flat.error(), "panels");
    const auto length = [&](double value) { return quantity_text({value, a_length}, in.units(), 3); };
    if (!together)
        run.remark("Corners lay up to " + length(flat->worst_before) +
                   " off their panel's plane; every panel is flat now, and neighbours gape by up to " +
                   length(flat->worst_gap) + ".");
    else
        run.remark("Corners lay up to " + length(flat->worst_before) + " off their panel's plane; after " +
                   std::to_string(flat->rounds) + " rounds up to " + length(flat->worst_after) + ".");
    if (together && flat->worst_after > in.number("tolerance"))
        run.remark_loss(
            "They are not flat enough yet: where a skin twists, what flattens one panel bends the next. "
            "Allow more "
            "rounds or a larger tolerance, or split the warped faces.");
    return Value(std::move(flat->mesh));
}

}  // namespace

StepKind flatten_panels() {
    SlotSpec rounds = count_slot("rounds", "Rounds", "400", 1);
    rounds.most = 1'000'000;
    return {
        .key = "mesh.flatten",
        .verb = "Flatten warped panels",
        .synonyms = "planar planarize best fit plane panels quads polygons cells flat",
        .sentence =
            "Flatten the panels of {panels} {way}[way=together|, to within {tolerance} in at most {rounds} "
            "rounds].",
        .slots = {reference_slot("panels", "Panels", {Kind::mesh, Kind::points, Kind::curves}),
                  choice_slot("way", "Way",
                              {{"apart", "one by one", "each onto its best-fit plane; neighbours gape"},
                               {"together", "together", "they stay joined, and move until they are flat"}}),
                  length_above_zero_slot("tolerance", "Tolerance", "1 mm"), rounds},
        .results = {Kind::mesh, Kind::curves},
        .result_name = "panels",
        .help =
            "Panels, the cells of a lattice or polygons, made flat. The field gap tells how far each corner "
            "moved; "
            "what remains "
            "is told below.",
        .estimate = estimate,
        .make = make,
    };
}

}  // namespace plume
