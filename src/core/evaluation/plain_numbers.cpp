#include "core/evaluation/plain_numbers.hpp"

#include <algorithm>

namespace plume {
namespace {

bool same_graphs(const Graph& a, const Graph& b) {
    if (a.size() != b.size()) return false;
    for (NodeId id = 0; id < a.size(); ++id) {
        const Node &left = a[id], &right = b[id];
        if (left.type != right.type || left.operation != right.operation || left.value != right.value ||
            left.operands != right.operands)
            return false;
    }
    return true;
}

// Whether its formula means something else when plain numbers count the study's units: where one stands
// beside a quantity, or is a result itself.
bool formula_leans(const StepKind& kind, const Inputs& inputs) {
    const auto context = slot_context(kind, "formula", inputs, Run());
    if (!context || !*context) return false;
    // Of rules it is not looked for: those that might keep the units they were written in.
    if (std::holds_alternative<RulesSite>(**context)) return true;
    const auto& site = std::get<FormulaSite>(**context);
    const ResolvedFormula& formula = inputs.formula("formula");
    ResolvedFormula otherwise = formula;
    otherwise.scope.plain.reset();
    const auto now = check_at(formula, site), then = check_at(otherwise, site);
    if (!now || !then || !same_graphs(now->graph, then->graph)) return true;
    return std::ranges::any_of(site.results, [&](const FormulaResult& result) {
        const Term* term = result.name.empty() ? &now->terms.back() : now->find(result.name);
        return result.quantity && term && term->dimension == plain_number;
    });
}

}  // namespace

bool leans_on_plain_numbers(const StepKind& kind, const Inputs& inputs) {
    if (inputs.has("formula")) return formula_leans(kind, inputs);
    if (!kind.counts_plain_numbers) return reads_plain_numbers(kind);
    return std::ranges::any_of(inputs.all(), [](const auto& slot) {
        const auto* read = std::get_if<ReadResult>(&slot.second);
        const auto* field = read ? std::get_if<FieldOnPoints>(read->value.get()) : nullptr;
        const auto* number = std::get_if<Quantity>(&slot.second);
        return (field && field->field().dimension != a_length) ||
               (number && number->dimension == plain_number && number->value != 0);
    });
}

}  // namespace plume
