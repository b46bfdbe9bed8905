#include "core/evaluation/evaluator.hpp"

#include <algorithm>
#include <chrono>
#include <deque>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/not_finite.hpp"
#include "core/evaluation/above.hpp"
#include "core/evaluation/evaluating_moments.hpp"
#include "core/evaluation/plain_numbers.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/step_group.hpp"

namespace plume {
namespace {

using Clock = std::chrono::steady_clock;
// For moments on the way, where nothing else keeps them.
constexpr std::size_t moments_bytes = 500'000'000;
constexpr double longest_after_a_change_s = 1.0 / 60;

double seconds_since(Clock::time_point start) {
    return std::chrono::duration<double>(Clock::now() - start).count();
}

// An error that says nothing of its own is about the first thing the step reads.
Error about_step(Error error, const StepKind& kind) {
    // Work that was stopped says nothing of what it was made from.
    if (error.code == ErrorCode::cancelled) return cancelled_error();
    if (error.slot.empty() && error.where.empty()) {
        const SlotSpec* read = kind.first_reference();
        if (!kind.slots.empty())
            error.slot = (read ? *read : kind.slots.front()).key;
        else
            error.where = "This step";
    }
    return labelled(std::move(error), kind);
}

// A result from outside, as one of a step above.
Outcome outcome_of(const ReadResult& read) {
    Outcome outcome;
    outcome.state = StepState::done;
    outcome.value = read.value;
    outcome.key = read.key;
    return outcome;
}

// Of a step within a step: about the open slot where it is about one, else about the steps inside.
Error error_within(Error error, const StepGroup& group, const std::string& step) {
    for (const OpenSlot& open : group.open)
        if (open.of == step && open.slot == error.slot) {
            error.slot = open.key;
            error.where.clear();
            return error;
        }
    error.where = "‘" + step + "’ inside" + (error.where.empty() ? "" : ": " + error.where);
    error.slot = group_slot_key;
    error.begin = error.end = 0;
    return error;
}

// What came of steps that stand as one: the result that they are for, or why there is none.
Outcome outcome_of_group(const Evaluation& made, const Unfolded& unfolded, const StepKind& kind) {
    Outcome outcome;
    if (const Outcome* result = made.outcome(unfolded.result)) outcome = *result;
    outcome.remarks.clear();
    outcome.seconds = made.seconds;
    outcome.cause = 0;
    for (const Item& item : made.study->items) {
        const Step* step = step_of(item);
        const Outcome* one = step ? made.outcome(step->id) : nullptr;
        if (!one) continue;
        for (const Remark& remark : one->remarks)
            outcome.remarks.push_back({"‘" + step->name + "’ inside: " + remark.text, remark.loss});
        if (outcome.value || !one->error || one->state == StepState::blocked) continue;
        outcome.state = one->state;
        outcome.key = one->key;
        outcome.error = labelled(error_within(*one->error, *unfolded.group, step->name), kind);
        return outcome;
    }
    return outcome;
}

// Of a step that keeps a moment, whose input has no result then.
Error nothing_then(const std::string& name, double seconds, const Outcome& outcome) {
    const std::string where = "‘" + name + "’ at " + short_text(seconds) + " s";
    if (!outcome.error)
        return {ErrorCode::input_failed, where, "has no result to keep", "Keep another moment."};
    Error error = *outcome.error;
    error.where = where;
    error.message = "has no result: " + sentence(*outcome.error);
    error.mend = "Mend what it is made from, or keep another moment.";
    error.slot.clear();
    error.begin = error.end = 0;
    return error;
}

Error from_outside(const std::string& name) {
    return {ErrorCode::missing_input, "‘" + name + "’",
            "comes from outside of these steps, and is known here only as it is now",
            "Keep its moment before it goes into them."};
}

using Making = std::function<Result<Value>(const Run&)>;

// Whether it goes on from how it was, or why not.
void tell_of(const std::shared_ptr<const GoingOn>& going_on, double rate, Outcome& outcome) {
    outcome.going_on = going_on;
    outcome.hangs_on_changes = going_on->value != nullptr;
    const double seconds = static_cast<double>(going_on->frame) / rate;
    if (going_on->value)
        outcome.remarks.push_back(
            {"Since " + short_text(seconds, 3) +
             " s it goes on from how it was before a change. Kept or written, it begins "
             "at its beginning; what was recorded moves there again."});
    else if (!going_on->began_again.empty())
        outcome.remarks.push_back({going_on->began_again + " So it began again."});
}

// One evaluation of one study.
class Evaluating {
public:
    Evaluating(const StudyPointer& study, const EvaluationPlan& plan, const Run& run,
               const Moments* moments = nullptr)
        : study_(*study),
          plan_(plan),
          run_(run),
          moments_(moments),
          above_(study_, plan.moment->seconds(), plan.files ? plan.files : std::make_shared<FileStore>()) {
        result_.study = study;
        result_.moment = *plan.moment;
        if (!plan.given) return;
        for (const auto& [name, read] : *plan.given)
            above_.add(name, given_.emplace_back(outcome_of(read)));
        given_bytes_ = above_.held_bytes();
    }

    Evaluation all() {
        const Clock::time_point start = Clock::now();
        std::size_t index = 0;
        double looking = 0;  // by whoever is told of single steps
        const auto count =
            static_cast<std::size_t>(std::ranges::count_if(study_.items, [&](const Item& item) {
                return step_of(item) && !plan_.later.contains(id_of(item));
            }));
        for (const Item& item : study_.items) {
            const Step* step = step_of(item);
            if (!step || plan_.later.contains(step->id)) continue;
            run_.report(0);
            if (plan_.before_step) plan_.before_step(*step, index, count);
            ++index;
            Outcome& outcome = result_.outcomes[step->id];
            if (!run_.cancelled()) outcome = without_throwing(*step);
            if (outcome.state == StepState::cancelled) result_.cancelled = true;
            outcome.hangs_on_changes = outcome.hangs_on_changes || reads_what_hangs_on_changes(*step);
            above_.add(step->name, outcome);
            // What is only looked for is not told of.
            const bool in_vain = missed_ || !begin_again_.empty();
            if (!plan_.after_step || result_.cancelled || index == count || in_vain) continue;
            const Clock::time_point looked = Clock::now();
            plan_.after_step(result_);
            looking += seconds_since(looked);
        }
        result_.complete = result_.all_seen = true;
        result_.seconds = seconds_since(start) - looking;
        return std::move(result_);
    }

    // Whether a moment was looked for that is not kept.
    bool missed() const { return missed_; }
    // Steps that cannot go on after a change, and why.
    const std::map<ItemId, std::string>& begin_again() const { return begin_again_; }

private:
    bool reads_what_hangs_on_changes(const Step& step) const {
        const StepKind* kind = plan_.catalogue->find(step);
        return !(kind && !kind->read_at.empty()) &&
               std::ranges::any_of(results_read(study_, step), [&](const std::string& name) {
                   const Outcome* read = above_.find(name);
                   return read && read->hangs_on_changes;
               });
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
        if (const StepKind* kind = plan_.catalogue->find(step))
            for (std::string& remark : unknown_parts(*kind, step))
                outcome.remarks.push_back({std::move(remark), true});
        return outcome;
    }

    // The step whose error keeps this one from its input; 0 when none has.
    ItemId cause_of(const Step& step) const {
        for (const std::string& name : results_read(study_, step)) {
            const Outcome* read = above_.find(name);
            if (read && read->cause != 0) return read->cause;
        }
        return 0;
    }

    Outcome one(const Step& step) {
        if (above_.find(step.name) || study_.control(step.name))
            return failed(StepState::failed, {ErrorCode::name_clash, "‘" + step.name + "’",
                                              "already names something above", "Rename this result."});
        const StepKind* kind = plan_.catalogue->find(step);
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
        if (!kind->read_at.empty()) return kept_moment(*kind, step);

        Hash key;
        Result<Inputs> resolved = inputs_of(*kind, step, key);
        if (!resolved) {
            const ErrorCode code = resolved.error().code;
            const bool upstream = code == ErrorCode::input_failed || code == ErrorCode::input_muted;
            return failed(upstream ? StepState::blocked : StepState::failed, resolved.error());
        }
        const auto inputs = std::make_shared<const Inputs>(*std::move(resolved));
        Outcome outcome =
            kind->unfold ? within(*kind, *inputs)
            : kind->advance && moments_
                ? at_moment(*kind, *inputs, key, step)
                : made(*kind, *inputs, key, [&](const Run& run) { return kind->make(*inputs, run); });
        outcome.inputs = inputs;
        if (outcome.value && step.text_units && leans_on_plain_numbers(*kind, *inputs))
            outcome.remarks.push_back({"Plain numbers here count " + unit_names(*step.text_units) +
                                       ", the units they were written in."});
        return outcome;
    }

    // What is read, as it is at a moment of its own. That it has no result now does not matter.
    Outcome kept_moment(const StepKind& kind, const Step& step) {
        const SlotSpec& thing = *kind.first_reference();
        const Result<Resolved> now = above_.resolve(thing, step),
                               seconds = above_.resolve(*kind.slot(kind.read_at), step);
        const auto only_now = [](const Error& error) {
            return error.code == ErrorCode::input_failed || error.code == ErrorCode::input_muted;
        };
        if (!seconds) return failed(StepState::failed, seconds.error());
        if (!now && !only_now(now.error())) return failed(StepState::failed, now.error());
        EvaluationPlan plan = same_plan();
        plan.moment = moment_at({0, plan_.moment->rate}, std::get<double>(*seconds));
        const std::string name = std::get<ResultName>(slot_value(thing, step)).name;
        const Outcome* seen = above_.find(name);
        if (*plan.moment == *plan_.moment && !(seen && seen->hangs_on_changes)) {
            if (!now) return failed(StepState::blocked, now.error());
            return kept(outcome_of(std::get<ReadResult>(*now)), thing, kind.read_at, *seconds);
        }
        const Step* read = study_.step(name);
        if (!read) return failed(StepState::failed, about_slot(from_outside(name), thing));
        plan.given = plan_.given;
        auto then = std::make_shared<Study>(study_);
        const std::set<ItemId> needed = made_from(study_, {read->id});
        std::erase_if(then->items, [&](const Item& item) { return !needed.contains(id_of(item)); });
        const Evaluation made = evaluate(then, plan, run_);
        const Outcome& outcome = *made.outcome(read->id);
        if (outcome.value) return kept(outcome, thing, kind.read_at, *seconds);
        if (outcome.state == StepState::cancelled) return failed(StepState::cancelled, cancelled_error());
        // The reason may be far above; where that one asks, this one does.
        const Outcome& reason = outcome.cause != 0 ? *made.outcome(outcome.cause) : outcome;
        Outcome none = failed(reason.state == StepState::asks ? StepState::asks : StepState::failed,
                              about_slot(nothing_then(name, plan.moment->seconds(), reason), thing));
        none.key = reason.key;
        return none;
    }

    Outcome kept(const Outcome& read, const SlotSpec& thing, const std::string& read_at,
                 const Resolved& seconds) const {
        Outcome outcome = outcome_of(ReadResult{read.value, read.key});
        outcome.remarks = read.remarks;
        outcome.from_cache = true;
        outcome.inputs = std::make_shared<const Inputs>(
            std::map<std::string, Resolved>{{thing.key, ReadResult{read.value, read.key}},
                                            {read_at, seconds}},
            "", study_.units, study_.units);
        return outcome;
    }

    // For what is made within this evaluation.
    EvaluationPlan same_plan() const {
        EvaluationPlan plan;
        plan.catalogue = plan_.catalogue;
        plan.store = plan_.store;
        plan.budget = plan_.budget;
        plan.moment = plan_.moment;
        plan.files = plan_.files;
        plan.held_bytes = held_bytes();
        return plan;
    }

    // By all results, those outside too, which are given to what is within once more.
    double held_bytes() const { return plan_.held_bytes + above_.held_bytes() - given_bytes_; }

    // Steps that stand as one are made here, and kept one by one.
    Outcome within(const StepKind& kind, const Inputs& inputs) {
        const Result<Unfolded> unfolded = kind.unfold(inputs);
        if (!unfolded) return failed(StepState::failed, about_step(unfolded.error(), kind));
        EvaluationPlan plan = same_plan();
        plan.given = &unfolded->given;
        return outcome_of_group(evaluate(unfolded->study, plan, run_), *unfolded, kind);
    }

    Outcome at_moment(const StepKind& kind, const Inputs& inputs, const Hash& inputs_key, const Step& step) {
        Outcome outcome = made_at_moment(kind, inputs, inputs_key, step);
        outcome.inputs_key = inputs_key;
        if (const auto going_on = moments_->going_on.find(step.id);
            going_on != moments_->going_on.end() && outcome.value)
            tell_of(going_on->second, plan_.moment->rate, outcome);
        return outcome;
    }

    // A step that goes on from the moment before. Its key is made of that moment's and of its inputs.
    Outcome made_at_moment(const StepKind& kind, const Inputs& inputs, const Hash& inputs_key,
                           const Step& step) {
        const std::size_t frame = plan_.moment->frame - moments_->first(step.id);
        const Hash& chain = moments_->chains.at(step.id);
        MomentChains& chains = plan_.store->moments();
        if (const auto link = chains.find(chain, frame); link && link->inputs == inputs_key)
            if (Made kept = plan_.store->find(link->key); kept.value)
                return from_store(link->key, std::move(kept));
        if (frame == 0 && moments_->from(step.id)) return after_a_change(kind, inputs, inputs_key, step);
        if (frame == 0) {
            chains.set(chain, 0, {inputs_key, inputs_key});
            return made(kind, inputs, inputs_key, [&](const Run& run) { return kind.make(inputs, run); });
        }
        const Outcome* before = moments_->before ? moments_->before->outcome(step.id) : nullptr;
        if (!before || !before->value) {
            missed_ = missed_ || !moments_->before;
            return failed(StepState::blocked, {ErrorCode::input_failed, "The moment before", "has no result",
                                               "Go back to a moment that has one."});
        }
        const Hash key = Hasher().add(before->key).add(inputs_key).add(plan_.moment->rate).finish();
        chains.set(chain, frame, {inputs_key, key});
        return made(kind, inputs, key, [&](const Run& run) {
            return kind.advance(inputs, {*before->value, *before->inputs}, 1 / plan_.moment->rate, run);
        });
    }

    // It goes on a little from how it was at the same moment, so that a change is seen while time stands:
    // less than to another moment, so that it is seen soon.
    Outcome after_a_change(const StepKind& kind, const Inputs& inputs, const Hash& inputs_key,
                           const Step& step) {
        const GoingOn& from = *moments_->from(step.id);
        std::string why = kind.begins_again(*from.inputs, inputs);
        if (!why.empty() || from.inputs_key == inputs_key) {
            begin_again_[step.id] = std::move(why);
            return failed(StepState::blocked, {ErrorCode::input_failed, "This step", "begins again", ""});
        }
        const double seconds = std::min(longest_after_a_change_s, 1 / plan_.moment->rate);
        const Hash key = Hasher().add("after a change").add(from.key).add(inputs_key).add(seconds).finish();
        plan_.store->moments().set(moments_->chains.at(step.id), 0, {inputs_key, key});
        return made(kind, inputs, key, [&](const Run& run) {
            return kind.advance(inputs, {*from.value, *from.inputs}, seconds, run);
        });
    }

    // The slots that count, and the key of what is made from them.
    Result<Inputs> inputs_of(const StepKind& kind, const Step& step, Hash& key) const {
        const std::string name = kind.bears_name ? step.name : "";
        const Units text_units = step.text_units ? *step.text_units : study_.units;
        Hasher hasher;
        hasher.add(kind.key).add(name).add(static_cast<std::uint64_t>(study_.units.length));
        if (reads_plain_numbers(kind)) add_to_hash(hasher, text_units);
        std::map<std::string, Resolved> slots;
        for (const SlotSpec* slot : active_slots(kind, step)) {
            Result<Resolved> resolved = above_.resolve(*slot, step);
            if (!resolved) return resolved.error();
            hasher.add(slot->key);
            rules_of(slot->type).add_to_hash(hasher, *resolved);
            slots.emplace(slot->key, *std::move(resolved));
        }
        key = hasher.finish();
        return Inputs(std::move(slots), name, study_.units, text_units);
    }

    // Kept, waited for while somebody else makes it, or made here.
    Outcome made(const StepKind& kind, const Inputs& inputs, const Hash& key, const Making& make) {
        if (!plan_.store) return made_here(kind, inputs, key, make);
        ResultStore::Claim claim = plan_.store->claim(key, run_);
        if (!claim.made().value) {
            Outcome outcome = made_here(kind, inputs, key, make);
            if (outcome.value) claim.fulfil({outcome.value, outcome.remarks}, outcome.seconds);
            return outcome;
        }
        return from_store(key, claim.made());
    }

    static Outcome from_store(const Hash& key, Made made) {
        Outcome outcome;
        outcome.key = key;
        outcome.value = std::move(made.value);
        outcome.remarks = std::move(made.remarks);
        outcome.state = StepState::done;
        outcome.from_cache = true;
        return outcome;
    }

    Outcome made_here(const StepKind& kind, const Inputs& inputs, const Hash& key, const Making& make) {
        Outcome outcome;
        outcome.key = key;
        const Estimate estimate = kind.estimate ? kind.estimate(inputs) : Estimate{};
        if (auto refused = over_budget(kind, estimate, key, held_bytes(), plan_.budget)) {
            Outcome asking = failed(
                refused->code == ErrorCode::over_budget ? StepState::asks : StepState::failed, *refused);
            asking.key = key;
            return asking;
        }
        const Clock::time_point start = Clock::now();
        run_.take_remarks();
        Result<Value> value = make(run_);
        if (!value) return failed(StepState::failed, about_step(value.error(), kind));
        outcome.value = std::make_shared<const Value>(*std::move(value));
        outcome.seconds = seconds_since(start);
        outcome.state = StepState::done;
        outcome.remarks = run_.take_remarks();
        for (std::string& sentence : not_finite_sentences(*outcome.value, seen_columns_))
            outcome.remarks.push_back({std::move(sentence), true});
        return outcome;
    }

    // A muted step stands for the first thing it reads that is of a kind it could have made.
    Outcome pass_on(const StepKind& kind, const Step& step) {
        Outcome outcome;
        outcome.state = StepState::muted;
        for (const SlotSpec* slot : active_slots(kind, step)) {
            if (slot->type != SlotType::reference) continue;
            const Outcome* input = above_.find(std::get<ResultName>(slot_value(*slot, step)).name);
            if (!input || !input->value ||
                std::ranges::find(kind.results, kind_of(*input->value)) == kind.results.end())
                continue;
            outcome.value = input->value;
            outcome.key = input->key;
            return outcome;
        }
        return outcome;
    }

    const Study& study_;
    const EvaluationPlan& plan_;
    const Run& run_;
    const Moments* moments_;
    bool missed_ = false;
    std::map<ItemId, std::string> begin_again_;
    Above above_;
    SeenColumns seen_columns_;   // looked through for numbers that are not finite
    std::deque<Outcome> given_;  // from outside of the step that this is within
    double given_bytes_ = 0;
    Evaluation result_;
};

Evaluation evaluate_at_moment(const StudyPointer& study, const EvaluationPlan& plan, const Run& run) {
    std::vector<ItemId> advancing = advancing_steps(*study, *plan.catalogue);
    std::erase_if(advancing, [&](ItemId id) { return plan.later.contains(id); });
    if (advancing.empty()) return Evaluating(study, plan, run).all();
    const auto make = [&](const EvaluationPlan& at, const Moments& moments, const Run& part) {
        Evaluating evaluating(study, at, part, &moments);
        Evaluation evaluation = evaluating.all();
        return MomentMade{std::move(evaluation), evaluating.missed(), evaluating.begin_again()};
    };
    if (plan.store) return evaluate_moments(study, plan, advancing, make, run);
    ResultStore store(moments_bytes);
    EvaluationPlan kept = plan;
    kept.store = &store;
    return evaluate_moments(study, kept, advancing, make, run);
}

}  // namespace

Evaluation evaluate(const StudyPointer& study, const EvaluationPlan& plan, const Run& run) {
    assert(plan.catalogue);
    EvaluationPlan at_moment = plan;
    if (!plan.moment) at_moment.moment = moment_at(study->time, 0);
    at_moment.later = with_readers(*study, plan.later);
    Evaluation evaluation = evaluate_at_moment(study, at_moment, run);
    if (plan.store && !plan.given) note_moment(evaluation, *plan.catalogue, *plan.store);
    return evaluation;
}

}  // namespace plume
