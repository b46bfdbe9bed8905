#include "core/evaluation/formula_insight.hpp"

#include <algorithm>
#include <cmath>

#include "core/evaluation/formula_along.hpp"

namespace plume {
namespace {

std::size_t index_at(double share, std::size_t count) {
    const double clamped = std::clamp(std::isfinite(share) ? share : 0.5, 0.0, 1.0);
    return static_cast<std::size_t>(std::llround(clamped * static_cast<double>(count - 1)));
}

AddressLine line_of(const Domain& domain, std::size_t direction, const GraphWish& wish) {
    AddressLine line;
    line.direction = direction;
    for (std::size_t d = 0; d < 3; ++d)
        line.held[d] = index_at(wish.held[d], domain.directions[d].count);
    const std::size_t count = domain.directions[direction].count;
    const std::size_t first = index_at(wish.from, count), last = std::max(first, index_at(wish.to, count));
    const std::size_t lanes = std::min(last - first + 1, std::max<std::size_t>(wish.most_samples, 2));
    for (std::size_t lane = 0; lane < lanes; ++lane)
        line.indices.push_back(lanes == 1 ? first : first + lane * (last - first) / (lanes - 1));
    return line;
}

// The first direction from `wanted` on that has more than one address.
std::size_t usable_direction(const Domain& domain, std::size_t wanted) {
    for (std::size_t step = 0; step < 3; ++step)
        if (domain.directions[(wanted + step) % 3].count > 1) return (wanted + step) % 3;
    return 0;
}

// The variable that runs along a direction: the first input that is its value or its index.
std::optional<FormulaInput> variable_of(const FormulaSite& site, std::size_t direction) {
    for (const FormulaInput& input : site.inputs) {
        if (input.name != site.direction_names[direction]) continue;
        if (std::holds_alternative<InputRef>(input.meaning)) return input;
    }
    return {};
}

std::array<InsightDirection, 3> directions_of(const FormulaSite& site, const GraphWish& wish) {
    std::array<InsightDirection, 3> directions;
    for (std::size_t d = 0; d < 3; ++d) {
        InsightDirection& direction = directions[d];
        direction.name = site.direction_names[d];
        direction.count = site.domain.directions[d].count;
        const auto variable = variable_of(site, d);
        if (!variable) continue;
        direction.dimension = variable->dimension;
        const auto value = [&](std::size_t index) {
            std::array<std::size_t, 3> at{};
            at[d] = index;
            return input_at(site.domain, std::get<InputRef>(variable->meaning), at);
        };
        direction.first = value(0);
        direction.last = value(direction.count - 1);
        direction.held = value(index_at(wish.held[d], direction.count));
    }
    return directions;
}

Status add_ranges(FormulaInsight& insight, const ResolvedFormula& formula, const FormulaSite& site,
                  const Run& run) {
    const auto whole = check_at(formula, site);
    if (!whole) {
        insight.error = whole.error();
        return Done{};
    }
    const auto result = evaluate(whole->graph, nodes_of(*whole), site.domain, Keep::surveys_only, run);
    if (!result) return result.error();
    for (std::size_t at = 0; at < whole->terms.size(); ++at) {
        const Term& term = whole->terms[at];
        TermInsight line;
        line.name = term.name;
        line.dimension = term.dimension;
        line.field = term.field;
        line.muted_to = term.muted_to;
        line.begin = term.begin;
        line.end = term.end;
        line.survey = result->surveys[at];
        line.depends = whole->graph[term.node].depends;
        if (line.survey.not_finite > 0)
            line.first_not_finite = address_in(site.domain, line.survey.first_not_finite);
        insight.terms.push_back(std::move(line));
    }
    return Done{};
}

Status add_graphs(FormulaInsight& insight, const ResolvedFormula& formula, const FormulaSite& site,
                  const GraphWish& wish, const Run& run) {
    const AddressLine line = line_of(site.domain, insight.direction, wish);
    AddressLine marker = line;
    marker.indices = {line.held[line.direction]};
    for (const AddressLine* each : {&line, static_cast<const AddressLine*>(&marker)}) {
        const auto columns = terms_along(formula, site, *each, run);
        if (!columns) return columns.error();
        if (columns->empty()) return Done{};
        for (std::size_t at = 0; at < insight.terms.size(); ++at) {
            const Doubles& values = (*columns)[at];
            if (each == &marker)
                insight.terms[at].at_held = values[0];
            else
                insight.terms[at].graph.assign(values.begin(), values.end());
        }
    }
    if (const auto variable = variable_of(site, line.direction))
        for (std::size_t lane = 0; lane < line.indices.size(); ++lane)
            insight.along.push_back(
                input_at(site.domain, std::get<InputRef>(variable->meaning), line.address(lane)));
    return Done{};
}

// Whether any two numbers differ.
bool varies(const Doubles& values) {
    return std::ranges::any_of(values, [&](double value) { return value != values.front(); });
}

Status add_small_graphs(FormulaInsight& insight, const ResolvedFormula& formula, const FormulaSite& site,
                        const GraphWish& wish, const Run& run) {
    constexpr std::size_t samples = 128;
    std::array<std::vector<Doubles>, 3> columns;  // of each direction, of each line
    for (std::size_t d = 0; d < 3; ++d) {
        if (site.domain.directions[d].count < 2) continue;
        const AddressLine line = line_of(site.domain, d, {d, wish.held, 0, 1, samples});
        auto made = terms_along(formula, site, line, run);
        if (!made) return made.error();
        columns[d] = *std::move(made);
    }
    for (std::size_t at = 0; at < insight.terms.size(); ++at) {
        TermInsight& term = insight.terms[at];
        std::vector<std::size_t> along;  // the direction of the graphs first
        for (std::size_t step = 0; step < 3; ++step) {
            const std::size_t d = (insight.direction + step) % 3;
            if (!columns[d].empty() && (term.depends & (1U << d)) && varies(columns[d][at]))
                along.push_back(d);
        }
        const auto values = [&](std::size_t d) {
            return columns[d].empty() ? std::vector<double>()
                                      : std::vector<double>(columns[d][at].begin(), columns[d][at].end());
        };
        term.small.direction = along.empty() ? insight.direction : along.front();
        term.small.values = values(term.small.direction);
        if (along.size() < 2) continue;
        term.small.other = along[1];
        term.small.other_values = values(along[1]);
    }
    return Done{};
}

FormulaInsight insight_of(const RulesSite& site, const ResolvedFormula& rules, const Value* made) {
    FormulaInsight insight;
    insight.inputs = site.inputs;
    insight.study_names = rules.scope.known_names;
    insight.words = site.words;
    insight.given = site.given;
    insight.error = site.error;
    if (!made || site.error) return insight;
    insight.notes = site.notes(*made);
    insight.growth = site.growth(*made);
    return insight;
}

}  // namespace

Result<FormulaInsight> look_into_formula(const StepKind& kind, const Inputs& inputs, const Value* made,
                                         const GraphWish& wish, const Run& run) {
    const auto found = slot_context(kind, "formula", inputs, run);
    assert(found);
    const Result<SlotContext>& context = *found;
    if (!context) return context.error();
    const ResolvedFormula& formula = inputs.formula("formula");
    if (const auto* rules = std::get_if<RulesSite>(&*context)) return insight_of(*rules, formula, made);
    const FormulaSite* site = &std::get<FormulaSite>(*context);
    FormulaInsight insight;
    insight.inputs = site->inputs;
    insight.results = site->results;
    insight.study_names = formula.scope.known_names;
    insight.directions = directions_of(*site, wish);
    insight.direction = usable_direction(site->domain, wish.direction);
    if (const Status ranges = add_ranges(insight, formula, *site, run); !ranges) return ranges.error();
    if (insight.error) return insight;
    if (const Status graphs = add_graphs(insight, formula, *site, wish, run); !graphs) return graphs.error();
    if (const Status small = add_small_graphs(insight, formula, *site, wish, run); !small)
        return small.error();
    return insight;
}

}  // namespace plume
