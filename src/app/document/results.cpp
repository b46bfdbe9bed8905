#include "app/document/results.hpp"

#include "app/document/document.hpp"
#include "core/base/guarded.hpp"

namespace plume::app {

namespace {

// Shorter work only flickers.
constexpr double long_s = 0.5;
// What comes so soon is waited for: the window is painted once with it, and not once before and once after.
// Where the last one took longer, the window is painted while this one is computed.
constexpr std::chrono::milliseconds quick{12};
// Text that changes more often is not read, and laying it out takes longer than drawing the model.
constexpr std::chrono::milliseconds told_every{100};

// What a step read would be kept alive.
void let_go_of_read(Outcome& outcome) {
    outcome.inputs = nullptr;
    outcome.going_on = nullptr;
}

}  // namespace

// What an evaluation brings to the window's thread.
struct Results::Brought {
    StudyPointer study;
    Moment moment;
    std::map<ItemId, Shown> shown;
    double seconds = 0;
    std::size_t problems = 0;
    bool cancelled = false, complete = false;
    bool all_seen = false;
    bool only_pictures = false;  // figures follow
};

Results::Results(const Document& document)
    : document_(document), presenter_(document.catalogue()), notes_maker_(document.catalogue(), store_) {
    progress_timer_.setInterval(100);
    connect(&progress_timer_, &QTimer::timeout, this, &Results::follow_progress);
    told_timer_.setSingleShot(true);
    connect(&told_timer_, &QTimer::timeout, this, [this] {
        if (untold_) say();
    });
    evaluator_ = std::make_unique<BackgroundEvaluator>(
        document.catalogue(), store_,
        [this](const Evaluation& evaluation, const Run& run) { finished(evaluation, run); });
}

Results::~Results() {
    evaluator_.reset();
}

void Results::follow_progress() {
    const BackgroundEvaluator::Progress progress = evaluator_->progress();
    if (!progress.busy) progress_timer_.stop();
    Q_EMIT progress_changed();
    const ItemId in_hand = progress.busy && progress.seconds > long_s ? progress.step : 0;
    if (std::exchange(in_hand_, in_hand) != in_hand) Q_EMIT in_hand_changed();
}

// Worker thread.
void Results::finished(const Evaluation& evaluation, const Run& run) {
    const auto takes_long = [&](const auto& one) { return presenter_.takes_long(one.second); };
    if (evaluation.all_seen && std::ranges::any_of(evaluation.outcomes, takes_long))
        bring(prepare_pictures(evaluation, run));
    bring(prepare(evaluation, run));
    if (evaluation.cancelled || !evaluation.complete || passing_) return;
    // The model is not kept waiting for what is said about its formulas.
    const auto made = guarded(
        [&]() -> Result<std::optional<EvaluationNotes>> { return notes_maker_.make(evaluation, run); });
    if (!made || !*made) return;
    auto notes = std::make_shared<EvaluationNotes>(**made);
    QMetaObject::invokeMethod(
        this,
        [this, notes, study = evaluation.study] {
            if (study == document_.snapshot()) take_notes(std::move(*notes));
        },
        Qt::QueuedConnection);
}

const Shown* Results::shown(ItemId id) const {
    const auto found = shown_.find(id);
    return found == shown_.end() ? nullptr : &found->second;
}

const Shown* Results::shown(std::string_view result_name) const {
    const Step* step = document_.study().step(result_name);
    return step ? shown(step->id) : nullptr;
}

const Details* Results::details(ItemId id) const {
    const Shown* of = shown(id);
    return of && notes_.details && notes_.details->key == of->key ? &*notes_.details : nullptr;
}

NumbersByName Results::numbers() const {
    NumbersByName numbers;
    for (const Item& item : document_.study().items) {
        const Step* step = step_of(item);
        const Shown* result = step ? shown(step->id) : nullptr;
        if (!result || !result->value) continue;
        if (const auto number = number_of(*result->value)) numbers[step->name] = *number;
    }
    return numbers;
}

const FormulaInsight* Results::insight(ItemId id) const {
    const auto found = notes_.insights.find(id);
    return found == notes_.insights.end() ? nullptr : found->second.get();
}

const StepOffers* Results::offers(ItemId id) const {
    return notes_.offers && notes_.offers->step == id ? &*notes_.offers : nullptr;
}

const ResponseNumbers* Results::response_numbers(ItemId id) const {
    return notes_.response && notes_.response->first == id ? &notes_.response->second : nullptr;
}

void Results::set_live(bool live) {
    live_ = live;
    if (live && behind_) compute();
    Q_EMIT progress_changed();
}

const StudyPointer& Results::computed_study() const {
    const StudyPointer& looked_at = document_.attention().looked_at();
    return looked_at ? looked_at : document_.snapshot();
}

void Results::compute() {
    const Moment moment = document_.playing().moment();
    notes_maker_.set(
        {document_.snapshot(), document_.attention().wishes(), document_.files(), budget_, moment});
    evaluator_->submit(computed_study(), budget_, document_.files(), moment,
                       passing_ ? BackgroundEvaluator::Extent::seen : BackgroundEvaluator::Extent::all);
    if (is_quick()) evaluator_->wait_for(quick);
    if (!progress_timer_.isActive()) progress_timer_.start();
}

void Results::cancel() {
    evaluator_->cancel();
}

bool Results::is_quick() const {
    return std::chrono::duration<double>(last_seconds_) <= quick;
}

void Results::permit(ItemId id) {
    const Shown* asking = shown(id);
    if (!asking || asking->state != StepState::asks) return;
    budget_.permitted.insert(asking->key);
    compute();
}

void Results::forget_all() {
    evaluator_->cancel();
    evaluator_->forget_present();
    shown_.clear();
    told_timer_.stop();
    untold_ = notes_untold_ = false;
    notes_ = {};
    kept_frames_.clear();
    budget_.permitted.clear();
}

void Results::begin_at_beginning() {
    evaluator_->forget_present();
    const auto hangs = [](const auto& one) { return one.second.hangs_on_changes; };
    if (std::ranges::none_of(shown_, hangs)) return;
    mark_behind();
    compute();
}

void Results::follow_edit() {
    if (live_ || passing_)
        compute();
    else
        Q_EMIT evaluation_changed();
}

void Results::look_again() {
    if (live_ || !behind_) compute();
}

void Results::follow_moment() {
    behind_ = true;
    if (live_ || passing_)
        compute();
    else
        Q_EMIT evaluation_changed();
}

void Results::set_passing(bool passing) {
    if (passing_.exchange(passing) && !passing) look_again();
}

EvaluationPlan Results::plan() {
    EvaluationPlan plan;
    plan.catalogue = &document_.catalogue();
    plan.store = &store_;
    plan.budget = budget_;
    plan.files = document_.files();
    plan.moment = document_.playing().moment();
    return plan;
}

// While another study is computed they are as they were told last: it may take them over.
std::vector<std::size_t> Results::kept_frames(ItemId id) const {
    const StudyPointer& study = document_.snapshot();
    if (study != timed_.first) {
        const auto told = kept_frames_.find(id);
        if (told != kept_frames_.end()) return told->second;
    }
    if (std::exchange(recipes_of_, study) != study) recipes_ = recipes_of(*study);
    const auto recipe = recipes_.find(id);
    if (recipe == recipes_.end()) return {};
    return kept_frames_[id] = store_.kept_frames(chain_of(recipe->second, study->time.rate));
}

void Results::bring(const std::shared_ptr<Brought>& brought) {
    QMetaObject::invokeMethod(
        this, [this, brought] { take(brought); }, Qt::QueuedConnection);
}

// What is seen, before figures are made of what is not.
std::shared_ptr<Results::Brought> Results::prepare_pictures(const Evaluation& evaluation, const Run& run) {
    auto brought = std::make_shared<Brought>();
    brought->study = evaluation.study;
    brought->moment = evaluation.moment;
    brought->only_pictures = true;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        const Outcome* outcome = step && step->show.visible ? evaluation.outcome(step->id) : nullptr;
        if (!outcome || !outcome->value) continue;
        const auto drawable = guarded([&]() -> Result<std::shared_ptr<const Drawable>> {
            return presenter_.draw(*outcome, {step->show.colour_by}, run);
        });
        if (!drawable) continue;  // why, is told when the rest comes
        Shown& shown = brought->shown[step->id];
        static_cast<Outcome&>(shown) = *outcome;
        let_go_of_read(shown);
        shown.drawable = *drawable;
        shown.bounds = shown.drawable->bounds;
    }
    return brought;
}

// Worker thread.
std::shared_ptr<Results::Brought> Results::prepare(const Evaluation& evaluation, const Run& run) {
    auto brought = std::make_shared<Brought>();
    brought->study = evaluation.study;
    brought->moment = evaluation.moment;
    brought->seconds = evaluation.seconds;
    brought->problems = evaluation.problem_count();
    brought->complete = evaluation.complete;
    brought->all_seen = evaluation.all_seen;
    for (const Item& item : evaluation.study->items) {
        const Step* step = step_of(item);
        if (!step) continue;
        const Outcome* outcome = evaluation.outcome(step->id);
        if (!outcome) continue;
        Shown& shown = brought->shown[step->id];
        static_cast<Outcome&>(shown) = *outcome;
        let_go_of_read(shown);
        if (!outcome->value) continue;
        const DrawOptions draw{step->show.colour_by};
        Result<Presentation> presented = guarded([&]() -> Result<Presentation> {
            return presenter_.present(*step, *outcome, step->show.visible ? &draw : nullptr, run);
        });
        if (presented) {
            static_cast<Presentation&>(shown) = *std::move(presented);
            continue;
        }
        if (presented.error().code == ErrorCode::cancelled) continue;
        shown.state = StepState::failed;
        shown.error = presented.error();
        ++brought->problems;
    }
    // Cancelled while it was being drawn: what could not be drawn stays as it was.
    brought->cancelled = evaluation.cancelled || run.cancelled();
    if (brought->all_seen && (brought->complete || passing_) && !brought->cancelled) {
        const bool same_study = std::exchange(prepared_, brought->study) == brought->study;
        presenter_.forget_others(same_study ? Presenter::Others::may_come_again
                                            : Presenter::Others::are_not_wanted);
    }
    return brought;
}

void Results::take(const std::shared_ptr<Brought>& brought) {
    std::map<ItemId, Shown> now;
    for (auto& [id, fresh] : brought->shown) {
        Shown& shown = now[id];
        shown = std::move(fresh);
        const auto old = shown_.find(id);
        if (old == shown_.end() || !old->second.value || shown.state == StepState::muted) continue;
        const bool undrawn = brought->cancelled && old->second.drawable && !shown.drawable;
        if (shown.value && !undrawn) continue;
        // No result this time: the last good one stays, marked.
        shown.value = old->second.value;
        shown.drawable = old->second.drawable;
        shown.figures = old->second.figures;
        shown.bounds = old->second.bounds;
        shown.stale = true;
    }
    if (!brought->complete) {
        // What is still to come stays as it was.
        for (auto& [id, shown] : now) {
            if (!shown.figures) shown.figures = shown_[id].figures;
            shown_[id] = std::move(shown);
        }
        if (brought->only_pictures) return Q_EMIT pictures_changed();
        if (brought->all_seen) seen_ = {brought->study, brought->moment};
        // Of moments that pass only this is waited for.
        if (brought->all_seen && passing_) follow(*brought);
        return tell();
    }
    shown_ = std::move(now);
    problems_ = brought->problems;
    follow(*brought);
    tell(seen_ == std::pair(brought->study, brought->moment));
    Q_EMIT progress_changed();
}

void Results::follow(const Brought& brought) {
    // What is looked at once more takes no time, which says nothing of how long it took.
    const std::pair of(brought.study, brought.moment);
    const bool timed = !brought.cancelled && brought.study == document_.snapshot();
    if (timed && std::exchange(timed_, of) != of) last_seconds_ = brought.seconds;
    behind_ = brought.cancelled || brought.study != computed_study() ||
              brought.moment != document_.playing().moment();
}

// The model is not kept waiting for what is said of it, but where all is there at once.
void Results::tell(bool seen_already) {
    untold_ = true;
    const bool said_lately = told_timer_.isActive();
    if (!said_lately && is_quick()) return say();
    if (!seen_already) Q_EMIT pictures_changed();
    if (!said_lately) told_timer_.start(std::chrono::milliseconds(0));
}

void Results::say() {
    untold_ = false;
    told_timer_.start(told_every);
    Q_EMIT evaluation_changed();
    if (std::exchange(notes_untold_, false)) Q_EMIT notes_changed();
}

void Results::take_notes(EvaluationNotes notes) {
    // Of a formula that cannot be read now the last good ranges stay, with the error.
    for (auto& [id, insight] : notes.insights) {
        const auto old = notes_.insights.find(id);
        if (!insight->error || old == notes_.insights.end()) continue;
        auto merged = std::make_shared<FormulaInsight>(*old->second);
        merged->error = insight->error;
        merged->inputs = insight->inputs;
        merged->study_names = insight->study_names;
        merged->words = insight->words;
        merged->given = insight->given;
        insight = std::move(merged);
    }
    notes_ = std::move(notes);
    // Said with what is told of the results.
    notes_untold_ = untold_;
    if (!notes_untold_) Q_EMIT notes_changed();
}

}  // namespace plume::app
