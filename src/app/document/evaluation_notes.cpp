#include "app/document/evaluation_notes.hpp"

#include "core/handoff/state_colours.hpp"
#include "core/results/facts.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/offers.hpp"
#include "core/study/sentence.hpp"

namespace plume::app {
namespace {

bool has_formula(const StepKind& kind, const Step& step) {
    const SlotSpec* slot = kind.slot("formula");
    if (!slot || step.muted) return false;
    const auto active = active_slots(kind, step);
    return std::ranges::find(active, slot) != active.end();
}

}  // namespace

void EvaluationNotesMaker::set(Order order) {
    const std::scoped_lock lock(mutex_);
    ordered_ = std::move(order);
}

std::optional<std::pair<ItemId, ResponseNumbers>> EvaluationNotesMaker::make_response_numbers(
    const Evaluation& evaluation, const Run& run) {
    const ItemId wanted = order_.wishes.response;
    const Step* step = evaluation.study->step(wanted);
    const StepKind* kind = step ? catalogue_.find(*step) : nullptr;
    const Outcome* outcome = evaluation.outcome(wanted);
    if (!kind || !outcome || !outcome->inputs || !outcome->inputs->has("response")) return {};
    auto numbers = context_of<ResponseNumbers>(*kind, "response", *outcome->inputs, run);
    if (!numbers || !*numbers) return {};
    return std::pair{wanted, **std::move(numbers)};
}

std::optional<StepOffers> EvaluationNotesMaker::make_offers(const Evaluation& evaluation, const Run& run) {
    const ItemId wanted = order_.wishes.offers;
    const Step* step = evaluation.study->step(wanted);
    const StepKind* kind = step ? catalogue_.find(*step) : nullptr;
    const Outcome* outcome = evaluation.outcome(wanted);
    if (!kind || !outcome) return {};
    StepOffers made{wanted, {}, outcome->error};
    // What asks about its memory is not read for a list either.
    if (!outcome->inputs || outcome->state == StepState::asks) return made;
    auto offers = offers_of(*kind, *outcome->inputs, run);
    made.error = offers ? std::nullopt : std::optional(offers.error());
    if (offers) made.by_slot = *std::move(offers);
    return made;
}

std::shared_ptr<const FormulaInsight> EvaluationNotesMaker::insight_of(const Evaluation& evaluation,
                                                                       const Step& step, const Run& run) {
    const auto wish = order_.wishes.graphs.find(step.id);
    const GraphWish wanted = wish == order_.wishes.graphs.end() ? GraphWish{} : wish->second;
    const Outcome& outcome = *evaluation.outcome(step.id);
    Known& known = known_[step.id];
    // Of a step that failed the key says nothing.
    const bool same = outcome.state == StepState::done && known.key == outcome.key && known.wish == wanted;
    if (same && known.insight) return known.insight;
    if (!outcome.inputs || outcome.state == StepState::asks) return nullptr;
    Result<FormulaInsight> insight =
        look_into_formula(*catalogue_.find(step), *outcome.inputs, outcome.value.get(), wanted, run);
    if (!insight) return nullptr;
    known = {outcome.key, wanted, std::make_shared<const FormulaInsight>(*std::move(insight))};
    return known.insight;
}

std::shared_ptr<const FamilyCounts> EvaluationNotesMaker::make_families(const Evaluation& evaluation,
                                                                        const Run& run) {
    const Step* step = evaluation.study->step(order_.wishes.read);
    const StepKind* kind = step ? catalogue_.find(*step) : nullptr;
    const Outcome* outcome = evaluation.outcome(order_.wishes.read);
    if (!kind || !outcome || !outcome->inputs) return nullptr;
    auto counts = context_of<FamilyCounts>(*kind, "tolerance", *outcome->inputs, run);
    if (!counts || !*counts) return nullptr;
    return std::make_shared<const FamilyCounts>(**std::move(counts));
}

std::optional<Details> EvaluationNotesMaker::make_details(const Evaluation& evaluation, const Run& run) {
    const Outcome* outcome = evaluation.outcome(order_.wishes.read);
    if (!outcome || !outcome->value) return {};
    const Units& units = evaluation.study->units;
    if (details_ && details_->key == outcome->key && details_->units == units) return details_;
    auto families = make_families(evaluation, run);
    if (run.cancelled()) return {};
    details_ = {outcome->key, units, details_of(*outcome->value, units), nullptr, std::move(families)};
    if (auto graph = curvature_graph_of(*outcome->value))
        details_->graph = std::make_shared<const CurvatureGraph>(*std::move(graph));
    return details_;
}

std::vector<ToldWhy> EvaluationNotesMaker::make_told_why(const Evaluation& evaluation, const Run& run) const {
    std::vector<ToldWhy> told;
    for (const AskedPart& asked : order_.wishes.asked) {
        auto trace = trace_part(evaluation, catalogue_, asked.step, asked.part, run);
        if (trace)
            told.push_back({asked, *std::move(trace), {}});
        else
            told.push_back({asked, {}, trace.error()});
    }
    return told;
}

Ghost EvaluationNotesMaker::make_ghost(const Evaluation& evaluation, const Run& run) {
    Ghost made;
    made.wish = order_.wishes.ghost;
    const Step* step = evaluation.study->step(made.wish.step);
    if (!step) return made;
    const StepKind& kind = *catalogue_.find(*step);
    const Edited other = take_version(*evaluation.study, kind, step->id, made.wish.version);
    if (!other) {
        made.error = other.error();
        return made;
    }
    EvaluationPlan plan;
    plan.catalogue = &catalogue_;
    plan.store = &store_;
    plan.files = order_.files;
    plan.budget = order_.budget;
    plan.moment = order_.moment;
    const Evaluation instead = plume::evaluate(*other, plan, run);
    const Outcome &now = *evaluation.outcome(step->id), &then = *instead.outcome(step->id);
    made.error = then.error;
    if (now.value && then.value) made.difference = difference(*now.value, *then.value);
    for (const auto& [id, outcome] : instead.outcomes) {
        const Step& result = *evaluation.study->step(id);
        if (!outcome.value || !result.show.visible || outcome.key == evaluation.outcome(id)->key) continue;
        if (auto drawable = make_drawable(*outcome.value, {"-"}, run))
            made.drawables.push_back(std::make_shared<const Drawable>(*std::move(drawable)));
    }
    return made;
}

void EvaluationNotesMaker::make_hand_off(const Evaluation& evaluation, const Run& run,
                                         EvaluationNotes& notes) {
    if (!order_.wishes.hand_off) return;
    auto plan = plan_hand_off(evaluation, *order_.wishes.hand_off, run, &kept_parts_);
    if (!plan) {
        notes.hand_off_error = plan.error();
        return;
    }
    notes.hand_off = std::make_shared<const HandOffPlan>(*std::move(plan));
    const HandOffEntry* seen = notes.hand_off->entry(order_.wishes.handed);
    if (!seen || !seen->delivery) return;
    make_handed(*evaluation.study, *seen, run);
    notes.handed = handed_;
    notes.gone = gone_;
}

// What is drawn stays the same while it is of the same state: whoever draws it would begin anew.
void EvaluationNotesMaker::make_handed(const Study& study, const HandOffEntry& entry, const Run& run) {
    Hasher hasher;
    hasher.add(entry.key);
    for (const PartChange& change : entry.parts)
        hasher.add(static_cast<std::uint64_t>(change.state));
    const Hash key = hasher.finish();
    if (key == handed_key_) return;
    std::map<ItemId, std::shared_ptr<const Drawable>> made;
    for (const GivenResult& given : entry.delivery->results) {
        const Step* step = study.step(given.name);
        const Result<Value> coloured = coloured_by_state(given, entry.parts);
        if (!step || !coloured) continue;
        if (auto drawable = make_drawable(*coloured, {}, run))
            made[step->id] = std::make_shared<const Drawable>(*std::move(drawable));
    }
    if (run.cancelled()) return;
    handed_key_ = key;
    handed_ = std::move(made);
    gone_ = drawn_gone(entry.parts);
}

Closer EvaluationNotesMaker::make_closer(const Evaluation& evaluation, const Run& run) {
    Closer made;
    if (!order_.wishes.view) return made;
    DrawOptions options;
    options.view = order_.wishes.view;
    made.view = order_.wishes.view_number;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step && step->show.visible ? evaluation.outcome(step->id) : nullptr;
        if (!outcome || !outcome->value || !refines(*outcome->value) || run.cancelled()) continue;
        Closer::Drawn& drawn = made.surfaces[step->id];
        drawn.key = outcome->key;
        drawn.colour_by = options.colour_by = step->show.colour_by;
        const auto known = closer_.surfaces.find(step->id);
        if (closer_.view == made.view && known != closer_.surfaces.end() && known->second.key == drawn.key &&
            known->second.colour_by == drawn.colour_by) {
            drawn = known->second;
            continue;
        }
        auto drawable = make_drawable(*outcome->value, options, run);
        if (drawable && drawable->closer)
            drawn.drawable = std::make_shared<const Drawable>(*std::move(drawable));
    }
    if (!run.cancelled()) closer_ = made;
    return made;
}

std::optional<EvaluationNotes> EvaluationNotesMaker::make(const Evaluation& evaluation, const Run& run) {
    {
        const std::scoped_lock lock(mutex_);
        if (evaluation.study != ordered_.study) return {};
        order_ = ordered_;
    }
    EvaluationNotes notes;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        const StepKind* kind = step ? catalogue_.find(*step) : nullptr;
        if (!kind || !has_formula(*kind, *step) || run.cancelled()) continue;
        if (auto insight = insight_of(evaluation, *step, run)) notes.insights[step->id] = std::move(insight);
    }
    if (!run.cancelled()) notes.ghost = make_ghost(evaluation, run);
    if (!run.cancelled()) notes.response = make_response_numbers(evaluation, run);
    if (!run.cancelled()) notes.offers = make_offers(evaluation, run);
    if (!run.cancelled()) notes.details = make_details(evaluation, run);
    if (!run.cancelled()) notes.told_why = make_told_why(evaluation, run);
    if (!run.cancelled()) notes.closer = make_closer(evaluation, run);
    if (!run.cancelled()) make_hand_off(evaluation, run, notes);
    if (run.cancelled()) return {};
    return notes;
}

}  // namespace plume::app
