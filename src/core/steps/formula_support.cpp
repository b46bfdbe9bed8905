#include "core/steps/formula_support.hpp"

#include <algorithm>

#include "core/geometry/parts/subset.hpp"
#include "core/study/slot_context.hpp"

namespace plume {
namespace {

constexpr std::array<const char*, 3> index_names{"i", "j", "k"};
constexpr std::array<const char*, 3> share_names{"u", "v", "w"};

void add_input(FormulaSite& site, FormulaInput input) {
    const auto found = std::ranges::find(site.inputs, input.name, &FormulaInput::name);
    if (found == site.inputs.end()) site.inputs.push_back(std::move(input));
}

void add_column(FormulaSite& site, const std::string& name, const Column& column, Dimension dimension,
                std::string help) {
    const auto number = static_cast<std::uint32_t>(site.domain.columns.size());
    site.domain.columns.push_back(column.span());
    add_input(site, {name, dimension, InputRef{InputType::column, number}, std::move(help)});
}

}  // namespace

void add_address_inputs(FormulaSite& site) {
    for (std::uint32_t d = 0; d < 3; ++d) {
        const Direction& direction = site.domain.directions[d];
        const std::string index = index_names[d];
        add_input(site, {index, plain_number, InputRef{InputType::loop_index, d},
                         "number along " + index + ", from 0 to " + std::to_string(direction.count - 1)});
        add_input(site,
                  {share_names[d], plain_number, InputRef{InputType::loop_share, d},
                   "share along " + index + ", from 0 to " + (direction.closed ? "just below 1" : "1")});
        add_input(site, {"count_" + index, plain_number, static_cast<double>(direction.count),
                         "how many points along " + index});
    }
    add_input(site,
              {"count", plain_number, static_cast<double>(site.domain.size()), "how many points in all"});
}

FormulaSite site_on_lattice(const PointLattice& lattice) {
    FormulaSite site;
    for (std::size_t d = 0; d < 3; ++d) {
        const std::size_t count = lattice.counts()[d];
        site.domain.directions[d] = {count, 0, static_cast<double>(count) - 1,
                                     lattice.closed(static_cast<int>(d))};
        site.direction_names[d] = index_names[d];
    }
    add_column(site, "x", lattice.x(), a_length, "coordinate of the point");
    add_column(site, "y", lattice.y(), a_length, "coordinate of the point");
    add_column(site, "z", lattice.z(), a_length, "coordinate of the point");
    add_address_inputs(site);
    for (const Field& field : lattice.fields())
        add_column(site, field.name, field.values, field.dimension, "field of the points");
    return site;
}

void add_numbers(FormulaSite& site, const std::string& name, Column numbers, Dimension dimension,
                 std::string help) {
    std::erase_if(site.inputs, [&](const FormulaInput& input) { return input.name == name; });
    site.owned.push_back(std::move(numbers));
    add_column(site, name, site.owned.back(), dimension, std::move(help));
}

void add_places(FormulaSite& site, const std::vector<Vec3>& places, const std::string& of) {
    constexpr std::pair<const char*, double Vec3::*> parts[] = {
        {"x", &Vec3::x}, {"y", &Vec3::y}, {"z", &Vec3::z}};
    for (const auto& [name, part] : parts) {
        Doubles numbers(places.size());
        for (std::size_t at = 0; at < places.size(); ++at)
            numbers[at] = places[at].*part;
        add_numbers(site, name, std::move(numbers), a_length, "coordinate of " + of);
    }
}

FormulaSite site_along(const std::vector<Vec3>& places, Doubles lengths, double total, bool closed,
                       const std::string& of) {
    Doubles shares;
    for (const double at : lengths)
        shares.push_back(total > 0 ? at / total : 0);
    FormulaSite site;
    site.domain.directions[0] = {places.size(), 0, 1, closed};
    site.direction_names = {"u", "", ""};
    add_numbers(site, "u", std::move(shares), plain_number, "share of the length of " + of + ", 0 to 1");
    add_numbers(site, "s", std::move(lengths), a_length, "length along " + of);
    add_places(site, places, of);
    site.inputs.push_back({"length", a_length, total, "of the whole of " + of});
    return site;
}

Result<CheckedFormula> checked_formula(const Inputs& in, const FormulaSite& site) {
    auto checked = check_at(in.formula("formula"), site);
    if (!checked) return about_slot(checked.error(), "formula");
    for (const FormulaResult& result : site.results) {
        if (!result.needed || term_of(*checked, result.name)) continue;
        const bool read =
            std::ranges::find(site.inputs, result.name, &FormulaInput::name) != site.inputs.end();
        if (!read)
            return about_slot(Error{ErrorCode::missing_input, "", "gives no ‘" + result.name + "’",
                                    "Add a line " + result.name + " = …, or give a loop that name."},
                              "formula");
    }
    return checked;
}

const Term* term_of(const CheckedFormula& formula, std::string_view name) {
    return name.empty() ? &formula.terms.back() : formula.find(name);
}

Result<NodeId> node_of(CheckedFormula& formula, const Term& term, Dimension wanted, const Inputs& in) {
    auto node = as_dimension(formula, term, wanted, in.formula("formula").scope);
    if (!node) return about_slot(node.error(), "formula");
    return node;
}

Result<std::optional<Doubles>> computed(CheckedFormula& formula, std::string_view name, Dimension wanted,
                                        const FormulaSite& site, const Inputs& in, const Run& run) {
    const Term* term = term_of(formula, name);
    if (!term) return std::optional<Doubles>();
    const auto node = node_of(formula, *term, wanted, in);
    if (!node) return node.error();
    const std::vector<NodeId> outputs{*node};
    auto made = evaluate(formula.graph, outputs, site.domain, Keep::columns, run);
    if (!made) return made.error();
    return std::optional(std::move(made->columns[0]));
}

Result<Doubles> numbers_by_formula(const Inputs& in, const FormulaSite& site, Dimension wanted,
                                   const Run& run) {
    auto formula = checked_formula(in, site);
    if (!formula) return formula.error();
    auto made = computed(*formula, "", wanted, site, in, run);
    if (!made) return made.error();
    return **std::move(made);
}

std::vector<NamedNode> field_nodes(const CheckedFormula& formula) {
    std::vector<NamedNode> nodes;
    for (const Term& term : formula.terms)
        if (term.field) nodes.push_back({term.name, term.node, term.dimension});
    return nodes;
}

PointLattice with_fields(PointLattice points, const std::vector<NamedNode>& fields, Evaluated& result,
                         std::size_t first) {
    for (std::size_t at = 0; at < fields.size(); ++at)
        points =
            points.with_field({fields[at].name, std::move(result.columns[first + at]), fields[at].dimension});
    return points;
}

Result<std::vector<std::uint8_t>> mask_of(const Doubles& condition) {
    std::vector<std::uint8_t> mask(condition.size());
    std::size_t kept = 0;
    for (std::size_t index = 0; index < mask.size(); ++index) {
        mask[index] = condition[index] != 0 && condition[index] == condition[index] ? 1 : 0;
        kept += mask[index];
    }
    if (kept == 0)
        return about_slot(Error{ErrorCode::empty_input, "", "keeps no point: its condition holds nowhere",
                                "Turn the comparison round, or change its number."},
                          "formula");
    return mask;
}

Result<FormulaSite> condition_site(const Inputs& in) {
    FormulaSite site = site_on_lattice(in.lattice("points"));
    site.results.push_back({"", "the last line is the condition: yes where it is not 0", true});
    return site;
}

Estimate condition_estimate(const Inputs& in) {
    const auto points = static_cast<double>(in.lattice("points").address_count());
    return {evaluation_bytes(1, points) + points, points * 3e-8};
}

Result<PointLattice> kept_by_formula(const Inputs& in, const Run& run) {
    const Result<FormulaSite> site = condition_site(in);
    const Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    std::vector<NodeId> outputs{term_of(*formula, "")->node};
    const std::vector<NamedNode> fields = field_nodes(*formula);
    for (const NamedNode& field : fields)
        outputs.push_back(field.node);
    auto result = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!result) return result.error();
    const auto mask = mask_of(result->columns.front());
    if (!mask) return mask.error();
    PointLattice kept = with_gaps(in.lattice("points"), *mask);
    if (kept.point_count() == 0)
        return about_slot(
            Error{ErrorCode::empty_input, "", "keeps no point: those it would keep are gaps already",
                  "Change its condition."},
            "formula");
    return with_fields(std::move(kept), fields, *result, 1);
}

}  // namespace plume
