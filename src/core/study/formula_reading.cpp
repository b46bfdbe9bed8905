#include "core/study/formula_reading.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/noise.hpp"

namespace plume {
namespace {

// Addresses of a domain along one direction, with the others held.
struct Line {
    std::size_t direction = 0;
    std::array<std::size_t, 3> held{};
    std::vector<std::size_t> indices;

    std::array<std::size_t, 3> address(std::size_t lane) const {
        std::array<std::size_t, 3> at = held;
        at[direction] = indices[lane];
        return at;
    }
};

std::size_t index_at(double share, std::size_t count) {
    const double clamped = std::clamp(std::isfinite(share) ? share : 0.5, 0.0, 1.0);
    return static_cast<std::size_t>(std::llround(clamped * static_cast<double>(count - 1)));
}

Line line_of(const Domain& domain, std::size_t direction, const GraphWish& wish) {
    Line line;
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

std::size_t flat(const Domain& domain, const std::array<std::size_t, 3>& at) {
    return at[0] + domain.directions[0].count * (at[1] + domain.directions[1].count * at[2]);
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

// The same place over the addresses of a line: every input becomes a column, the point's number too.
FormulaPlace along(const FormulaPlace& place, const Line& line) {
    FormulaPlace narrow;
    const std::size_t lanes = line.indices.size();
    narrow.domain.directions[0] = {lanes, 0, 1, false};
    const auto column_of = [&](InputRef ref) {
        Doubles values(lanes);
        for (std::size_t lane = 0; lane < lanes; ++lane)
            values[lane] = input_at(place.domain, ref, line.address(lane));
        narrow.owned.emplace_back(std::move(values));
        return InputRef{InputType::column, static_cast<std::uint32_t>(narrow.owned.size() - 1)};
    };
    narrow.inputs = place.inputs;
    for (FormulaInput& input : narrow.inputs)
        if (const auto* ref = std::get_if<InputRef>(&input.meaning)) input.meaning = column_of(*ref);
    narrow.point_number = column_of({InputType::address_number, 0});
    for (const Column& column : narrow.owned)
        narrow.domain.columns.push_back(column.span());
    return narrow;
}

std::vector<NodeId> nodes_of(const CheckedFormula& formula) {
    std::vector<NodeId> nodes;
    for (const Term& term : formula.terms)
        nodes.push_back(term.node);
    return nodes;
}

// The first direction from `wanted` on that has more than one address.
std::size_t usable_direction(const Domain& domain, std::size_t wanted) {
    for (std::size_t step = 0; step < 3; ++step)
        if (domain.directions[(wanted + step) % 3].count > 1) return (wanted + step) % 3;
    return 0;
}

// The variable that runs along a direction: the first input that is its value or its index.
std::optional<FormulaInput> variable_of(const FormulaPlace& place, std::size_t direction) {
    for (const FormulaInput& input : place.inputs) {
        if (input.name != place.direction_names[direction]) continue;
        if (std::holds_alternative<InputRef>(input.meaning)) return input;
    }
    return {};
}

std::array<ReadingDirection, 3> directions_of(const FormulaPlace& place, const GraphWish& wish) {
    std::array<ReadingDirection, 3> directions;
    for (std::size_t d = 0; d < 3; ++d) {
        ReadingDirection& direction = directions[d];
        direction.name = place.direction_names[d];
        direction.count = place.domain.directions[d].count;
        const auto variable = variable_of(place, d);
        if (!variable) continue;
        direction.dimension = variable->dimension;
        const auto value = [&](std::size_t index) {
            std::array<std::size_t, 3> at{};
            at[d] = index;
            return input_at(place.domain, std::get<InputRef>(variable->meaning), at);
        };
        direction.first = value(0);
        direction.last = value(direction.count - 1);
        direction.held = value(index_at(wish.held[d], direction.count));
    }
    return directions;
}

Address address_of(const Domain& domain, std::size_t index) {
    const std::size_t i = domain.directions[0].count, j = domain.directions[1].count;
    return {index % i, index / i % j, index / i / j};
}

Status add_ranges(FormulaReading& reading, const ResolvedFormula& formula, const FormulaPlace& place,
                  const Run& run) {
    const auto whole = check_at(formula, place);
    if (!whole) {
        reading.error = whole.error();
        return Done{};
    }
    const auto result = evaluate(whole->graph, nodes_of(*whole), place.domain, Keep::surveys_only, run);
    if (!result) return result.error();
    for (std::size_t at = 0; at < whole->terms.size(); ++at) {
        const Term& term = whole->terms[at];
        TermReading line;
        line.name = term.name;
        line.dimension = term.dimension;
        line.field = term.field;
        line.muted_to = term.muted_to;
        line.begin = term.begin;
        line.end = term.end;
        line.survey = result->surveys[at];
        line.depends = whole->graph[term.node].depends;
        if (line.survey.not_finite > 0)
            line.first_not_finite = address_of(place.domain, line.survey.first_not_finite);
        reading.terms.push_back(std::move(line));
    }
    return Done{};
}

// All lines along a line of addresses; none when they cannot be read there.
Result<std::vector<Doubles>> terms_along(const ResolvedFormula& formula, const FormulaPlace& place,
                                         const Line& line, const Run& run) {
    const FormulaPlace narrow = along(place, line);
    const auto formula_there = check_at(formula, narrow);
    if (!formula_there) return std::vector<Doubles>();
    auto result = evaluate(formula_there->graph, nodes_of(*formula_there), narrow.domain, Keep::columns, run);
    if (!result) return result.error();
    return std::move(result->columns);
}

Status add_graphs(FormulaReading& reading, const ResolvedFormula& formula, const FormulaPlace& place,
                  const GraphWish& wish, const Run& run) {
    const Line line = line_of(place.domain, reading.direction, wish);
    Line marker = line;
    marker.indices = {line.held[line.direction]};
    for (const Line* each : {&line, static_cast<const Line*>(&marker)}) {
        const auto columns = terms_along(formula, place, *each, run);
        if (!columns) return columns.error();
        if (columns->empty()) return Done{};
        for (std::size_t at = 0; at < reading.terms.size(); ++at) {
            const Doubles& values = (*columns)[at];
            if (each == &marker)
                reading.terms[at].at_held = values[0];
            else
                reading.terms[at].graph.assign(values.begin(), values.end());
        }
    }
    if (const auto variable = variable_of(place, line.direction))
        for (std::size_t lane = 0; lane < line.indices.size(); ++lane)
            reading.along.push_back(
                input_at(place.domain, std::get<InputRef>(variable->meaning), line.address(lane)));
    return Done{};
}

// Whether any two numbers differ.
bool varies(const Doubles& values) {
    return std::ranges::any_of(values, [&](double value) { return value != values.front(); });
}

Status add_small_graphs(FormulaReading& reading, const ResolvedFormula& formula, const FormulaPlace& place,
                        const GraphWish& wish, const Run& run) {
    constexpr std::size_t samples = 128;
    std::array<std::vector<Doubles>, 3> columns;  // of each direction, of each line
    for (std::size_t d = 0; d < 3; ++d) {
        if (place.domain.directions[d].count < 2) continue;
        const Line line = line_of(place.domain, d, {d, wish.held, 0, 1, samples});
        auto made = terms_along(formula, place, line, run);
        if (!made) return made.error();
        columns[d] = *std::move(made);
    }
    for (std::size_t at = 0; at < reading.terms.size(); ++at) {
        TermReading& term = reading.terms[at];
        std::vector<std::size_t> along;  // the direction of the graphs first
        for (std::size_t step = 0; step < 3; ++step) {
            const std::size_t d = (reading.direction + step) % 3;
            if (!columns[d].empty() && (term.depends & (1U << d)) && varies(columns[d][at]))
                along.push_back(d);
        }
        const auto values = [&](std::size_t d) {
            return columns[d].empty() ? std::vector<double>()
                                      : std::vector<double>(columns[d][at].begin(), columns[d][at].end());
        };
        term.small.direction = along.empty() ? reading.direction : along.front();
        term.small.values = values(term.small.direction);
        if (along.size() < 2) continue;
        term.small.other = along[1];
        term.small.other_values = values(along[1]);
    }
    return Done{};
}

}  // namespace

Result<CheckedFormula> check_at(const ResolvedFormula& formula, const FormulaPlace& place) {
    auto checked = check_formula(formula.text, {formula.scope, place.inputs, formula.muted,
                                                UnitStrictness::formula, place.point_number});
    if (checked || checked.error().code != ErrorCode::name_clash) return checked;
    // `z = …` where the old z is read and the new one is called otherwise.
    Error error = checked.error();
    const std::string name = formula.text.substr(error.begin, error.end - error.begin);
    for (const FormulaResult& result : place.results)
        if (result.name == "to_" + name)
            error.mend = "Here it is the old one; the new one is " + result.name + " = ….";
    return error;
}

Result<FormulaReading> read_formula(const StepKind& kind, const Inputs& inputs, const GraphWish& wish,
                                    const Run& run) {
    const Result<FormulaPlace> place = kind.formula_place(inputs);
    if (!place) return place.error();
    const ResolvedFormula& formula = inputs.formula("formula");
    FormulaReading reading;
    reading.inputs = place->inputs;
    reading.results = place->results;
    reading.study_names = formula.scope.known_names;
    reading.directions = directions_of(*place, wish);
    reading.direction = usable_direction(place->domain, wish.direction);
    if (const Status ranges = add_ranges(reading, formula, *place, run); !ranges) return ranges.error();
    if (reading.error) return reading;
    if (const Status graphs = add_graphs(reading, formula, *place, wish, run); !graphs) return graphs.error();
    if (const Status small = add_small_graphs(reading, formula, *place, wish, run); !small)
        return small.error();
    return reading;
}

}  // namespace plume
