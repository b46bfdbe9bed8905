// Steps that move go on after a change from how they are seen, and begin at their beginning for all else.

#include "core/evaluation/present_forms.hpp"

#include "core/evaluation/background_evaluator.hpp"
#include "core/evaluation/evaluator.hpp"
#include "core/evaluation/moving_points.hpp"
#include "core/evaluation/recipe.hpp"

namespace plume {
namespace {

using test::moving_study;

// By so much something goes on at once when it is changed, s.
constexpr double soon = 1.0 / 60;

// As a window that looks at a study: what is seen is what the next evaluation goes on from.
class PresentFormsTest : public testing::Test {
protected:
    Evaluation look(const StudyPointer& study, std::size_t frame, double rate = 10) {
        const std::map<ItemId, Hash> recipes = recipes_of(*study);
        EvaluationPlan plan;
        plan.catalogue = &test::moving_catalogue();
        plan.store = &store_;
        plan.moment = Moment{frame, rate};
        plan.going_on = present_.going_on(recipes, *plan.moment);
        Evaluation evaluation = evaluate(study, plan, run_);
        present_.see(evaluation, recipes, *plan.catalogue);
        return evaluation;
    }
    Evaluation at_first(const StudyPointer& study) const {
        EvaluationPlan plan;
        plan.catalogue = &test::moving_catalogue();
        return evaluate(study, plan, run_);
    }
    static double x_of(const Evaluation& evaluation, const char* name = "leaves") {
        return lattice_of(test::value_of(evaluation, name))->point(0).x;
    }
    static std::string remarks_of(const Evaluation& evaluation) {
        std::string all;
        for (const Remark& remark : evaluation.outcome("leaves")->remarks)
            all += remark.text + "\n";
        return all;
    }
    // Metres a second.
    static StudyPointer at_speed(const std::string& speed, const std::string& more = {}) {
        return moving_study(R"(, "speed": "= )" + speed + R"( * 1 m")", more);
    }
    PresentForms present_;
    ResultStore store_{100'000'000};
    plume::Run run_;
    const double start_ = x_of(look(at_speed("1"), 0));
};

TEST_F(PresentFormsTest, AChangeGoesOnFromHowItWas) {
    EXPECT_NEAR(x_of(look(at_speed("1"), 20)), start_ + 2, 1e-12);
    const StudyPointer faster = at_speed("3");
    const Evaluation now = look(faster, 20);
    EXPECT_NEAR(x_of(now), start_ + 2 + 3 * soon, 1e-12) << "a little on, so that the change is seen";
    EXPECT_TRUE(now.outcome("leaves")->hangs_on_changes);
    EXPECT_NE(remarks_of(now).find("Since 2 s it goes on from how it was before a change"), std::string::npos)
        << remarks_of(now);
    const Evaluation later = look(faster, 30);
    EXPECT_NEAR(x_of(later), start_ + 2 + 3 * soon + 3, 1e-12);
    EXPECT_NE(remarks_of(later).find("Since 2 s"), std::string::npos);
    EXPECT_NEAR(x_of(look(faster, 25)), start_ + 2 + 3 * soon + 1.5, 1e-12) << "scrubbed between";
    EXPECT_NEAR(x_of(look(at_speed("5"), 25)), start_ + 2 + 3 * soon + 1.5 + 5 * soon, 1e-12)
        << "changed once more";
}

TEST_F(PresentFormsTest, AChangeGoesOnByAMomentAtMost) {
    (void)look(at_speed("1"), 120, 120);
    EXPECT_NEAR(x_of(look(at_speed("3"), 120, 120)), start_ + 1 + 3.0 / 120, 1e-12);
}

TEST_F(PresentFormsTest, BehindTheChangeItIsMadeFromTheBeginning) {
    (void)look(at_speed("1"), 20);
    const StudyPointer faster = at_speed("3");
    (void)look(faster, 22);
    const Evaluation back = look(faster, 10);
    EXPECT_NEAR(x_of(back), start_ + 3, 1e-12);
    EXPECT_EQ(remarks_of(back), "");
    EXPECT_NEAR(x_of(look(faster, 22)), start_ + 6.6, 1e-12);
}

TEST_F(PresentFormsTest, AChangeAtTheFirstMomentBeginsThere) {
    const Evaluation changed = look(at_speed("3"), 0);
    EXPECT_EQ(x_of(changed), start_);
    EXPECT_EQ(remarks_of(changed), "");
    EXPECT_NEAR(x_of(look(at_speed("3"), 10)), start_ + 3, 1e-12);
}

TEST_F(PresentFormsTest, OtherPointsBeginAgainAndSaySo) {
    (void)look(at_speed("1"), 20);
    const StudyPointer wider = moving_study(R"(, "speed": "= 3 m")", "", 3);
    for (const std::size_t frame : {20U, 21U}) {
        const Evaluation changed = look(wider, frame);
        EXPECT_NEAR(x_of(changed), x_of(at_first(wider)) + 0.3 * static_cast<double>(frame), 1e-12);
        EXPECT_EQ(remarks_of(changed), "There are other points than before. So it began again.\n");
        EXPECT_FALSE(changed.outcome("leaves")->hangs_on_changes);
    }
}

TEST_F(PresentFormsTest, AnUndoneChangeIsAsBefore) {
    const double before = x_of(look(at_speed("1"), 20));
    (void)look(at_speed("3"), 20);
    const Evaluation undone = look(at_speed("1"), 20);
    EXPECT_EQ(x_of(undone), before);
    EXPECT_EQ(remarks_of(undone), "");
    EXPECT_NEAR(x_of(look(at_speed("1"), 30)), start_ + 3, 1e-12);
}

TEST_F(PresentFormsTest, WhatChangesOtherMomentsAloneIsNoChangeNow) {
    (void)look(at_speed("if(time < 3, 1, 1)"), 20);
    const Evaluation later = look(at_speed("if(time < 3, 1, 9)"), 20);
    EXPECT_NEAR(x_of(later), start_ + 2, 1e-12);
    EXPECT_EQ(remarks_of(later), "");
    const Evaluation earlier = look(at_speed("if(time < 1, 5, 1)"), 20);
    EXPECT_NEAR(x_of(earlier), start_ + 0.9 * 5 + 1.1, 1e-12) << "from the beginning";
}

TEST_F(PresentFormsTest, AKeptMomentIsMadeFromTheBeginning) {
    const std::string keep = R"(,
      {"step": "time.keep", "result": "kept", "slots": {"thing": {"result": "leaves"}, "seconds": 2}},
      {"step": "points.push", "result": "pushed", "slots": {"points": {"result": "leaves"}, "amount": "1 m"}})";
    (void)look(at_speed("1", keep), 20);
    const Evaluation changed = look(at_speed("3", keep), 20);
    EXPECT_NEAR(x_of(changed), start_ + 2 + 3 * soon, 1e-12);
    EXPECT_NEAR(x_of(changed, "kept"), start_ + 6, 1e-12);
    EXPECT_FALSE(changed.outcome("kept")->hangs_on_changes);
    EXPECT_TRUE(changed.outcome("pushed")->hangs_on_changes);
    // And no such form counts as a moment of the study that is kept.
    const auto frames = [&](const char* name) {
        const Study& study = *changed.study;
        return store_.kept_frames(chain_of(recipes_of(study).at(study.step(name)->id), 10)).size();
    };
    EXPECT_EQ(frames("pushed"), 0U);
}

// What keeps a later moment has all before it made, from the beginning: what is seen goes on, all the same.
TEST_F(PresentFormsTest, MomentsMadeForAnotherStepDoNotTakeItsPlace) {
    const std::string keep = R"(,
      {"step": "time.keep", "result": "last", "slots": {"thing": {"result": "leaves"}, "seconds": 4}})";
    (void)look(at_speed("1", keep), 20);
    EXPECT_NEAR(x_of(look(at_speed("3", keep), 20), "last"), start_ + 12, 1e-12);
    EXPECT_NEAR(x_of(look(at_speed("3", keep), 21)), start_ + 2 + 3 * soon + 0.3, 1e-12);
    EXPECT_NEAR(x_of(look(at_speed("3", keep), 30)), start_ + 2 + 3 * soon + 3, 1e-12);
    EXPECT_NEAR(x_of(look(at_speed("1", keep), 30)), start_ + 3, 1e-12) << "undone";
}

TEST_F(PresentFormsTest, AnotherRateOrAStudyThatIsForgottenBeginsAnew) {
    (void)look(at_speed("1"), 20);
    EXPECT_TRUE(present_.going_on(recipes_of(*at_speed("3")), {20, 30}).empty());
    EXPECT_EQ(present_.going_on(recipes_of(*at_speed("3")), {20, 10}).size(), 1U);
    present_.forget();
    EXPECT_TRUE(present_.going_on(recipes_of(*at_speed("3")), {20, 10}).empty());
}

// Two that move, one from the other: what was not changed keeps its moments.
TEST_F(PresentFormsTest, WhatItReadsMovesToo) {
    const auto chained = [](const std::string& speed) {
        return moving_study(R"(, "speed": "= 1 m")", R"(,
          {"step": "test.drift", "result": "above", "slots": {"points": {"result": "ground"}, "speed": "= )" +
                                                         speed +
                                                         R"( m"
}
})");
    };
    (void)look(chained("1"), 20);
    const Evaluation changed = look(chained("3"), 30);
    EXPECT_NEAR(x_of(changed), start_ + 3, 1e-12);
    EXPECT_NEAR(x_of(changed, "above"), start_ + 2 + 3 * soon + 3, 1e-12);
    EXPECT_FALSE(changed.outcome("leaves")->hangs_on_changes);
}

// A window's worker does the same by itself, until the study is another.
TEST_F(PresentFormsTest, TheWorkerGoesOnByItself) {
    std::mutex mutex;
    std::condition_variable taken;
    std::optional<Evaluation> last;
    BackgroundEvaluator worker(test::moving_catalogue(), store_, [&](Evaluation e, const plume::Run&) {
        const std::scoped_lock lock(mutex);
        last = std::move(e);
        taken.notify_all();
    });
    const auto shown = [&](const StudyPointer& study) {
        worker.submit(study, {}, nullptr, Moment{20, 10});
        std::unique_lock lock(mutex);
        EXPECT_TRUE(taken.wait_for(lock, std::chrono::seconds(60),
                                   [&] { return last && last->study == study && last->complete; }));
        return x_of(*last);
    };
    EXPECT_NEAR(shown(at_speed("1")), start_ + 2, 1e-12);
    EXPECT_NEAR(shown(at_speed("3")), start_ + 2 + 3 * soon, 1e-12);
    worker.forget_present();
    EXPECT_NEAR(shown(at_speed("4")), start_ + 8, 1e-12);
}

}  // namespace
}  // namespace plume
