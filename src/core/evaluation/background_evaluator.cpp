#include "core/evaluation/background_evaluator.hpp"

#include <algorithm>
#include <utility>

#include "core/evaluation/evaluating_moments.hpp"
#include "core/evaluation/moments_alike.hpp"
#include "core/study/moving.hpp"

namespace plume {

BackgroundEvaluator::BackgroundEvaluator(const Catalogue& catalogue, ResultStore& cache, Finished finished)
    : catalogue_(catalogue),
      cache_(cache),
      finished_(std::move(finished)),
      passing_(catalogue, cache),
      thread_([this] { work(); }) {}

BackgroundEvaluator::~BackgroundEvaluator() {
    {
        const std::scoped_lock lock(mutex_);
        closing_ = true;
        waiting_.reset();
        if (main_.run) main_.run->cancel();
        if (beside_.run) beside_.run->cancel();
    }
    changed_.notify_all();
    thread_.join();
}

// What follows time is another thing at another moment; what goes on from moment to moment is on its way to
// it.
std::map<ItemId, Hash> BackgroundEvaluator::recipes_at(const Study& study,
                                                       const std::optional<Moment>& moment) const {
    std::map<ItemId, Hash> recipes = recipes_of(study);
    if (!moment) return recipes;
    for (const ItemId id : moving_steps(study, catalogue_)) {
        const StepKind* kind = catalogue_.find(*study.step(id));
        if (!kind || kind->advance) continue;
        recipes[id] = Hasher().add(recipes[id]).add(moment->seconds()).finish();
    }
    return recipes;
}

void BackgroundEvaluator::submit(StudyPointer study, Budget budget, std::shared_ptr<FileStore> files,
                                 std::optional<Moment> moment, Extent extent) {
    std::map<ItemId, Hash> recipes = recipes_at(*study, moment);
    {
        const std::scoped_lock lock(mutex_);
        waiting_ = Job{++submitted_,     std::move(study),   moment, std::move(budget),
                       std::move(files), std::move(recipes), extent};
    }
    changed_.notify_all();
}

void BackgroundEvaluator::cancel() {
    const std::scoped_lock lock(mutex_);
    waiting_.reset();
    if (main_.run) main_.run->cancel();
    if (beside_.run) beside_.run->cancel();
}

void BackgroundEvaluator::forget_present() {
    const std::scoped_lock lock(mutex_);
    present_.forget();
    forgotten_ = submitted_;
}

BackgroundEvaluator::Progress BackgroundEvaluator::progress() const {
    const std::scoped_lock lock(mutex_);
    Progress progress = progress_;
    progress.waiting = waiting_.has_value();
    progress.busy = main_.run || progress.waiting;
    if (main_.run) {
        progress.fraction = main_.run->fraction();
        progress.seconds = std::chrono::duration<double>(Clock::now() - main_.started).count();
    }
    return progress;
}

void BackgroundEvaluator::wait_for(std::chrono::milliseconds most) const {
    std::unique_lock lock(mutex_);
    changed_.wait_for(lock, most, [this] { return !main_.run && !waiting_; });
}

void BackgroundEvaluator::begin(Lane& lane, const Run& run, const Job& job) {
    lane.run = run;
    lane.started = Clock::now();
    lane.job = job.number;
    lane.recipes = job.recipes;
    lane.in_hand = 0;
    lane.spent.clear();
    lane.unseen = false;
}

void BackgroundEvaluator::end(Lane& lane) {
    {
        const std::scoped_lock lock(mutex_);
        lane.run.reset();
        lane.in_hand = 0;
    }
    changed_.notify_all();
}

void BackgroundEvaluator::work() {
    while (true) {
        Job job;
        const Run run;
        {
            std::unique_lock lock(mutex_);
            changed_.wait(lock, [this] { return closing_ || waiting_; });
            if (closing_) return;
            job = *std::move(waiting_);
            waiting_.reset();
            begin(main_, run, job);
            progress_ = {};
            seen_beside_ = 0;
        }
        std::thread clock([this] { watch(); });
        take_over_moments(job);
        compute(job, run);
        let_go_of_files(job);
        end(main_);
        clock.join();
    }
}

// What is seen first, and what takes long and is not seen behind it.
void BackgroundEvaluator::compute(const Job& job, const Run& run) {
    const std::set<ItemId> later = slow_and_unseen(job);
    if (!later.empty()) {
        Evaluation seen = compute_part(job, run, later);
        seen.complete = false;
        seen.all_seen = !seen.cancelled;
        const bool goes_on = seen.all_seen && job.extent == Extent::all;
        passing_.see(seen, another_study_waits(job));
        if (!is_outdated()) hand_over(std::move(seen), run);
        if (!goes_on || is_superseded()) return;
        const std::scoped_lock lock(mutex_);
        main_.unseen = true;
    }
    Evaluation all = compute_part(job, run, {});
    if (!all.cancelled) made_ = {job.recipes, job.moment};
    const bool given_up = all.cancelled && !later.empty() && is_superseded();
    passing_.see(all, another_study_waits(job));
    if (!given_up && !is_outdated()) hand_over(std::move(all), run);
}

Evaluation BackgroundEvaluator::compute_part(const Job& job, const Run& run, std::set<ItemId> later) {
    EvaluationPlan plan = plan_of(job, run, main_);
    plan.later = std::move(later);
    Evaluation evaluation = evaluate(job.study, plan, run);
    const std::scoped_lock lock(mutex_);
    take_in_hand(main_, 0);
    if (!evaluation.cancelled) note_spent();
    if (job.number > forgotten_) present_.see(evaluation, job.recipes, catalogue_);
    changed_.notify_all();
    return evaluation;
}

// Steps that took long, are not seen and are not as they were made last.
std::set<ItemId> BackgroundEvaluator::slow_and_unseen(const Job& job) {
    std::set<ItemId> slow;
    {
        const std::scoped_lock lock(mutex_);
        slow = slow_;
    }
    if (slow.empty()) return slow;
    const std::set<ItemId> unseen = unseen_steps(*job.study);
    const auto is_made = [&](ItemId id) {
        const auto recipe = job.recipes.find(id);
        const auto made = made_.recipes.find(id);
        if (recipe == job.recipes.end() || made == made_.recipes.end()) return false;
        const StepKind* kind = catalogue_.find(*job.study->step(id));
        return recipe->second == made->second && (job.moment == made_.moment || !kind || !kind->advance);
    };
    std::erase_if(slow, [&](ItemId id) { return !unseen.contains(id) || is_made(id); });
    return slow;
}

void BackgroundEvaluator::note_spent() {
    for (const auto& [id, spent] : main_.spent)
        if (spent >= soon) slow_.insert(id);
}

void BackgroundEvaluator::take_in_hand(Lane& lane, ItemId step) {
    const Clock::time_point now = Clock::now();
    if (lane.in_hand != 0) lane.spent[lane.in_hand] += now - lane.in_hand_since;
    lane.in_hand = step;
    lane.in_hand_since = now;
}

bool BackgroundEvaluator::is_superseded() const {
    const std::scoped_lock lock(mutex_);
    return waiting_.has_value();
}

// An edit of keys leaves what was before them as it was.
void BackgroundEvaluator::take_over_moments(const Job& job) {
    const StudyPointer before = std::exchange(before_, job.study);
    if (before && before != job.study && job.moment)
        plume::take_over_moments(*before, *job.study, catalogue_, job.moment->rate, cache_);
}

// A scan that no step links any more need not be held; what a newer study links may have been read for it.
void BackgroundEvaluator::let_go_of_files(const Job& job) {
    const std::scoped_lock lock(mutex_);
    if (job.files && !waiting_) job.files->keep_only(linked_files(*job.study));
}

// Whether the step in hand there is made the same way in the study that waits.
bool BackgroundEvaluator::waiting_needs(const Lane& lane) const {
    const auto recipe = lane.recipes.find(lane.in_hand);
    return recipe != lane.recipes.end() && std::ranges::any_of(waiting_->recipes, [&](const auto& one) {
               return one.second == recipe->second;
           });
}

// The lane beside began with what waits; it is overtaken by what comes after that.
bool BackgroundEvaluator::is_overtaken(const Lane& lane) const {
    return lane.run && !lane.run->cancelled() && waiting_ && waiting_->number != lane.job &&
           (lane.unseen || Clock::now() - lane.started >= patience) && !waiting_needs(lane);
}

bool BackgroundEvaluator::can_go_beside() const {
    return main_.run && waiting_ && waiting_->number != seen_beside_ && !beside_.run && waiting_needs(main_);
}

// Whether a newer study was seen already, which comes next.
bool BackgroundEvaluator::is_outdated() const {
    const std::scoped_lock lock(mutex_);
    return seen_beside_ != 0 && waiting_;
}

bool BackgroundEvaluator::another_study_waits(const Job& job) const {
    const std::scoped_lock lock(mutex_);
    return waiting_ && waiting_->study != job.study;
}

// A second thread keeps the clock: when something newer has waited long enough it cancels what has no use for
// it, and sees to it that the rest is computed beside what has.
void BackgroundEvaluator::watch() {
    std::thread beside;
    std::unique_lock lock(mutex_);
    changed_.wait_until(lock, main_.started + patience,
                        [this] { return closing_ || !main_.run || (main_.unseen && waiting_); });
    while (true) {
        changed_.wait_for(lock, patience, [this] {
            return closing_ || !main_.run || is_overtaken(main_) || is_overtaken(beside_) || can_go_beside();
        });
        if (closing_ || !main_.run) break;
        if (is_overtaken(main_)) main_.run->cancel();
        if (is_overtaken(beside_)) beside_.run->cancel();
        if (!can_go_beside()) continue;
        const Run run;
        begin(beside_, run, *waiting_);
        seen_beside_ = waiting_->number;
        if (beside.joinable()) beside.join();  // it has ended its lane, and no longer asks for the mutex
        beside = std::thread(&BackgroundEvaluator::compute_beside, this, *waiting_, run,
                             main_.recipes.at(main_.in_hand));
    }
    if (beside_.run) beside_.run->cancel();
    lock.unlock();
    if (beside.joinable()) beside.join();
}

// All of the study but the step that is in hand elsewhere and what reads it.
void BackgroundEvaluator::compute_beside(const Job& job, const Run& run, const Hash& in_hand) {
    EvaluationPlan plan = plan_of(job, run, beside_);
    for (const auto& [id, recipe] : job.recipes)
        if (recipe == in_hand) plan.later.insert(id);
    Evaluation evaluation = evaluate(job.study, plan, run);
    evaluation.complete = evaluation.all_seen = false;
    hand_over(std::move(evaluation), run);
    end(beside_);
}

EvaluationPlan BackgroundEvaluator::plan_of(const Job& job, const Run& run, Lane& lane) {
    EvaluationPlan plan;
    plan.catalogue = &catalogue_;
    plan.store = &cache_;
    plan.budget = job.budget;
    plan.moment = job.moment;
    plan.files = job.files;
    if (job.moment) {
        const std::scoped_lock lock(mutex_);
        plan.going_on = present_.going_on(job.recipes, *job.moment);
    }
    plan.before_step = [this, &lane](const Step& step, std::size_t index, std::size_t count) {
        const std::scoped_lock lock(mutex_);
        take_in_hand(lane, step.id);
        if (&lane == &main_) {
            progress_.step = step.id;
            progress_.index = index;
            progress_.count = count;
        }
        changed_.notify_all();
    };
    plan.after_step = [this, run, &lane, looked = Clock::now()](const Evaluation& so_far) mutable {
        if (Clock::now() - looked < between_looks || (&lane == &main_ && is_outdated())) return;
        const Clock::time_point begun = Clock::now();
        hand_over(so_far, run);
        looked = Clock::now();
        const std::scoped_lock lock(mutex_);
        lane.in_hand_since += looked - begun;
    };
    return plan;
}

void BackgroundEvaluator::hand_over(Evaluation evaluation, const Run& run) {
    const std::scoped_lock lock(handing_over_);
    finished_(std::move(evaluation), run);
}

}  // namespace plume
