#include "core/study/background_evaluator.hpp"

namespace plume {

BackgroundEvaluator::BackgroundEvaluator(const Catalogue& catalogue, std::size_t cache_bytes,
                                         Finished finished)
    : catalogue_(catalogue),
      cache_(cache_bytes),
      finished_(std::move(finished)),
      thread_([this] { work(); }) {}

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
    {
        const std::scoped_lock lock(mutex_);
        waiting_ = Job{std::move(study), std::move(budget), std::move(files)};
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
            running_ = run;
            started_ = Clock::now();
            progress_ = {};
        }
        // A second thread keeps the clock: it cancels this run when something newer has waited long enough.
        std::thread watch([this, run] {
            std::unique_lock lock(mutex_);
            changed_.wait_until(lock, started_ + patience, [this] { return closing_ || !running_; });
            changed_.wait(lock, [this] { return closing_ || !running_ || waiting_; });
            if (running_) run.cancel();
        });
        compute(job, run);
        {
            const std::scoped_lock lock(mutex_);
            running_.reset();
        }
        changed_.notify_all();
        watch.join();
    }
}

void BackgroundEvaluator::compute(const Job& job, const Run& run) {
    EvaluationPlan plan;
    plan.catalogue = &catalogue_;
    plan.cache = &cache_;
    plan.budget = job.budget;
    plan.files = job.files;
    plan.before_step = [this](const Step& step, std::size_t index, std::size_t count) {
        const std::scoped_lock lock(mutex_);
        progress_.step = step.id;
        progress_.index = index;
        progress_.count = count;
    };
    Evaluation evaluation = evaluate(job.study, plan, run);
    finished_(std::move(evaluation), run);
}

}  // namespace plume
