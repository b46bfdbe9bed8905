#include "core/evaluation/formula_along.hpp"

#include "core/base/noise.hpp"

namespace plume {
namespace {

std::size_t flat(const Domain& domain, const std::array<std::size_t, 3>& at) {
    return at[0] + domain.directions[0].count * (at[1] + domain.directions[1].count * at[2]);
}

// The same site over the addresses of a line: every input becomes a column, the point's number too.
FormulaSite along(const FormulaSite& site, const AddressLine& line) {
    FormulaSite narrow;
    const std::size_t lanes = line.indices.size();
    narrow.domain.directions[0] = {lanes, 0, 1, false};
    const auto column_of = [&](InputRef ref) {
        Doubles values(lanes);
        for (std::size_t lane = 0; lane < lanes; ++lane)
            values[lane] = input_at(site.domain, ref, line.address(lane));
        narrow.owned.emplace_back(std::move(values));
        return InputRef{InputType::column, static_cast<std::uint32_t>(narrow.owned.size() - 1)};
    };
    narrow.inputs = site.inputs;
    for (FormulaInput& input : narrow.inputs)
        if (const auto* ref = std::get_if<InputRef>(&input.meaning)) input.meaning = column_of(*ref);
    narrow.point_number = column_of({InputType::address_number, 0});
    for (const Column& column : narrow.owned)
        narrow.domain.columns.push_back(column.span());
    return narrow;
}

}  // namespace

std::array<std::size_t, 3> AddressLine::address(std::size_t lane) const {
    std::array<std::size_t, 3> at = held;
    at[direction] = indices[lane];
    return at;
}

Address address_in(const Domain& domain, std::size_t flat) {
    const std::size_t i = domain.directions[0].count, j = domain.directions[1].count;
    return {flat % i, flat / i % j, flat / i / j};
}

AddressLine address_line(const Domain& domain, std::size_t flat) {
    const Address at = address_in(domain, flat);
    AddressLine line;
    line.held = {at.i, at.j, at.k};
    line.indices = {line.held[0]};
    return line;
}

double input_at(const Domain& domain, InputRef ref, const std::array<std::size_t, 3>& at) {
    const std::size_t index = ref.type == InputType::column ? flat(domain, at) : at[ref.number];
    switch (ref.type) {
        case InputType::loop_value:
            return domain.directions[ref.number].value(index);
        case InputType::loop_index:
            return static_cast<double>(index);
        case InputType::loop_share:
            return domain.directions[ref.number].share(index);
        case InputType::column:
            return domain.columns[ref.number][index];
        case InputType::address_number:
            break;
    }
    return address_number(at[0], at[1], at[2]);
}

std::vector<NodeId> nodes_of(const CheckedFormula& formula) {
    std::vector<NodeId> nodes;
    for (const Term& term : formula.terms)
        nodes.push_back(term.node);
    return nodes;
}

Result<std::vector<Doubles>> terms_along(const ResolvedFormula& formula, const FormulaSite& site,
                                         const AddressLine& line, const Run& run) {
    const FormulaSite narrow = along(site, line);
    const auto formula_there = check_at(formula, narrow);
    if (!formula_there) return std::vector<Doubles>();
    auto result = evaluate(formula_there->graph, nodes_of(*formula_there), narrow.domain, Keep::columns, run);
    if (!result) return result.error();
    return std::move(result->columns);
}

}  // namespace plume
