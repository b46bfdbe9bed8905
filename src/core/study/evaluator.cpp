#include "core/study/evaluator.hpp"

#include <unistd.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/not_finite.hpp"
#include "core/study/formula_reading.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slot_form.hpp"

namespace plume {
namespace {

using Clock = std::chrono::steady_clock;

double seconds_since(Clock::time_point start) {
    return std::chrono::duration<double>(Clock::now() - start).count();
}

// The scope with one more name.
Scope scope_with(const Scope& scope, const std::string& name, const Quantity& value) {
    Scope wider = scope;
    wider.known_names.push_back(name);
    wider.find = [outer = scope.find, name, value](std::string_view wanted) -> std::optional<Quantity> {
        if (wanted == name) return value;
        return outer(wanted);
    };
    return wider;
}

std::string words_text(const std::vector<Word>& words) {
    std::string text;
    for (std::size_t at = 0; at < words.size(); ++at)
        text += (at == 0 ? "" : at + 1 == words.size() ? " or " : ", ") + words[at].key;
    return text;
}

std::string accepted_text(const std::vector<Kind>& kinds) {
    std::string text;
    for (const Kind kind : kinds)
        text += (text.empty() ? "" : " or ") + with_article(kind);
    return text;
}

Result<std::vector<ResolvedPlace>> resolve_places(const SlotSpec& slot, const Places& places,
                                                  const Scope& scope) {
    std::vector<ResolvedPlace> resolved;
    for (const Place& place : places) {
        const auto read = [&](const char* what, const std::string& text,
                              Dimension dimension) -> Result<double> {
            SlotSpec part = slot;
            part.label = std::string(what) + " of ‘" + place.name + "’";
            part.type = dimension == a_length ? SlotType::length : SlotType::number;
            return resolve_number(part, text, scope);
        };
        const auto x = read("x", place.x, a_length), y = read("y", place.y, a_length),
                   z = read("z", place.z, a_length);
        const auto weight = read("weight", place.weight, plain_number);
        for (const auto* number : {&x, &y, &z, &weight})
            if (!number->ok()) return number->error();
        resolved.push_back({place.name, {*x, *y, *z}, *weight});
    }
    return resolved;
}

void add_to_hash(Hasher& hasher, const Quantity& quantity) {
    hasher.add(quantity.value)
        .add(static_cast<std::uint64_t>(quantity.dimension.length))
        .add(static_cast<std::uint64_t>(quantity.dimension.angle));
}

void add_to_hash(Hasher& hasher, const Units& units) {
    hasher.add(static_cast<std::uint64_t>(units.length)).add(static_cast<std::uint64_t>(units.angle));
}

// Text, muted lines, and the controls it names with what they hold.
void add_to_hash(Hasher& hasher, const ResolvedFormula& formula) {
    hasher.add(formula.text);
    for (const std::string& line : formula.muted)
        hasher.add(line);
    for (const std::string& name : names_used(formula.text))
        if (const auto value = formula.scope.find(name)) {
            hasher.add(name);
            add_to_hash(hasher, *value);
        }
}

void add_to_hash(Hasher& hasher, const Resolved& value, const Hash& input_key) {
    if (const auto* number = std::get_if<double>(&value))
        hasher.add(*number);
    else if (const auto* word = std::get_if<std::string>(&value))
        hasher.add(*word);
    else if (std::holds_alternative<ValuePointer>(value))
        hasher.add(input_key);
    else if (const auto* quantity = std::get_if<Quantity>(&value))
        add_to_hash(hasher, *quantity);
    else if (const auto* formula = std::get_if<ResolvedFormula>(&value))
        add_to_hash(hasher, *formula);
    else if (const auto* file = std::get_if<ResolvedFile>(&value))
        hasher.add(file->name).add(file->stamp);
    else
        for (const ResolvedPlace& place : std::get<std::vector<ResolvedPlace>>(value))
            hasher.add(place.name)
                .add(place.position.x)
                .add(place.position.y)
                .add(place.position.z)
                .add(place.weight);
}

// What an error is about that says nothing of its own: the first thing the step reads.
std::string usual_place(const StepKind& kind) {
    const auto read = std::ranges::find(kind.slots, SlotType::reference, &SlotSpec::type);
    if (read != kind.slots.end()) return read->label;
    return kind.slots.empty() ? "This step" : kind.slots.front().label;
}

// How a step is made to need less.
std::string less_text(const StepKind& kind) {
    const auto has = [&](SlotType type) {
        return std::ranges::find(kind.slots, type, &SlotSpec::type) != kind.slots.end();
    };
    if (has(SlotType::count))
        return has(SlotType::reference) ? "Lower its counts or what it reads" : "Lower its counts";
    return has(SlotType::reference) ? "Let it read less" : "Let its numbers ask for less";
}

std::string need_text(double bytes) {
    if (!(bytes < 1e18)) return "would need more memory than any machine has";
    return "would need about " + bytes_text(bytes) + " of memory";
}

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
    const auto place = kind.formula_place(inputs);
    if (!place) return false;
    const ResolvedFormula& formula = inputs.formula("formula");
    ResolvedFormula otherwise = formula;
    otherwise.scope.plain.reset();
    const auto now = check_at(formula, *place), then = check_at(otherwise, *place);
    if (!now || !then || !same_graphs(now->graph, then->graph)) return true;
    return std::ranges::any_of(place->results, [&](const FormulaResult& result) {
        const Term* term = result.name.empty() ? &now->terms.back() : now->find(result.name);
        return result.quantity && term && term->dimension == plain_number;
    });
}

bool leans_on_plain_numbers(const StepKind& kind, const Inputs& inputs) {
    if (inputs.has("formula")) return formula_leans(kind, inputs);
    if (!kind.counts_plain_numbers) return reads_plain_numbers(kind);
    return std::ranges::any_of(inputs.all(), [](const auto& slot) {
        const auto* value = std::get_if<ValuePointer>(&slot.second);
        const auto* field = value ? std::get_if<FieldOnPoints>(value->get()) : nullptr;
        const auto* number = std::get_if<Quantity>(&slot.second);
        return (field && field->field().dimension != a_length) ||
               (number && number->dimension == plain_number && number->value != 0);
    });
}

// The name that the step's result bears; empty when it bears none.
std::string borne_name(const StepKind& kind, const Step& step) {
    return kind.bears_name ? step.name : std::string();
}

// One evaluation of one study.
class Evaluating {
public:
    Evaluating(const StudyPointer& study, const EvaluationPlan& plan, const Run& run)
        : study_(*study),
          plan_(plan),
          run_(run),
          scope_(scope_of(*study)),
          files_(plan.files ? plan.files : std::make_shared<FileStore>()) {
        result_.study = study;
    }

    // Stands before `step` of an evaluation that is over.
    Evaluating(const Evaluation& over, const EvaluationPlan& plan, const Run& run, const Step& step)
        : Evaluating(over.study, plan, run) {
        result_.outcomes = over.outcomes;
        for (const Item& item : study_.items) {
            const Step* above = step_of(item);
            if (above && above->id == step.id) break;
            if (above) stands_above(*above);
        }
    }

    Result<Inputs> inputs(const StepKind& kind, const Step& step) {
        std::map<std::string, Resolved> slots;
        for (const SlotSpec* slot : active_slots(kind, step)) {
            Hash input_key;
            Result<Resolved> resolved = resolve(*slot, step, input_key);
            if (!resolved) return resolved.error();
            slots.emplace(slot->key, *std::move(resolved));
        }
        return inputs_from(std::move(slots), kind, step);
    }

    Evaluation all() {
        const Clock::time_point start = Clock::now();
        std::size_t index = 0;
        double looking = 0;  // by whoever is told of single steps
        const auto count = static_cast<std::size_t>(std::ranges::count_if(study_.items, step_of));
        for (const Item& item : study_.items) {
            const Step* step = step_of(item);
            if (!step) continue;
            run_.report(0);
            if (plan_.before_step) plan_.before_step(*step, index, count);
            ++index;
            Outcome& outcome = result_.outcomes[step->id];
            if (!run_.cancelled()) outcome = without_throwing(*step);
            if (outcome.state == StepState::cancelled) result_.cancelled = true;
            stands_above(*step);
            if (!plan_.after_step || result_.cancelled || index == count) continue;
            const Clock::time_point looked = Clock::now();
            plan_.after_step(result_);
            looking += seconds_since(looked);
        }
        result_.complete = true;
        result_.seconds = seconds_since(start) - looking;
        return std::move(result_);
    }

private:
    // What a step may need without being asked about, however much is held.
    static constexpr double negligible_bytes = 1e7;

    // A second step of the same name does not replace the first. Numbers can be read by expressions below.
    void stands_above(const Step& step) {
        if (!above_.emplace(step.name, step.id).second) return;
        const Outcome& outcome = result_.outcomes.at(step.id);
        if (outcome.value) held_bytes_ += static_cast<double>(bytes_of(*outcome.value, held_));
        if (const auto number = outcome.value ? number_of(*outcome.value) : std::nullopt)
            scope_ = scope_with(scope_, step.name, *number);
    }

    const Units& text_units_of(const Step& step) const {
        return step.text_units ? *step.text_units : study_.units;
    }
    Inputs inputs_from(std::map<std::string, Resolved> slots, const StepKind& kind, const Step& step) const {
        return Inputs(std::move(slots), borne_name(kind, step), study_.units, text_units_of(step));
    }

    static Outcome failed(StepState state, Error error) {
        Outcome outcome;
        outcome.state = error.code == ErrorCode::cancelled ? StepState::cancelled : state;
        outcome.error = std::move(error);
        return outcome;
    }

    Outcome without_throwing(const Step& step) {
        Result<Outcome> made = guarded([&]() -> Result<Outcome> { return one(step); });
        Outcome outcome = made ? *std::move(made) : failed(StepState::failed, made.error());
        if (outcome.state == StepState::failed || outcome.state == StepState::asks) outcome.cause = step.id;
        if (outcome.state == StepState::blocked) outcome.cause = cause_of(step);
        if (const StepKind* kind = plan_.catalogue->find(step.kind))
            for (std::string& remark : unknown_parts(*kind, step))
                outcome.remarks.push_back({std::move(remark), true});
        return outcome;
    }

    // The step whose error keeps this one from its input; 0 when none has.
    ItemId cause_of(const Step& step) const {
        for (const std::string& name : results_read(study_, step)) {
            const auto read = above_.find(name);
            if (read == above_.end()) continue;
            if (const ItemId cause = result_.outcomes.at(read->second).cause; cause != 0) return cause;
        }
        return 0;
    }

    Outcome one(const Step& step) {
        if (above_.contains(step.name) || study_.control(step.name))
            return failed(StepState::failed, {ErrorCode::name_clash, "‘" + step.name + "’",
                                              "already names something above", "Rename this result."});
        const StepKind* kind = plan_.catalogue->find(step.kind);
        if (!kind)
            return failed(StepState::failed,
                          {ErrorCode::unknown_step_kind, "This step",
                           "is a ‘" + shortened(step.kind) + "’, which this program does not know",
                           "It is kept as it is; a newer version may read it."});
        if (const Status named = check_result_name(step.name); !named) {
            Error error = named.error();
            error.mend = "Rename this result.";
            return failed(StepState::failed, std::move(error));
        }
        if (auto wrong = slot_error(*kind, step)) return failed(StepState::failed, *std::move(wrong));
        if (step.muted) return pass_on(*kind, step);

        std::map<std::string, Resolved> slots;
        Hasher hasher;
        hasher.add(kind->key)
            .add(borne_name(*kind, step))
            .add(static_cast<std::uint64_t>(study_.units.length));
        if (reads_plain_numbers(*kind)) add_to_hash(hasher, text_units_of(step));
        for (const SlotSpec* slot : active_slots(*kind, step)) {
            Hash input_key;
            Result<Resolved> resolved = resolve(*slot, step, input_key);
            if (!resolved) {
                const ErrorCode code = resolved.error().code;
                const bool upstream = code == ErrorCode::input_failed || code == ErrorCode::input_muted;
                return failed(upstream ? StepState::blocked : StepState::failed, resolved.error());
            }
            hasher.add(slot->key);
            add_to_hash(hasher, *resolved, input_key);
            slots.emplace(slot->key, *std::move(resolved));
        }
        const Inputs inputs = inputs_from(std::move(slots), *kind, step);
        Outcome outcome = made(*kind, inputs, hasher.finish());
        if (outcome.value && step.text_units && leans_on_plain_numbers(*kind, inputs))
            outcome.remarks.push_back({"Plain numbers here count " + unit_names(*step.text_units) +
                                       ", the units they were written in."});
        return outcome;
    }

    Outcome made(const StepKind& kind, const Inputs& inputs, const Hash& key) {
        Outcome outcome;
        outcome.key = key;
        if (plan_.cache) {
            Made kept = plan_.cache->find(key);
            outcome.value = std::move(kept.value);
            outcome.remarks = std::move(kept.remarks);
        }
        if (outcome.value) {
            outcome.state = StepState::done;
            outcome.from_cache = true;
            return outcome;
        }
        const Estimate estimate = kind.estimate ? kind.estimate(inputs) : Estimate{};
        if (auto refused = over_budget(kind, estimate, key)) {
            Outcome asking = failed(
                refused->code == ErrorCode::over_budget ? StepState::asks : StepState::failed, *refused);
            asking.key = key;
            return asking;
        }
        const Clock::time_point start = Clock::now();
        run_.take_remarks();
        Result<Value> value = kind.make(inputs, run_);
        if (!value) return failed(StepState::failed, at_place(value.error(), usual_place(kind)));
        outcome.value = std::make_shared<const Value>(*std::move(value));
        outcome.seconds = seconds_since(start);
        outcome.state = StepState::done;
        outcome.remarks = run_.take_remarks();
        for (std::string& sentence : not_finite_sentences(*outcome.value, seen_columns_))
            outcome.remarks.push_back({std::move(sentence), true});
        if (plan_.cache) plan_.cache->put(key, {outcome.value, outcome.remarks});
        return outcome;
    }

    std::optional<Error> over_budget(const StepKind& kind, const Estimate& estimate, const Hash& key) const {
        const std::string place = "This step", less = less_text(kind), need = need_text(estimate.bytes);
        const std::string machine = "the " + bytes_text(plan_.budget.machine_bytes) + " this machine has";
        const std::string held = ", and the results above it hold " + bytes_text(held_bytes_) + " already";
        if (estimate.bytes > plan_.budget.machine_bytes)
            return Error{ErrorCode::out_of_memory, place,
                         estimate.bytes < 1e18 ? need + ", more than " + machine : need, less + "."};
        const double together = estimate.bytes + held_bytes_;
        if (together > plan_.budget.machine_bytes)
            return Error{ErrorCode::out_of_memory, place, need + held + ": more than " + machine,
                         less + ", or mute steps that are not needed."};
        const bool small = estimate.bytes <= plan_.budget.bytes && estimate.seconds <= plan_.budget.seconds;
        const bool all_small = together <= plan_.budget.together_bytes || estimate.bytes < negligible_bytes;
        if ((small && all_small) || plan_.budget.permitted.contains(key)) return {};
        const std::string seconds = short_text(std::max(1.0, std::round(estimate.seconds)), 2);
        return Error{ErrorCode::over_budget, place,
                     small ? need + held : need + " and about " + seconds + " s", less + ", or allow it."};
    }

    // A muted step stands for the first thing it reads that is of a kind it could have made.
    Outcome pass_on(const StepKind& kind, const Step& step) {
        Outcome outcome;
        outcome.state = StepState::muted;
        for (const SlotSpec* slot : active_slots(kind, step)) {
            if (slot->type != SlotType::reference) continue;
            const auto above = above_.find(std::get<ResultName>(slot_value(*slot, step)).name);
            if (above == above_.end()) continue;
            const Outcome& input = result_.outcomes.at(above->second);
            if (!input.value || std::ranges::find(kind.results, kind_of(*input.value)) == kind.results.end())
                continue;
            outcome.value = input.value;
            outcome.key = input.key;
            return outcome;
        }
        return outcome;
    }

    Result<Resolved> resolve(const SlotSpec& slot, const Step& step, Hash& input_key) {
        const Result<SlotValue> read = read_slot(slot, step);
        if (!read) return read.error();
        const SlotValue& value = *read;
        if (auto missing = missing_number(value)) return *std::move(missing);
        if (const auto* lines = std::get_if<Lines>(&value)) return Resolved(lines->text);
        if (const auto* file = std::get_if<FileName>(&value)) {
            const Result<Hash> stamp = files_->stamp(file->path);
            if (!stamp) return at_place(stamp.error(), slot.label);
            return Resolved(ResolvedFile{file->path, *stamp, files_});
        }
        if (const auto* formula = std::get_if<FormulaText>(&value)) {
            ResolvedFormula resolved{formula->text, formula->muted, scope_};
            resolved.scope.plain = step.text_units;
            return Resolved(std::move(resolved));
        }
        if (slot.type == SlotType::quantity) {
            const Result<Quantity> quantity = evaluate(std::get<NumberText>(value).text, scope_);
            if (!quantity) return at_place(quantity.error(), slot.label);
            return Resolved(*quantity);
        }
        if (slot.type == SlotType::name) {
            const std::string& name = std::get<WordKey>(value).key;
            if (Status named = check_name(name); !named) {
                Error error = named.error();
                error.message = "cannot be " + error.place + ": it " + error.message;
                error.place = slot.label;
                return error;
            }
            return Resolved(name);
        }
        if (const auto* number = std::get_if<NumberText>(&value)) {
            const Result<double> resolved = resolve_number(slot, number->text, scope_);
            if (!resolved) return resolved.error();
            return Resolved(*resolved);
        }
        if (const auto* word = std::get_if<WordKey>(&value)) {
            // Of a drawn response the step reads the knots.
            const std::string key =
                slot.type == SlotType::response ? word->key.substr(0, word->key.find(' ')) : word->key;
            if (std::ranges::find(slot.words, key, &Word::key) == slot.words.end())
                return Error{ErrorCode::bad_number, slot.label, "cannot be ‘" + shortened(word->key) + "’",
                             "Choose " + words_text(slot.words) + "."};
            return Resolved(word->key);
        }
        if (const auto* places = std::get_if<Places>(&value)) {
            const auto resolved = resolve_places(slot, *places, scope_);
            if (!resolved) return resolved.error();
            return Resolved(*resolved);
        }
        return resolve_reference(slot, std::get<ResultName>(value).name, input_key);
    }

    // Why a number of the study that an expression reads is not there; nothing when all are.
    std::optional<Error> missing_number(const SlotValue& value) const {
        Step reader;
        reader.slots["expression"] = value;
        for (const std::string& name : names_in_expressions(reader)) {
            const Step* read = study_.step(name);
            if (!read || !gives_number(*read) || scope_.find(name)) continue;
            const std::string quoted = "‘" + name + "’";
            if (!above_.contains(name))
                return Error{ErrorCode::reads_below, quoted, "does not stand above this step",
                             "A step reads only what stands above it: move one of the two."};
            return Error{ErrorCode::input_failed, quoted, "has no result to read", "Mend that step first."};
        }
        return {};
    }

    Result<Resolved> resolve_reference(const SlotSpec& slot, const std::string& name, Hash& input_key) {
        const std::string mend = "Choose " + accepted_text(slot.accepts) + " from a step above.";
        if (name.empty()) return Error{ErrorCode::missing_input, slot.label, "is not chosen yet", mend};
        const auto above = above_.find(name);
        const std::string quoted = "‘" + name + "’";
        if (above == above_.end()) {
            if (study_.step(name))
                return Error{ErrorCode::reads_below, quoted, "does not stand above this step",
                             "A step reads only what stands above it: move one of the two."};
            return Error{ErrorCode::missing_input, quoted, "is not the result of any step", mend};
        }
        const Outcome& input = result_.outcomes.at(above->second);
        if (!input.value) {
            if (input.state == StepState::cancelled) return cancelled_error();
            if (const Step* cause = study_.step(input.cause); cause && cause->name != name)
                return Error{ErrorCode::input_failed, "‘" + cause->name + "’",
                             "has an error, and ‘" + name + "’ waits for it", "Mend that step first."};
            if (input.state == StepState::muted)
                return Error{ErrorCode::input_muted, quoted, "is muted, so there is nothing to read",
                             "Unmute it, or read something else."};
            return Error{ErrorCode::input_failed, quoted, "has no result to read", "Mend that step first."};
        }
        if (std::ranges::find(slot.accepts, kind_of(*input.value)) == slot.accepts.end())
            return Error{ErrorCode::wrong_kind, quoted, "holds " + with_article(kind_of(*input.value)), mend};
        input_key = input.key;
        return Resolved(input.value);
    }

    const Study& study_;
    const EvaluationPlan& plan_;
    const Run& run_;
    Scope scope_;
    std::shared_ptr<FileStore> files_;
    std::map<std::string, ItemId> above_;
    SeenColumns held_;  // columns counted in what the results hold
    double held_bytes_ = 0;
    SeenColumns seen_columns_;  // looked through for numbers that are not finite
    Evaluation result_;
};

}  // namespace

std::string_view key_of(StepState state) {
    static constexpr std::array<std::string_view, 6> keys{"done",  "failed", "blocked",
                                                          "muted", "asks",   "cancelled"};
    return keys[static_cast<std::size_t>(state)];
}

const Outcome* Evaluation::outcome(ItemId id) const {
    const auto found = outcomes.find(id);
    return found == outcomes.end() ? nullptr : &found->second;
}

const Outcome* Evaluation::outcome(std::string_view result_name) const {
    const Step* step = study ? study->step(result_name) : nullptr;
    return step ? outcome(step->id) : nullptr;
}

std::size_t Evaluation::problem_count() const {
    return static_cast<std::size_t>(std::ranges::count_if(outcomes, [](const auto& entry) {
        const Outcome& outcome = entry.second;
        const bool reads_muted = outcome.error && outcome.error->code == ErrorCode::input_muted;
        return outcome.state == StepState::failed || outcome.state == StepState::asks || reads_muted;
    }));
}

double Budget::physical_memory() {
    return static_cast<double>(sysconf(_SC_PHYS_PAGES)) * static_cast<double>(sysconf(_SC_PAGE_SIZE));
}

Evaluation evaluate(const StudyPointer& study, const EvaluationPlan& plan, const Run& run) {
    assert(plan.catalogue);
    return Evaluating(study, plan, run).all();
}

Result<Inputs> inputs_of(const Evaluation& evaluation, const EvaluationPlan& plan, const Step& step) {
    const StepKind* kind = plan.catalogue->find(step.kind);
    if (!kind) return Error{ErrorCode::unknown_step_kind, "", "This step is not known", ""};
    const Run run;
    return Evaluating(evaluation, plan, run, step).inputs(*kind, step);
}

Scope scope_of(const Study& study) {
    Scope scope;
    scope.units = study.units;
    // Shared: a scope is handed on to every step with a formula.
    auto values = std::make_shared<std::map<std::string, Quantity, std::less<>>>();
    for (const ControlPointer& control : study.controls) {
        Scope bare{study.units, {}, {}};
        const auto value = evaluate(exact_text(control->value) + ' ' + control->unit, bare);
        // A control that holds no finite number is left to fail where it is read, with its name.
        values->emplace(control->name, value ? *value : Quantity{control->value, plain_number});
        scope.known_names.push_back(control->name);
    }
    scope.find = [values](std::string_view name) -> std::optional<Quantity> {
        const auto found = values->find(name);
        if (found == values->end()) return {};
        return found->second;
    };
    return scope;
}

Result<double> resolve_number(const SlotSpec& slot, std::string_view text, const Scope& scope) {
    const Result<double> value = evaluate_as(slot.dimension(), text, scope);
    if (!value) return at_place(value.error(), slot.label);
    const auto shown = [&](double number) {
        return quantity_text({number, slot.dimension()}, scope.units, slot.type == SlotType::seed ? 17 : 8);
    };
    if ((slot.type == SlotType::count || slot.type == SlotType::seed) && *value != std::floor(*value))
        return Error{ErrorCode::bad_number, slot.label, "has to be a whole number, and is " + shown(*value),
                     "Round it, or wrap the expression in round( )."};
    const bool low = *value < slot.least || (slot.above_least && *value <= slot.least);
    if (low || *value > slot.most)
        return Error{ErrorCode::out_of_range, slot.label,
                     std::string("has to be ") +
                         (low ? (slot.above_least ? "above " : "at least ") : "at most ") +
                         shown(low ? slot.least : slot.most) + ", and is " + shown(*value),
                     low ? "Type a larger number." : "Type a smaller number."};
    return *value;
}

}  // namespace plume
