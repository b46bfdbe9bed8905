#include "core/evaluation/evaluator.hpp"

#include <algorithm>
#include <chrono>

#include "core/base/guarded.hpp"
#include "core/base/text.hpp"
#include "core/data/not_finite.hpp"
#include "core/evaluation/above.hpp"
#include "core/evaluation/plain_numbers.hpp"
#include "core/study/sentence.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/study_scope.hpp"

namespace plume {
namespace {

using Clock = std::chrono::steady_clock;

double seconds_since(Clock::time_point start) {
    return std::chrono::duration<double>(Clock::now() - start).count();
}

void add_to_hash(Hasher& hasher, const Units& units) {
    hasher.add(static_cast<std::uint64_t>(units.length)).add(static_cast<std::uint64_t>(units.angle));
}

// An error that says nothing of its own is about the first thing the step reads.
Error about_step(Error error, const StepKind& kind) {
    if (error.slot.empty() && error.where.empty()) {
        const auto read = std::ranges::find(kind.slots, SlotType::reference, &SlotSpec::type);
        if (!kind.slots.empty())
            error.slot = (read != kind.slots.end() ? *read : kind.slots.front()).key;
        else
            error.where = "This step";
    }
    return labelled(std::move(error), kind);
}

// One evaluation of one study.
class Evaluating {
public:
    Evaluating(const StudyPointer& study, const EvaluationPlan& plan, const Run& run)
        : study_(*study),
          plan_(plan),
          run_(run),
          above_(study_, scope_of(*study), plan.files ? plan.files : std::make_shared<FileStore>()) {
        result_.study = study;
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
            above_.add(*step, outcome);
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
            const Outcome* read = above_.find(name);
            if (read && read->cause != 0) return read->cause;
        }
        return 0;
    }

    Outcome one(const Step& step) {
        if (above_.find(step.name) || study_.control(step.name))
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

        Hash key;
        Result<Inputs> resolved = inputs_of(*kind, step, key);
        if (!resolved) {
            const ErrorCode code = resolved.error().code;
            const bool upstream = code == ErrorCode::input_failed || code == ErrorCode::input_muted;
            return failed(upstream ? StepState::blocked : StepState::failed, resolved.error());
        }
        const auto inputs = std::make_shared<const Inputs>(*std::move(resolved));
        Outcome outcome = made(*kind, *inputs, key);
        outcome.inputs = inputs;
        if (outcome.value && step.text_units && leans_on_plain_numbers(*kind, *inputs))
            outcome.remarks.push_back({"Plain numbers here count " + unit_names(*step.text_units) +
                                       ", the units they were written in."});
        return outcome;
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
        if (auto refused = over_budget(kind, estimate, key, above_.held_bytes(), plan_.budget)) {
            Outcome asking = failed(
                refused->code == ErrorCode::over_budget ? StepState::asks : StepState::failed, *refused);
            asking.key = key;
            return asking;
        }
        const Clock::time_point start = Clock::now();
        run_.take_remarks();
        Result<Value> value = kind.make(inputs, run_);
        if (!value) return failed(StepState::failed, about_step(value.error(), kind));
        outcome.value = std::make_shared<const Value>(*std::move(value));
        outcome.seconds = seconds_since(start);
        outcome.state = StepState::done;
        outcome.remarks = run_.take_remarks();
        for (std::string& sentence : not_finite_sentences(*outcome.value, seen_columns_))
            outcome.remarks.push_back({std::move(sentence), true});
        if (plan_.cache) plan_.cache->put(key, {outcome.value, outcome.remarks});
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
    Above above_;
    SeenColumns seen_columns_;  // looked through for numbers that are not finite
    Evaluation result_;
};

}  // namespace

Evaluation evaluate(const StudyPointer& study, const EvaluationPlan& plan, const Run& run) {
    assert(plan.catalogue);
    return Evaluating(study, plan, run).all();
}

}  // namespace plume
