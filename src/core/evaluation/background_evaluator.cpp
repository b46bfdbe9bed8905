#include "core/evaluation/background_evaluator.hpp"

#include <algorithm>

namespace plume {

BackgroundEvaluator::BackgroundEvaluator(const Catalogue& catalogue, ResultStore& cache, Finished finished)
    : catalogue_(catalogue), cache_(cache), finished_(std::move(finished)), thread_([this] { work(); }) {}

BackgroundEvaluator::~BackgroundEvaluator() {
    {
        const std::scoped_lock lock(mutex_);
        closing_ = true;
        waiting_.reset();
        if (running_) running_->cancel();
    }
    changed_.notify_all();
    thread_.join();
}

void BackgroundEvaluator::submit(StudyPointer study, Budget budget, std::shared_ptr<FileStore> files) {
    std::map<ItemId, Hash> recipes = recipes_of(*study);
    {
        const std::scoped_lock lock(mutex_);
        waiting_ = Job{std::move(study), std::move(budget), std::move(files), std::move(recipes)};
    }
    changed_.notify_all();
}

void BackgroundEvaluator::cancel() {
    const std::scoped_lock lock(mutex_);
    waiting_.reset();
    if (running_) running_->cancel();
}

BackgroundEvaluator::Progress BackgroundEvaluator::progress() const {
    const std::scoped_lock lock(mutex_);
    Progress progress = progress_;
    progress.busy = running_.has_value() || waiting_.has_value();
    if (running_) {
        progress.fraction = running_->fraction();
        progress.seconds = std::chrono::duration<double>(Clock::now() - started_).count();
    }
    return progress;
}

void BackgroundEvaluator::work() {
    while (true) {
        Job job;
        Run run;
        {
            std::unique_lock lock(mutex_);
            changed_.wait(lock, [this] { return closing_ || waiting_; });
            if (closing_) return;
            job = *std::move(waiting_);
            waiting_.reset();
            recipes_ = std::move(job.recipes);
            running_ = run;
            started_ = Clock::now();
            progress_ = {};
        }
        std::thread clock([this, run] { watch(run); });
        compute(job, run);
        {
            const std::scoped_lock lock(mutex_);
            running_.reset();
        }
        changed_.notify_all();
        clock.join();
    }
}

// Whether the step in hand is made the same way in the study that waits.
bool BackgroundEvaluator::still_wanted() const {
    const auto recipe = recipes_.find(in_hand_);
    return recipe != recipes_.end() && std::ranges::any_of(waiting_->recipes, [&](const auto& one) {
               return one.second == recipe->second;
           });
}

// A second thread keeps the clock: it cancels the run when something newer has waited long enough and has no
// use for what is being computed.
void BackgroundEvaluator::watch(const Run& run) {
    std::unique_lock lock(mutex_);
    changed_.wait_until(lock, started_ + patience, [this] { return closing_ || !running_; });
    changed_.wait(lock, [this] { return closing_ || !running_ || (waiting_ && !still_wanted()); });
    if (running_) run.cancel();
}

void BackgroundEvaluator::compute(const Job& job, const Run& run) {
    EvaluationPlan plan;
    plan.catalogue = &catalogue_;
    plan.store = &cache_;
    plan.budget = job.budget;
    plan.files = job.files;
    plan.before_step = [this](const Step& step, std::size_t index, std::size_t count) {
        const std::scoped_lock lock(mutex_);
        progress_.step = in_hand_ = step.id;
        progress_.index = index;
        progress_.count = count;
        changed_.notify_all();
    };
    Clock::time_point looked = Clock::now();
    plan.after_step = [&](const Evaluation& so_far) {
        if (Clock::now() - looked < between_looks) return;
        finished_(so_far, run);
        looked = Clock::now();
    };
    Evaluation evaluation = evaluate(job.study, plan, run);
    {
        const std::scoped_lock lock(mutex_);
        in_hand_ = 0;
    }
    changed_.notify_all();
    finished_(std::move(evaluation), run);
}

}  // namespace plume
