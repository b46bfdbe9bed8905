#include "core/steps/formula_support.hpp"
#include "core/steps/moves/moved_nodes.hpp"

namespace plume {
namespace {

constexpr std::array<const char*, 3> coordinates{"to_x", "to_y", "to_z"};

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.lattice("points"));
    site.results = {{"to_x", "new x; without it x stays", false, true},
                    {"to_y", "new y; without it y stays", false, true},
                    {"to_z", "new z; without it z stays", false, true}};
    return site;
}

Estimate estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {evaluation_bytes(3, points), points * 5e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const PointLattice& points = in.lattice("points");
    const Result<FormulaSite> site = site_of(in);
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    std::vector<NodeId> outputs;
    std::vector<std::size_t> axes;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const Term* term = formula->find(coordinates[axis]);
        if (!term) continue;
        const auto node = node_of(*formula, *term, a_length, in);
        if (!node) return node.error();
        outputs.push_back(*node);
        axes.push_back(axis);
    }
    if (axes.empty())
        return about_slot(Error{ErrorCode::missing_input, "", "gives none of ‘to_x’, ‘to_y’ and ‘to_z’",
                                "Add a line such as to_z = z + 1 m."},
                          "formula");
    const std::vector<NamedNode> fields = field_nodes(*formula);
    for (const NamedNode& field : fields)
        outputs.push_back(field.node);
    auto result = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!result) return result.error();
    std::array<Column, 3> now{points.x(), points.y(), points.z()};
    for (std::size_t at = 0; at < axes.size(); ++at)
        now[axes[at]] = std::move(result->columns[at]);
    return in_form_of(in.value("points"),
                      with_fields(points.moved(now[0], now[1], now[2]), fields, *result, axes.size()));
}

}  // namespace

StepKind move_by_formula() {
    return {
        .key = "points.move_formula",
        .verb = "Move points by formula",
        .synonyms = "deform transform displace twist bend equation",
        .sentence = "Move the points of {points} by {formula}.",
        .slots = {moved_slot(),
                  formula_slot("formula", formula_label, "to_z = z + 0.5 m * sin(360° * x / 6 m)")},
        .results = moved_kinds(),
        .result_name = "moved",
        .help =
            "New coordinates by a formula: to_x, to_y and to_z; one that is not given stays. Every line "
            "reads the old "
            "coordinates x, y, z, so a turn about an axis needs no copy of them.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
