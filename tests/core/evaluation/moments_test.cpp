// Studies that move: time as a name, steps that go on from the moment before, moments kept and found again.

#include "core/evaluation/moments.hpp"

#include <oneapi/tbb/global_control.h>

#include "core/evaluation/moving_points.hpp"
#include "core/evaluation/recipe.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/slots/slot_form.hpp"

namespace plume {
namespace {

using test::begun;
using test::gone_on;
using test::moving_study;

class Moments : public testing::Test {
protected:
    Moments() { begun = gone_on = 0; }

    Evaluation at(const StudyPointer& study, std::size_t frame, ResultStore* store, double rate = 10) const {
        EvaluationPlan plan;
        plan.catalogue = &test::moving_catalogue();
        plan.store = store;
        plan.moment = Moment{frame, rate};
        return evaluate(study, plan, run_);
    }
    static Vec3 first_of(const Evaluation& evaluation, const char* name = "leaves") {
        return lattice_of(test::value_of(evaluation, name))->point(0);
    }
    ResultStore store_{100'000'000};
    plume::Run run_;
};

TEST_F(Moments, AMomentIsReachedByAllBeforeIt) {
    const StudyPointer study = moving_study(R"(, "speed": "= 2 m", "push": "= time")");
    const Vec3 start = first_of(at(study, 0, &store_));
    EXPECT_EQ(begun, 1);
    const Vec3 end = first_of(at(study, 30, &store_));
    EXPECT_EQ(begun, 1);
    EXPECT_EQ(gone_on, 30);
    EXPECT_NEAR(end.x - start.x, 2 * 3.0, 1e-12);
    // The sum of f / 10 over f = 1 … 30, a tenth of a second each.
    EXPECT_NEAR(end.z - start.z, 30 * 31 / 2.0 / 100, 1e-12);
}

TEST_F(Moments, ScrubbedBackNothingIsMadeAgain) {
    const StudyPointer study = moving_study(R"(, "push": "= sin(time * 1 rad) ")");
    std::vector<Vec3> forward;
    for (std::size_t frame = 0; frame <= 12; ++frame)
        forward.push_back(first_of(at(study, frame, &store_)));
    EXPECT_EQ(gone_on, 12);
    for (const std::size_t frame : {11, 3, 0, 7, 12})
        EXPECT_EQ(first_of(at(study, frame, &store_)), forward[frame]) << frame;
    EXPECT_EQ(gone_on, 12);
    EXPECT_EQ(begun, 1);
    // Straight there, with nothing kept.
    EXPECT_EQ(first_of(at(study, 7, nullptr)), forward[7]);
}

TEST_F(Moments, MomentsThatWereLetGoAreMadeAgainTheSame) {
    const StudyPointer study = moving_study(R"(, "push": "= time * time")");
    const std::size_t one = bytes_of(test::value_of(at(study, 0, nullptr), "leaves"));
    ResultStore narrow(3 * one);
    const Vec3 before = first_of(at(study, 4, &narrow));
    (void)at(study, 20, &narrow);
    EXPECT_LE(narrow.bytes(), 3 * one);
    const int made = gone_on;
    EXPECT_EQ(first_of(at(study, 4, &narrow)), before);
    EXPECT_GT(gone_on, made);
}

TEST_F(Moments, OnlyWhatReadsTimeMoves) {
    const StudyPointer study = moving_study("", R"(,
      {"step": "field.formula", "result": "still", "slots": {"points": {"result": "ground"}, "formula": "x"}},
      {"step": "field.formula", "result": "swaying", "slots": {"points": {"result": "ground"}, "formula": "x * time"}},
      {"step": "points.push", "result": "pushed", "slots": {"points": {"result": "ground"}, "amount": {"result": "swaying"}}},
      {"step": "lattice.rectangular", "result": "growing", "slots": {"columns": "= 1 + floor(time) "
}
})");
    const Evaluation early = at(study, 5, &store_), late = at(study, 25, &store_);
    for (const char* name : {"ground", "still"}) {
        EXPECT_EQ(early.outcome(name)->key, late.outcome(name)->key) << name;
        EXPECT_TRUE(late.outcome(name)->from_cache) << name;
    }
    for (const char* name : {"leaves", "swaying", "pushed", "growing"})
        EXPECT_NE(early.outcome(name)->key, late.outcome(name)->key) << name;
    EXPECT_EQ(lattice_of(test::value_of(early, "growing"))->counts()[0], 2U);
    EXPECT_EQ(lattice_of(test::value_of(late, "growing"))->counts()[0], 4U);
}

TEST_F(Moments, AnEditThatDoesNotMatterCostsNothing) {
    const std::string other = R"(,
      {"step": "lattice.rectangular", "result": "other", "slots": {"columns": COUNT}})";
    const auto with = [&](const char* slots, const char* count) {
        std::string steps = other;
        return moving_study(slots, steps.replace(steps.find("COUNT"), 5, count));
    };
    const Vec3 before = first_of(at(with("", "3"), 15, &store_));
    EXPECT_EQ(gone_on, 15);
    EXPECT_EQ(first_of(at(with("", "4"), 15, &store_)), before);
    EXPECT_EQ(gone_on, 15) << "another branch of the study";
    const Vec3 faster = first_of(at(with(R"(, "speed": "= 3 m")", "4"), 15, &store_));
    EXPECT_EQ(gone_on, 30) << "all moments, at another speed";
    EXPECT_NEAR(faster.x - before.x, 2 * 1.5, 1e-12);
    EXPECT_EQ(first_of(at(with("", "4"), 15, &store_)), before);
    EXPECT_EQ(gone_on, 30) << "and back";
    (void)at(with("", "4"), 15, &store_, 20);
    EXPECT_EQ(gone_on, 45) << "other moments at another rate";
}

// An edit that is first felt at a later moment keeps those before it.
TEST_F(Moments, AnEditOfLaterMomentsKeepsEarlierOnes) {
    (void)at(moving_study(R"(, "push": "= if(time < 1, 1, 2) ")"), 15, &store_);
    ASSERT_EQ(gone_on, 15);
    const Vec3 now = first_of(at(moving_study(R"(, "push": "= if(time < 1, 1, 5) ")"), 15, &store_));
    EXPECT_EQ(gone_on, 15 + 6) << "from frame 10 on";
    EXPECT_NEAR(now.z, 9 * 0.1 + 6 * 0.5, 1e-12);
}

TEST_F(Moments, OneThreadAndManyAgree) {
    const auto large = study_from_text(R"({"plume": 1, "page": [
      {"step": "lattice.rectangular", "result": "ground", "slots": {"columns": 99, "rows": 99}},
      {"step": "test.drift", "result": "leaves", "slots": {"points": {"result": "ground"}, "push": "= cos(time * 1 rad) "
}
}]
})");
    const auto study = std::make_shared<const Study>(in_form(**large, test::moving_catalogue()));
    const Value many = test::value_of(at(study, 9, nullptr), "leaves");
    const oneapi::tbb::global_control one_thread(oneapi::tbb::global_control::max_allowed_parallelism, 1);
    const Value one = test::value_of(at(study, 9, nullptr), "leaves");
    for (std::size_t index = 0; index < 10'000; ++index)
        ASSERT_EQ(lattice_of(one)->point(index), lattice_of(many)->point(index));
}

TEST_F(Moments, WithoutAMomentItIsTheFirst) {
    const StudyPointer study = moving_study(R"(, "push": "= time + 1")");
    EvaluationPlan plan;
    plan.catalogue = &test::moving_catalogue();
    const Evaluation first = evaluate(study, plan, run_);
    EXPECT_EQ(first.moment, (Moment{0, study->time.rate}));
    EXPECT_EQ(first_of(first), first_of(at(study, 0, nullptr)));
    Study own = *study;
    own.controls.push_back(std::make_shared<const Control>(Control{"time", 7, 0, 10, 0, "", "", {}}));
    const auto with_control = std::make_shared<const Study>(own);
    const Evaluation later = at(with_control, 1, &store_);
    EXPECT_NEAR(first_of(later).z, 0.8, 1e-12) << "a control of that name stands before it";
}

// What does not lead to a step that goes on is made for the moment that is looked at, and for no other.
TEST_F(Moments, OnTheWayOnlyWhatIsNeededIsMade) {
    const StudyPointer study = moving_study(R"(, "push": "= time")", R"(,
      {"step": "field.formula", "result": "swaying", "slots": {"points": {"result": "leaves"}, "formula": "x * time"}})");
    const Evaluation evaluation = at(study, 6, &store_);
    EXPECT_TRUE(evaluation.outcome("swaying")->value);
    const auto made = [&](const char* name) {
        return store_.kept_frames(chain_of(recipes_of(*study).at(study->step(name)->id), 10)).size();
    };
    EXPECT_EQ(made("swaying"), 1U);
    EXPECT_EQ(gone_on, 6);
}

TEST_F(Moments, AnErrorOnTheWayStopsWhatGoesOnFromIt) {
    const StudyPointer study = moving_study(R"(, "push": "= 1 / (time - 0.5) ")");
    EXPECT_TRUE(at(study, 4, &store_).outcome("leaves")->value);
    const Evaluation broken = at(study, 5, &store_);
    EXPECT_EQ(broken.outcome("leaves")->error->code, ErrorCode::division_by_zero);
    const Evaluation after = at(study, 6, &store_);
    EXPECT_EQ(after.outcome("leaves")->state, StepState::blocked);
    EXPECT_FALSE(after.outcome("leaves")->value);
}

TEST_F(Moments, CancelledOnTheWay) {
    run_.cancel();
    const Evaluation evaluation = at(moving_study(""), 50, &store_);
    EXPECT_TRUE(evaluation.cancelled);
    EXPECT_EQ(evaluation.outcome("leaves")->state, StepState::cancelled);
    EXPECT_EQ(gone_on, 0);
}

}  // namespace
}  // namespace plume
