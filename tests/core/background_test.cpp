#include "core/study/background_evaluator.hpp"

#include <future>

#include "core/support.hpp"

namespace plume {
namespace {

using namespace std::chrono_literals;

// Collects what the worker brings; waits with a limit far above what anything here takes.
class Collector {
public:
    void take(Evaluation evaluation) {
        const std::scoped_lock lock(mutex_);
        taken_.push_back(std::move(evaluation));
        changed_.notify_all();
    }
    template <class Condition>
    bool wait(Condition condition) {
        std::unique_lock lock(mutex_);
        return changed_.wait_for(lock, 60s, [&] { return condition(taken_); });
    }

private:
    std::mutex mutex_;
    std::condition_variable changed_;
    std::vector<Evaluation> taken_;
};

// A kind of step that runs until it is cancelled or let go, to stand for long work.
Catalogue slow_catalogue(std::shared_future<void> gate) {
    StepKind slow;
    slow.key = "slow";
    slow.verb = "Wait";
    slow.sentence = "Wait.";
    slow.results = {Kind::points};
    slow.result_name = "slow";
    slow.estimate = [](const Inputs&) { return Estimate{}; };
    slow.make = [gate](const Inputs&, const plume::Run& run) -> Result<Value> {
        while (gate.wait_for(1ms) != std::future_status::ready)
            if (run.cancelled()) return cancelled_error();
        return Value(test::grid(2, 2));
    };
    return Catalogue({slow});
}

StudyPointer slow_study(const std::string& title) {
    auto study = std::make_shared<Study>();
    study->title = title;
    Step step;
    step.id = 1;
    step.kind = "slow";
    step.name = "slow";
    study->items.emplace_back(std::make_shared<const Step>(step));
    return study;
}

TEST(Background, EvaluatesWhatIsSubmitted) {
    Collector collector;
    BackgroundEvaluator evaluator(standard_catalogue(), 100'000'000,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    const StudyPointer study = test::canopy().study;
    evaluator.submit(study, {});
    ASSERT_TRUE(
        collector.wait([&](const auto& taken) { return !taken.empty() && taken.back().study == study; }));
    EXPECT_TRUE(collector.wait([](const auto& taken) {
        return taken.back().problem_count() == 0 && taken.back().outcome("roof")->value;
    }));
}

TEST(Background, TheNewestSnapshotAlwaysComes) {
    Collector collector;
    BackgroundEvaluator evaluator(standard_catalogue(), 100'000'000,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    test::StudyMaker maker = test::canopy();
    for (int n = 1; n <= 200; ++n)
        evaluator.submit(maker.number("lattice", "columns", std::to_string(n)).study, {});
    EXPECT_TRUE(collector.wait([&](const auto& taken) {
        return !taken.empty() && taken.back().study == maker.study && !taken.back().cancelled;
    }));
    EXPECT_TRUE(collector.wait([](const auto& taken) { return taken.size() <= 200; }));
}

TEST(Background, CancelStopsLongWork) {
    std::promise<void> gate;
    const Catalogue catalogue = slow_catalogue(gate.get_future().share());
    Collector collector;
    BackgroundEvaluator evaluator(catalogue, 1000,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(slow_study("a"), {});
    while (evaluator.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    EXPECT_TRUE(evaluator.progress().busy);
    evaluator.cancel();
    EXPECT_TRUE(collector.wait([](const auto& taken) { return taken.size() == 1 && taken[0].cancelled; }));
}

TEST(Background, ANewerSnapshotReplacesWorkThatTakesTooLong) {
    std::promise<void> gate;
    const Catalogue catalogue = slow_catalogue(gate.get_future().share());
    Collector collector;
    BackgroundEvaluator evaluator(catalogue, 1000,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(slow_study("old"), {});
    while (evaluator.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    evaluator.submit(slow_study("new"), {});
    ASSERT_TRUE(collector.wait([](const auto& taken) { return !taken.empty(); }));
    gate.set_value();
    EXPECT_TRUE(collector.wait([](const auto& taken) {
        return taken.size() == 2 && taken[0].cancelled && taken[1].study->title == "new" &&
               !taken[1].cancelled;
    }));
}

TEST(Background, ClosesInTheMiddleOfWork) {
    std::promise<void> gate;
    const Catalogue catalogue = slow_catalogue(gate.get_future().share());
    std::atomic<int> taken{0};
    {
        BackgroundEvaluator evaluator(catalogue, 1000, [&](Evaluation, const plume::Run&) { ++taken; });
        evaluator.submit(slow_study("a"), {});
        while (evaluator.progress().step != 1)
            std::this_thread::sleep_for(1ms);
    }
    EXPECT_EQ(taken, 1);
}

}  // namespace
}  // namespace plume
