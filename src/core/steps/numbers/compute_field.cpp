#include "core/steps/formula_support.hpp"

namespace plume {
namespace {

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.lattice("points"));
    site.results.push_back({"", "the last line is the number", true});
    return site;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {evaluation_bytes(1, points), points * 3e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const Result<FormulaSite> site = site_of(in);
    const Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    std::vector<NamedNode> wanted = field_nodes(*formula);
    const Term& last = *term_of(*formula, "");
    wanted.push_back({in.result_name(), last.node, last.dimension});
    std::vector<NodeId> outputs;
    outputs.reserve(wanted.size());
    for (const NamedNode& node : wanted)
        outputs.push_back(node.node);
    auto result = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!result) return result.error();
    return Value(FieldOnPoints{with_fields(points, wanted, *result, 0), in.result_name()});
}

}  // namespace

StepKind compute_field() {
    return {
        .key = "field.formula",
        .verb = "Compute numbers by formula",
        .synonyms = "field function expression number equation",
        .sentence = "Compute a number on each point of {points} as {formula}.",
        .slots = {reference_slot("points", "Points", {Kind::points, Kind::field}),
                  formula_slot("formula", formula_label, "hypot(x, y)")},
        .results = {Kind::field},
        .result_name = "number",
        .help =
            "A number on each point by a formula, whose last line it is. It reads the coordinates x, y, z, "
            "the address "
            "i, j, k, the shares u, v, w, count, and every field the points carry.",
        .bears_name = true,
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
