#include "core/evaluation/background_evaluator.hpp"

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

StudyPointer slow_study(const std::string& title, const std::string& slot = "1") {
    auto study = std::make_shared<Study>();
    study->title = title;
    Step step;
    step.id = 1;
    step.kind = "slow";
    step.name = "slow";
    step.slots["number"] = NumberText{slot};
    study->items.emplace_back(std::make_shared<const Step>(step));
    return study;
}

Show hidden_show() {
    Show show;
    show.visible = false;
    return show;
}

TEST(Background, EvaluatesWhatIsSubmitted) {
    Collector collector;
    ResultStore cache(100'000'000);
    BackgroundEvaluator evaluator(standard_catalogue(), cache,
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
    ResultStore cache(100'000'000);
    BackgroundEvaluator evaluator(standard_catalogue(), cache,
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
    ResultStore cache(1000);
    BackgroundEvaluator evaluator(catalogue, cache,
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
    ResultStore cache(1000);
    BackgroundEvaluator evaluator(catalogue, cache,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(slow_study("old"), {});
    while (evaluator.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    evaluator.submit(slow_study("new", "2"), {});
    ASSERT_TRUE(collector.wait([](const auto& taken) { return !taken.empty(); }));
    gate.set_value();
    EXPECT_TRUE(collector.wait([](const auto& taken) {
        return taken.size() == 2 && taken[0].cancelled && taken[1].study->title == "new" &&
               !taken[1].cancelled;
    }));
}

// Hiding a result, another title, a line that is looked at: the step in hand is the same, and goes on.
TEST(Background, AnUnrelatedEditLeavesLongWorkAlone) {
    std::promise<void> gate;
    const Catalogue catalogue = slow_catalogue(gate.get_future().share());
    Collector collector;
    ResultStore cache(1'000'000);
    BackgroundEvaluator evaluator(catalogue, cache,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(slow_study("old"), {});
    while (evaluator.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    const StudyPointer hidden = *set_show(*slow_study("old"), 1, hidden_show());
    evaluator.submit(hidden, {});
    std::this_thread::sleep_for(2 * BackgroundEvaluator::patience);
    EXPECT_TRUE(evaluator.progress().busy);
    gate.set_value();
    EXPECT_TRUE(collector.wait([&](const auto& taken) {
        return taken.size() == 2 && !taken[0].cancelled && taken[1].study == hidden &&
               taken[1].outcome("slow")->from_cache;
    }));
}

StudyPointer with_a_lattice(const StudyPointer& study, const std::string& columns) {
    auto with = std::make_shared<Study>(*study);
    Step step;
    step.id = 2;
    step.kind = "lattice.rectangular";
    step.name = "ground";
    step.slots["columns"] = NumberText{columns};
    with->items.emplace_back(std::make_shared<const Step>(step));
    return with;
}

// What does not read the long step is seen at once; the long step is not begun anew.
TEST(Background, AnEditBesideLongWorkIsSeenMeanwhile) {
    std::promise<void> gate;
    const Catalogue slow = slow_catalogue(gate.get_future().share());
    const Catalogue catalogue({slow.kinds().front(), *standard_catalogue().find("lattice.rectangular")});
    Collector collector;
    ResultStore cache(1'000'000);
    BackgroundEvaluator evaluator(catalogue, cache,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(with_a_lattice(slow_study("old"), "4"), {});
    while (evaluator.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    for (const char* columns : {"5", "6"}) {
        const StudyPointer edited = with_a_lattice(slow_study("new"), columns);
        evaluator.submit(edited, {});
        EXPECT_TRUE(collector.wait([&](const auto& taken) {
            return !taken.empty() && taken.back().study == edited && !taken.back().complete &&
                   taken.back().outcome("ground")->value && !taken.back().outcome("slow");
        }));
        EXPECT_EQ(evaluator.progress().step, 1);
    }
    gate.set_value();
    EXPECT_TRUE(collector.wait([](const auto& taken) {
        return taken.size() == 3 && taken[2].complete && taken[2].outcome("slow")->from_cache &&
               std::get<PointLattice>(*taken[2].outcome("ground")->value).point_count() == 7 * 17;
    }));
}

// What is done is seen while the rest is still computed.
TEST(Background, StepsThatAreDoneAreHandedOverMeanwhile) {
    std::promise<void> gate;
    Catalogue slow = slow_catalogue(gate.get_future().share());
    StepKind first = slow.kinds().front();
    first.key = "first";
    first.make = [](const Inputs&, const plume::Run&) -> Result<Value> {
        std::this_thread::sleep_for(BackgroundEvaluator::between_looks + 50ms);
        return Value(test::grid(3, 3));
    };
    const Catalogue catalogue({first, slow.kinds().front()});
    auto study = std::make_shared<Study>(*slow_study("both"));
    Step step;
    step.id = 2;
    step.kind = "first";
    step.name = "first";
    study->items.insert(study->items.begin(), std::make_shared<const Step>(step));
    Collector collector;
    ResultStore cache(1'000'000);
    BackgroundEvaluator evaluator(catalogue, cache,
                                  [&](Evaluation e, const plume::Run&) { collector.take(std::move(e)); });
    evaluator.submit(study, {});
    EXPECT_TRUE(collector.wait([](const auto& taken) { return taken.size() == 1; }));
    gate.set_value();
    EXPECT_TRUE(collector.wait([](const auto& taken) {
        return taken.size() == 2 && !taken[0].complete && taken[0].outcome("first")->value &&
               !taken[0].outcome("slow") && taken[1].complete && taken[1].outcome("slow")->value;
    }));
}

// A lattice of so many columns that is seen, and something slow made of it that is not.
class BehindWhatIsSeen : public testing::Test {
protected:
    static constexpr std::size_t never_done = 9;  // so many columns wait until they are given up

    static Catalogue catalogue() {
        StepKind slow = slow_catalogue(std::promise<void>().get_future().share()).kinds().front();
        slow.sentence = "Wait for {points}.";
        slow.slots = {reference_slot("points", "Points", {Kind::points})};
        slow.make = [](const Inputs& in, const plume::Run& run) -> Result<Value> {
            std::this_thread::sleep_for(BackgroundEvaluator::soon + 10ms);
            const bool waits = in.points("points").counts()[0] == never_done + 1;
            while (waits && !run.cancelled())
                std::this_thread::sleep_for(1ms);
            if (run.cancelled()) return cancelled_error();
            return Value(in.points("points"));
        };
        return Catalogue({slow, *standard_catalogue().find("lattice.rectangular")});
    }
    static StudyPointer study_of(std::size_t columns, bool shown = false) {
        auto study =
            std::make_shared<Study>(*with_a_lattice(std::make_shared<Study>(), std::to_string(columns)));
        Step step;
        step.id = 1;
        step.kind = "slow";
        step.name = "slow";
        step.slots["points"] = ResultName{"ground"};
        step.show.visible = shown;
        study->items.emplace_back(std::make_shared<const Step>(step));
        return study;
    }
    // The next that is brought, and whether it is of this study, all that is seen of it, and all of it.
    void expect_next(const StudyPointer& study, bool complete) {
        ++brought_;
        ASSERT_TRUE(collector_.wait([&](const auto& taken) { return taken.size() >= brought_; }));
        collector_.wait([&](const auto& taken) {
            const Evaluation& next = taken[brought_ - 1];
            EXPECT_EQ(next.study, study) << brought_;
            EXPECT_FALSE(next.cancelled) << brought_;
            EXPECT_TRUE(next.all_seen) << brought_;
            EXPECT_EQ(next.complete, complete) << brought_;
            EXPECT_TRUE(next.outcome("ground") && next.outcome("ground")->value) << brought_;
            EXPECT_EQ(next.outcome("slow") && next.outcome("slow")->value, complete) << brought_;
            return true;
        });
    }
    void submit(const StudyPointer& study,
                BackgroundEvaluator::Extent extent = BackgroundEvaluator::Extent::all) {
        evaluator_.submit(study, {}, nullptr, Moment{}, extent);
    }

    Catalogue catalogue_ = catalogue();
    Collector collector_;
    std::size_t brought_ = 0;
    ResultStore cache_{10'000'000};
    BackgroundEvaluator evaluator_{
        catalogue_, cache_, [this](Evaluation e, const plume::Run&) { collector_.take(std::move(e)); }};
};

TEST_F(BehindWhatIsSeen, WhatTookLongComesLater) {
    const StudyPointer first = study_of(3), second = study_of(4);
    submit(first);
    expect_next(first, true);
    submit(second);
    expect_next(second, false);
    expect_next(second, true);
    // As it was made: all at once.
    const auto renamed = std::make_shared<Study>(*second);
    renamed->title = "another title";
    submit(renamed);
    expect_next(renamed, true);
    // Seen itself, it is waited for.
    const StudyPointer shown = study_of(5, true);
    submit(shown);
    expect_next(shown, true);
}

TEST_F(BehindWhatIsSeen, WhereMomentsPassItIsLeftOut) {
    const StudyPointer first = study_of(3), second = study_of(4), third = study_of(5);
    submit(first);
    expect_next(first, true);
    for (const StudyPointer& study : {second, third}) {
        submit(study, BackgroundEvaluator::Extent::seen);
        expect_next(study, false);
    }
    submit(third);
    expect_next(third, false);
    expect_next(third, true);
}

TEST_F(BehindWhatIsSeen, ItIsGivenUpForANewerStudy) {
    const StudyPointer first = study_of(3), stuck = study_of(never_done), last = study_of(5);
    submit(first);
    expect_next(first, true);
    submit(stuck);
    expect_next(stuck, false);
    while (evaluator_.progress().step != 1)
        std::this_thread::sleep_for(1ms);
    submit(last);
    expect_next(last, false);
    expect_next(last, true);
}

TEST(Recipes, FollowWhatIsComputedAndNothingElse) {
    test::StudyMaker maker = test::canopy();
    maker.control("swell", 2);
    maker.number("pushed", "factor", "swell");
    const Study& study = *maker.study;
    const auto before = recipes_of(study);
    const auto id = [&](const char* name) { return study.step(name)->id; };
    const auto changed = [&](const Study& other) {
        std::vector<std::string> names;
        for (const auto& [step, recipe] : recipes_of(other))
            if (before.at(step) != recipe) names.push_back(other.step(step)->name);
        return names;
    };
    EXPECT_TRUE(changed(**set_show(study, id("lattice"), hidden_show())).empty());
    EXPECT_TRUE(changed(*set_title(study, "other", "note")).empty());
    EXPECT_TRUE(changed(*add_heading(study, 2, "a heading").study).empty());
    EXPECT_EQ(changed(**set_control_value(study, "swell", 3)), (std::vector<std::string>{"pushed", "roof"}));
    EXPECT_EQ(changed(**set_muted(study, id("rise"), true)),
              (std::vector<std::string>{"rise", "pushed", "roof"}));
}

TEST(Background, ClosesInTheMiddleOfWork) {
    std::promise<void> gate;
    const Catalogue catalogue = slow_catalogue(gate.get_future().share());
    std::atomic<int> taken{0};
    {
        ResultStore cache(1000);
        BackgroundEvaluator evaluator(catalogue, cache, [&](Evaluation, const plume::Run&) { ++taken; });
        evaluator.submit(slow_study("a"), {});
        while (evaluator.progress().step != 1)
            std::this_thread::sleep_for(1ms);
    }
    EXPECT_EQ(taken, 1);
}

}  // namespace
}  // namespace plume
