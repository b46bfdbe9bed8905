#pragma once
// Evaluates snapshots of a study on a worker thread, always the newest one next.
//
// While a number is dragged snapshots come faster than they are computed. The one in hand is left to finish
// if it is quick, so that something is always seen; once it has run for `patience` it is cancelled for the
// newer one, unless the step in hand is one that the newer one needs as well: then that step goes on, and
// what of the newer one does not wait for it is computed beside it, so that an edit is seen at once. Steps
// that take long and are not seen in the model are computed behind those that are, and given up for a newer
// one. What moves goes on after an edit from how it was seen (present_forms.hpp), after one of keys from what
// that leaves as it was (moments_alike.hpp).

#include <chrono>
#include <condition_variable>
#include <functional>
#include <mutex>
#include <optional>
#include <thread>

#include "core/evaluation/evaluator.hpp"
#include "core/evaluation/passing_results.hpp"
#include "core/evaluation/present_forms.hpp"
#include "core/evaluation/recipe.hpp"

namespace plume {

class BackgroundEvaluator {
public:
    struct Progress {
        bool busy = false;
        bool waiting = false;  // something newer than what is in hand
        double seconds = 0;    // since this evaluation began
        ItemId step = 0;       // in hand
        std::size_t index = 0, count = 0;
        double fraction = 0;  // of that step
    };
    // Called on the worker thread with each evaluation, cancelled ones included; of long ones now and then
    // with what is there so far.
    using Finished = std::function<void(Evaluation, const Run&)>;

    // The cache outlives it, and may be used beside it.
    BackgroundEvaluator(const Catalogue& catalogue, ResultStore& cache, Finished finished);
    ~BackgroundEvaluator();  // cancels and waits
    BackgroundEvaluator(const BackgroundEvaluator&) = delete;
    BackgroundEvaluator& operator=(const BackgroundEvaluator&) = delete;

    // Any thread. Replaces a snapshot still waiting.
    // Where moments pass, what takes long and is not seen is left out: the evaluation is not complete.
    enum class Extent { all, seen };
    void submit(StudyPointer study, Budget budget, std::shared_ptr<FileStore> files = nullptr,
                std::optional<Moment> moment = {}, Extent extent = Extent::all);
    // Stops what runs and forgets what waits.
    void cancel();
    // What moves begins at its beginning: what comes next is another study.
    void forget_present();
    Progress progress() const;
    // Waits for what was submitted, that long at most.
    void wait_for(std::chrono::milliseconds most) const;

    static constexpr std::chrono::milliseconds patience{250};
    // How long a step that is done waits to be seen while others are computed.
    static constexpr std::chrono::milliseconds between_looks{200};
    // What takes longer, and is not seen, is not waited for.
    static constexpr std::chrono::milliseconds soon{20};

private:
    using Clock = std::chrono::steady_clock;
    struct Job {
        std::uint64_t number = 0;  // the later the higher
        StudyPointer study;
        std::optional<Moment> moment;
        Budget budget;
        std::shared_ptr<FileStore> files;
        std::map<ItemId, Hash> recipes;
        Extent extent = Extent::all;
    };
    // One evaluation under way.
    struct Lane {
        std::optional<Run> run;
        Clock::time_point started;
        std::uint64_t job = 0;
        std::map<ItemId, Hash> recipes;
        ItemId in_hand = 0;  // step being computed; 0 while results are handed over
        Clock::time_point in_hand_since;
        std::map<ItemId, Clock::duration> spent;  // on each step
        bool unseen = false;                      // what is seen is there
    };
    void work();
    void watch();
    void compute(const Job& job, const Run& run);
    Evaluation compute_part(const Job& job, const Run& run, std::set<ItemId> later);
    std::set<ItemId> slow_and_unseen(const Job& job);
    void note_spent();
    void take_in_hand(Lane& lane, ItemId step);
    bool is_superseded() const;
    void compute_beside(const Job& job, const Run& run, const Hash& in_hand);
    void begin(Lane& lane, const Run& run, const Job& job);
    void take_over_moments(const Job& job);
    void let_go_of_files(const Job& job);
    bool waiting_needs(const Lane& lane) const;
    bool is_overtaken(const Lane& lane) const;
    bool can_go_beside() const;
    bool is_outdated() const;
    bool another_study_waits(const Job& job) const;
    std::map<ItemId, Hash> recipes_at(const Study& study, const std::optional<Moment>& moment) const;
    EvaluationPlan plan_of(const Job& job, const Run& run, Lane& lane);
    void hand_over(Evaluation evaluation, const Run& run);
    void end(Lane& lane);

    const Catalogue& catalogue_;
    ResultStore& cache_;
    Finished finished_;
    std::mutex handing_over_;  // one lane at a time
    mutable std::mutex mutex_;
    mutable std::condition_variable changed_;
    std::optional<Job> waiting_;
    std::uint64_t submitted_ = 0;    // jobs so far
    std::uint64_t seen_beside_ = 0;  // the one that was computed beside, as far as it could be; 0: none
    Lane main_, beside_;
    struct Made {
        std::map<ItemId, Hash> recipes;
        std::optional<Moment> moment;
    };
    Made made_;              // of the worker's thread: the last study that was computed as a whole
    std::set<ItemId> slow_;  // steps that took long when they were last made
    PresentForms present_;
    PassingResults passing_;       // of the worker's thread
    StudyPointer before_;          // likewise: what was evaluated before
    std::uint64_t forgotten_ = 0;  // what was submitted up to this one is of another study
    Progress progress_;            // of the main lane
    bool closing_ = false;
    std::thread thread_;
};

}  // namespace plume
