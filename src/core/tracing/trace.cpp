#include "core/tracing/trace.hpp"

#include <algorithm>
#include <charconv>
#include <set>

#include "core/base/listed.hpp"
#include "core/geometry/curves/curve_nodes.hpp"
#include "core/geometry/surfaces/surface_nodes.hpp"
#include "core/results/items.hpp"
#include "core/study/sentence.hpp"
#include "core/study/study_scope.hpp"
#include "core/tracing/formula_story.hpp"
#include "core/tracing/part_origins.hpp"
#include "core/tracing/part_places.hpp"
#include "core/tracing/part_told.hpp"

namespace plume {
namespace {

constexpr std::size_t most_parts = 8;

// A result that a step read, by which slot, and which step made it.
struct ReadThere {
    std::string slot;
    ItemId step = 0;
    ValuePointer value;
    bool leads = false;  // the first of the sentence, or numbers read point by point
};

PlaceAmong place_among(const Value& value, PartRef part) {
    if (part.sort == PartSort::item) {
        const Items items = items_of(value);
        const auto& [sort, number] = pointed_at(items, part.number);
        return {number, sort.count};
    }
    return {part.number, count_of(value, part.sort)};
}

// A step, and which of its parts are asked about.
class StepAsked {
public:
    StepAsked(const Evaluation& evaluation, const Catalogue& catalogue, const Step& step)
        : evaluation_(evaluation),
          step_(step),
          kind_(catalogue.find(step)),
          outcome_(*evaluation.outcome(step.id)) {
        if (tells())
            collect();
        else
            collect_by_name();
    }

    // What is told of the part; what it came from goes into `origins`.
    TracedPart told(PartRef part, std::vector<std::pair<ItemId, PartRef>>& origins) {
        const Value& made = *outcome_.value;
        TracedPart traced{part, title_of(made, part), {}};
        const PartStory story =
            tells() && kind_->story ? kind_->story(*outcome_.inputs, made, part) : PartStory();
        std::vector<EarlierPart> earlier;
        for (const ReadThere& read : reads_) {
            for (const PartRef origin : origins_of(story, part, read)) {
                found_.insert(read.slot);
                earlier.push_back({*read.value, origin});
                origins.emplace_back(read.step, origin);
            }
        }
        traced.lines = told_of_part(made, part, earlier, evaluation_.study->units);
        const std::vector<std::string> formula = formula_told(part, earlier);
        // A number that a line of the formula gave is told once, by the line.
        std::erase_if(traced.lines, [&](const std::string& line) {
            return std::ranges::any_of(formula,
                                       [&](const std::string& by) { return by.starts_with(line + " = "); });
        });
        for (const auto* more : {&story.lines, &formula})
            traced.lines.insert(traced.lines.end(), more->begin(), more->end());
        return traced;
    }

    // Once all its parts were told.
    void add_remarks(TracedStep& traced, const Scope& scope) const {
        traced.ends = !reads_.empty() && found_.empty();
        if (step_.muted) traced.remarks.emplace_back("Muted: it passes on what it reads.");
        if (!tells()) return;
        for (std::string& line : expression_story(*kind_, step_, *outcome_.inputs, scope))
            traced.remarks.push_back(std::move(line));
        std::set<std::string> whole;
        for (const ReadThere& read : reads_)
            if (!found_.contains(read.slot)) whole.insert(evaluation_.study->step(read.step)->name);
        const std::string names = listed({whole.begin(), whole.end()});
        if (traced.ends)
            traced.remarks.push_back("The trace ends here: it is made of " + names +
                                     " as a whole, of no part of it that could be named.");
        else if (!whole.empty())
            traced.remarks.push_back("Reads " + names + " as a whole.");
    }

private:
    bool tells() const { return kind_ && outcome_.inputs && !step_.muted; }

    // Of a step that is muted, or of a kind that is not known: what it would read.
    void collect_by_name() {
        for (const auto& [slot, value] : step_.slots) {
            const auto* name = std::get_if<ResultName>(&value);
            const Outcome* read = name ? evaluation_.outcome(name->name) : nullptr;
            if (read && read->value) add(slot, name->name, read->value, true);
        }
    }

    void collect() {
        bool first = true;
        for (const SlotSpec* slot : active_slots(*kind_, step_)) {
            const auto found = outcome_.inputs->all().find(slot->key);
            if (found == outcome_.inputs->all().end()) continue;
            if (const auto* read = std::get_if<ReadResult>(&found->second)) {
                const auto named = step_.slots.find(slot->key);
                const auto* name =
                    named == step_.slots.end() ? nullptr : std::get_if<ResultName>(&named->second);
                if (name && read->value) add(slot->key, name->name, read->value, first);
                first = false;
            } else if (const auto* given = std::get_if<std::vector<GivenResult>>(&found->second)) {
                for (const GivenResult& each : *given)
                    add(slot->key, each.name, each.value, false);
            }
        }
    }

    void add(const std::string& slot, const std::string& name, const ValuePointer& value, bool first) {
        const Step* made = evaluation_.study->step(name);
        if (!made || number_of(*value)) return;
        const bool numbers = std::holds_alternative<FieldOnPoints>(*value) ||
                             std::holds_alternative<DirectionsOnPoints>(*value);
        reads_.push_back({slot, made->id, value, first || numbers});
    }

    std::vector<PartRef> origins_of(const PartStory& story, PartRef part, const ReadThere& read) const {
        if (!story.origins)
            return origins_in(*outcome_.value, part, *read.value, read.leads ? Taken::over : Taken::apart);
        std::vector<PartRef> parts;
        for (const PartOrigin& origin : *story.origins)
            if (origin.slot == read.slot && has_part(*read.value, origin.part)) parts.push_back(origin.part);
        return parts;
    }

    // At the part's own address, or at that of a part it came from.
    std::vector<std::string> formula_told(PartRef part, const std::vector<EarlierPart>& earlier) const {
        if (!tells()) return {};
        std::vector<PlaceAmong> places{place_among(*outcome_.value, part)};
        for (const EarlierPart& each : earlier)
            places.push_back(place_among(each.value, each.part));
        return formula_story(*kind_, *outcome_.inputs, places);
    }

    const Evaluation& evaluation_;
    const Step& step_;
    const StepKind* kind_;
    const Outcome& outcome_;
    std::vector<ReadThere> reads_;
    std::set<std::string> found_;  // slots of which parts were found
};

// Controls, and numbers that steps gave: an expression reads only those above it.
Scope scope_in(const Evaluation& evaluation) {
    Scope scope = scope_of(*evaluation.study, evaluation.moment.seconds());
    for (const auto& [id, outcome] : evaluation.outcomes)
        if (const auto number = outcome.value ? number_of(*outcome.value) : std::nullopt)
            scope = scope_with(scope, evaluation.study->step(id)->name, *number);
    return scope;
}

}  // namespace

const TracedStep* Trace::at(ItemId step) const {
    const auto found = std::ranges::find(steps, step, &TracedStep::step);
    return found == steps.end() ? nullptr : &*found;
}

Result<Trace> trace_part(const Evaluation& evaluation, const Catalogue& catalogue, ItemId step, PartRef part,
                         const Run& run) {
    const Study& study = *evaluation.study;
    const Outcome* outcome = evaluation.outcome(step);
    const Step* asked = study.step(step);
    if (!asked || !outcome || !outcome->value)
        return Error{ErrorCode::missing_input, asked ? asked->name : "The result", "has no result",
                     "Mend its step first."};
    if (!has_part(*outcome->value, part))
        return Error{ErrorCode::out_of_range, asked->name, "has no such part any more",
                     "Ask about one that is there."};
    std::map<ItemId, std::set<PartRef>> wanted{{step, {part}}};
    const Scope scope = scope_in(evaluation);
    Trace trace;
    // A step reads only what stands above it.
    const std::size_t end = *study.position(step) + 1;
    for (std::size_t at = end; at-- > 0;) {
        if (run.cancelled()) return cancelled_error();
        const Step* here = step_of(study.items[at]);
        const auto found = here ? wanted.find(here->id) : wanted.end();
        const Outcome* made = here ? evaluation.outcome(here->id) : nullptr;
        if (found == wanted.end() || !made || !made->value) continue;
        StepAsked of(evaluation, catalogue, *here);
        TracedStep traced;
        traced.step = here->id;
        for (const PartRef each : found->second) {
            if (traced.parts.size() == most_parts) {
                traced.more = found->second.size() - most_parts;
                break;
            }
            if (!has_part(*made->value, each)) continue;
            std::vector<std::pair<ItemId, PartRef>> origins;
            traced.parts.push_back(of.told(each, origins));
            for (const auto& [from, origin] : origins)
                wanted[from].insert(origin);
        }
        of.add_remarks(traced, scope);
        trace.steps.push_back(std::move(traced));
    }
    std::ranges::reverse(trace.steps);
    return trace;
}

namespace {

// "12,8"; empty where it is no such row of numbers.
std::vector<std::size_t> numbers_in(std::string_view name) {
    std::vector<std::size_t> numbers;
    for (const char *at = name.data(), *const end = at + name.size();;) {
        const auto read = std::from_chars(at, end, numbers.emplace_back());
        if (read.ec != std::errc()) return {};
        if (read.ptr == end) return numbers;
        if (*read.ptr != ',') return {};
        at = read.ptr + 1;
    }
}

// A point that splines were made through: column and row of a surface, the surface before them where there
// are several; curve and point.
std::optional<PartRef> node_named(const Value& value, std::string_view name) {
    std::vector<std::size_t> numbers = numbers_in(name);
    std::optional<std::size_t> number;
    if (const auto* curves = std::get_if<CurveSet>(&value); curves && numbers.size() == 2)
        number = number_of(*curves, {numbers[0], numbers[1]});
    if (const auto* surfaces = std::get_if<SurfaceSet>(&value)) {
        if (surfaces->patches.size() == 1) numbers.insert(numbers.begin(), 0);
        if (numbers.size() == 3) number = number_of(*surfaces, {numbers[0], numbers[1], numbers[2]});
    }
    return number ? std::optional(PartRef{PartSort::vertex, *number}) : std::nullopt;
}

// How what lies within its items is named.
std::string named_within(const Value& value) {
    if (std::holds_alternative<Mesh>(value)) return ", its faces as ‘face 0’, its vertices as ‘vertex 0’";
    if (count_of(value, PartSort::vertex) == 0) return {};
    const auto* surfaces = std::get_if<SurfaceSet>(&value);
    return std::string(", its points as ‘") + (surfaces && surfaces->patches.size() > 1 ? "0,0,0’" : "0,0’");
}

// "face 12", "vertex 7", "12".
std::optional<PartRef> numbered(const Value& value, std::string_view name) {
    PartSort sort = PartSort::item;
    for (const auto& [word, meant] : {std::pair("face ", PartSort::face), {"vertex ", PartSort::vertex}})
        if (name.starts_with(word)) {
            sort = meant;
            name.remove_prefix(std::string_view(word).size());
        }
    const std::vector<std::size_t> numbers = numbers_in(name);
    if (numbers.size() != 1 || !has_part(value, {sort, numbers.front()})) return {};
    return PartRef{sort, numbers.front()};
}

}  // namespace

Result<PartRef> part_named(const Value& value, const std::string& result, std::string_view name) {
    const Items items = items_of(value);
    if (items.total() == 0)
        return Error{ErrorCode::wrong_kind, result, "has no parts that could be asked about",
                     "Name a result with points, members, parts, surfaces, curves, bodies or attractors."};
    for (std::size_t number = 0; number < items.total(); ++number) {
        const auto& [sort, of_sort] = pointed_at(items, number);
        const PartRef part{PartSort::item, number};
        if (sort.name(of_sort) == name || mark_of(value, part) == name) return part;
    }
    if (const auto part = numbered(value, name)) return *part;
    if (const auto part = node_named(value, name)) return *part;
    return Error{ErrorCode::unknown_name, "‘" + std::string(name) + "’", "is no part of " + result,
                 "Its " + items.are + " are named as ‘" + items.name(0) + "’" + named_within(value) + "."};
}

}  // namespace plume
