// An edit of keys: what was before it stays as it was, and is gone on from.

#include "core/evaluation/moments_alike.hpp"

#include "core/evaluation/background_evaluator.hpp"
#include "core/evaluation/moving_points.hpp"
#include "core/evaluation/recipe.hpp"
#include "core/study/edits/edit_keys.hpp"

namespace plume {
namespace {

using test::moving_study;

constexpr double rate = 10;  // frames a second
constexpr std::size_t most = 100;

StudyPointer with_pace(const StudyPointer& study, std::vector<ControlKey> keys,
                       const std::string& unit = "") {
    Study changed = *study;
    changed.controls = {
        std::make_shared<const Control>(Control{"pace", 1, 0, 10, 0, unit, "", {}, std::move(keys)})};
    return std::make_shared<const Study>(std::move(changed));
}

StudyPointer paced(std::vector<ControlKey> keys, const std::string& more = {}) {
    return with_pace(moving_study(R"(, "speed": "= pace * 1 m")", more), std::move(keys));
}

std::size_t alike(const StudyPointer& before, const StudyPointer& now, const char* name = "leaves") {
    return frames_alike(*before, *now, test::moving_catalogue(), rate, most).at(now->step(name)->id);
}

TEST(MomentsAlike, UpToTheFirstMomentAtWhichAValueDiffers) {
    const auto even = Easing::straight;
    EXPECT_EQ(alike(paced({}), paced({{2, 1, even}, {2.1, 3, even}})), 21U) << "frames 0 to 20";
    EXPECT_EQ(alike(paced({{2, 1, even}, {2.1, 3, even}}), paced({})), 21U);
    EXPECT_EQ(alike(paced({{0, 1, even}, {3, 2, even}}), paced({{0, 1, even}, {3, 2, even}, {4, 7, even}})),
              31U);
    EXPECT_EQ(alike(paced({{0, 1, even}, {3, 2, even}}), paced({{0, 1, even}, {3, 4, even}})), 1U);
    EXPECT_EQ(alike(paced({{0, 1, Easing::jump}, {3, 2}}), paced({{0, 1, Easing::jump}, {5, 2}})), 30U);
    EXPECT_EQ(alike(paced({{0, 2}}), paced({{0, 3}})), 0U);
    EXPECT_EQ(alike(paced({}), paced({})), most);
    EXPECT_EQ(alike(paced({}), paced({{20, 1}, {21, 2}})), most) << "behind all that is asked for";
}

TEST(MomentsAlike, WhatDoesNotReadItIsAlikeThroughout) {
    const auto before = paced({}), now = paced({{0, 4}});
    EXPECT_EQ(alike(before, now, "ground"), most);
    EXPECT_EQ(alike(before, now), 0U);
}

TEST(MomentsAlike, NothingIsWhereMoreThanKeysDiffers) {
    const auto before = paced({});
    EXPECT_EQ(alike(before, moving_study(R"(, "speed": "= pace * 2 m")")), 0U);
    EXPECT_EQ(alike(before, moving_study(R"(, "speed": "= pace * 1 m")")), 0U) << "the control is not there";
    EXPECT_EQ(alike(before, with_pace(before, {}, "m")), 0U);
    EXPECT_EQ(alike(before, with_pace(moving_study(R"(, "speed": "= pace * 1 m")", "", 3), {})), 0U)
        << "what it reads is another";
    Study other = *before;
    other.units.length = LengthUnit::millimetre;
    EXPECT_TRUE(frames_alike(*before, other, test::moving_catalogue(), rate, most).empty());
    const auto renamed = rename_step(*before, before->step("leaves")->id, "petals");
    ASSERT_TRUE(renamed);
    EXPECT_EQ(alike(before, *renamed, "petals"), 0U);
}

// It may be of a moment before all that differ, or behind.
TEST(MomentsAlike, OfAMomentThatIsKeptOnlyThatOneCounts) {
    const std::string keep = R"(,
      {"step": "time.keep", "result": "first", "slots": {"thing": {"result": "leaves"}, "seconds": 2}},
      {"step": "time.keep", "result": "paced", "slots": {"thing": {"result": "leaves"}, "seconds": "= pace"}},
      {"step": "time.keep", "result": "kept", "slots": {"thing": {"result": "leaves"}, "seconds": 4}},
      {"step": "points.push", "result": "pushed", "slots": {"points": {"result": "kept"}, "amount": "1 m"}})";
    const auto before = paced({}, keep), now = paced({{2, 1}, {2.1, 3}}, keep);
    EXPECT_EQ(alike(before, now, "leaves"), 21U);
    EXPECT_EQ(alike(before, now, "first"), most);
    EXPECT_EQ(alike(before, now, "paced"), 0U) << "it moves itself";
    EXPECT_EQ(alike(before, now, "kept"), 0U);
    EXPECT_EQ(alike(before, now, "pushed"), 0U);
    EXPECT_EQ(alike(before, paced({}, keep), "pushed"), most);
}

TEST(MomentsAlike, PlacesAreComparedAsTheyAreWritten) {
    const auto with_places = [](Places places) {
        const auto study = moving_study("", R"(,
          {"step": "attractors.points", "result": "posts", "slots": {"places": []}},
          {"step": "field.distance", "result": "near", "slots": {"points": {"result": "ground"}, "to": {"result": "posts"}}})");
        return *set_slot(*study, study->step("posts")->id, "places", std::move(places));
    };
    const Place still{"one", "1 m", "2 m", "0 m", "1"};
    const auto moving = [&](std::vector<PlaceKey> keys) {
        Place place = still;
        place.keys = std::move(keys);
        return with_places({place});
    };
    const auto before = with_places({still});
    EXPECT_EQ(alike(before, moving({{2, "1 m", "2 m", "0 m"}, {2.1, "1.5 m", "2 m", "0 m"}}), "posts"), 21U);
    EXPECT_EQ(alike(before, moving({{2, "1 m", "2 m", "0 m"}, {2.1, "1.5 m", "2 m", "0 m"}}), "near"), 21U)
        << "what reads them";
    EXPECT_EQ(alike(moving({{0, "1 m", "2 m", "0 m"}, {2, "3 m", "2 m", "0 m"}}),
                    moving({{0, "1 m", "2 m", "0 m"}, {2, "3 m", "2 m", "0 m"}, {3, "4 m", "0 m", "0 m"}}),
                    "posts"),
              21U);
    EXPECT_EQ(alike(before, with_places({still, still}), "posts"), 0U);
    Place heavier = still;
    heavier.weight = "2";
    EXPECT_EQ(alike(before, with_places({heavier}), "posts"), 0U);
    EXPECT_EQ(alike(moving_study(""), before, "ground"), most);
    EXPECT_EQ(alike(moving_study(""), before, "posts"), 0U) << "it was not there";
}

class MomentsTakenOver : public testing::Test {
protected:
    Evaluation at(const StudyPointer& study, std::size_t frame, ResultStore* store) {
        EvaluationPlan plan;
        plan.catalogue = &test::moving_catalogue();
        plan.store = store;
        plan.moment = Moment{frame, rate};
        plan.before_step = [this](const Step& step, std::size_t, std::size_t) {
            if (step.name == "leaves") ++looked_at_;
        };
        return evaluate(study, plan, run_);
    }
    static Vec3 first_of(const Evaluation& evaluation) {
        return lattice_of(test::value_of(evaluation, "leaves"))->point(0);
    }
    std::vector<std::size_t> kept(const StudyPointer& study) const {
        return store_.kept_frames(chain_of(recipes_of(*study).at(study->step("leaves")->id), rate));
    }
    ResultStore store_{100'000'000};
    plume::Run run_;
    int looked_at_ = 0;
};

TEST_F(MomentsTakenOver, ItGoesOnFromTheLastThatIsAlike) {
    const auto before = paced({}), now = paced({{2, 1}, {2.1, 3}});
    (void)at(before, 20, &store_);
    take_over_moments(*before, *now, test::moving_catalogue(), rate, store_);
    looked_at_ = test::gone_on = test::begun = 0;
    const Vec3 there = first_of(at(now, 23, &store_));
    EXPECT_EQ(test::gone_on, 3);
    EXPECT_EQ(test::begun, 0);
    EXPECT_EQ(looked_at_, 4) << "frames 20 to 23";
    ResultStore other(100'000'000);
    EXPECT_EQ(there, first_of(at(now, 23, &other))) << "as from the beginning, to the bit";
    // What is kept of the study that was is not lost for it.
    looked_at_ = test::gone_on = 0;
    (void)at(before, 20, &store_);
    EXPECT_EQ(test::gone_on, 0);
    EXPECT_EQ(looked_at_, 1);
}

TEST_F(MomentsTakenOver, WhatIsKnownToBeKeptGoesAlong) {
    const auto before = paced({}), now = paced({{1, 1}, {1.1, 3}});
    for (std::size_t frame = 0; frame <= 20; ++frame)
        (void)at(before, frame, &store_);
    EXPECT_EQ(kept(before).size(), 21U);
    take_over_moments(*before, *now, test::moving_catalogue(), rate, store_);
    EXPECT_EQ(kept(now).size(), 11U) << "frames 0 to 10";
    take_over_moments(*now, *before, test::moving_catalogue(), rate, store_);
    EXPECT_EQ(kept(before).size(), 21U) << "undone";
}

TEST_F(MomentsTakenOver, LinksAreTakenOverWhereThereAreMore) {
    MomentChains chains;
    const auto key = [](const char* text) { return Hasher().add(text).finish(); };
    const MomentChains::Link first{key("a"), key("a")}, second{key("b"), key("b")};
    chains.set(key("one"), 0, first);
    chains.set(key("one"), 1, second);
    chains.take_over(key("one"), key("two"), 1);
    EXPECT_EQ(chains.find(key("two"), 0), first);
    EXPECT_FALSE(chains.find(key("two"), 1));
    chains.take_over(key("nowhere"), key("two"), 5);
    chains.take_over(key("one"), key("two"), 5);
    EXPECT_EQ(chains.find(key("two"), 1), second);
    // Another link takes those behind it along, in that one alone.
    chains.set(key("two"), 0, second);
    EXPECT_FALSE(chains.find(key("two"), 1));
    EXPECT_EQ(chains.find(key("one"), 1), second);
    chains.take_over(key("one"), key("two"), 1);
    EXPECT_EQ(chains.find(key("two"), 0), second) << "it had as many";
}

TEST_F(MomentsTakenOver, ChainsThatWereNotUsedForLongAreForgottenFirst) {
    MomentChains chains;
    const auto key = [](std::uint64_t number) { return Hasher().add(number).finish(); };
    for (std::uint64_t chain = 0; chain < 3000; ++chain) {
        chains.set(key(0), chain, {key(chain), key(chain)});
        chains.set(key(1 + chain), 0, {key(chain), key(chain)});
    }
    EXPECT_TRUE(chains.find(key(0), 2999)) << "always in use";
    EXPECT_FALSE(chains.find(key(1), 0));
    EXPECT_TRUE(chains.find(key(3000), 0));
}

// As a window does while somebody moves something: a key at each frame that is seen.
TEST_F(MomentsTakenOver, WhatIsKeyedFromMomentToMomentIsAsFromTheBeginning) {
    std::mutex mutex;
    std::condition_variable taken;
    std::optional<Evaluation> last;
    BackgroundEvaluator worker(test::moving_catalogue(), store_, [&](Evaluation e, const plume::Run&) {
        const std::scoped_lock lock(mutex);
        last = std::move(e);
        taken.notify_all();
    });
    const auto shown = [&](const StudyPointer& study, std::size_t frame) {
        const Moment moment{frame, rate};
        worker.submit(study, {}, nullptr, moment);
        std::unique_lock lock(mutex);
        EXPECT_TRUE(taken.wait_for(lock, std::chrono::seconds(60), [&] {
            return last && last->study == study && last->moment == moment && last->complete;
        }));
        return *last;
    };
    std::vector<ControlKey> keys;
    (void)shown(paced(keys), 20);
    keys.push_back({2, 1});
    Vec3 seen{};
    StudyPointer study;
    test::gone_on = 0;
    for (std::size_t frame = 21; frame <= 40; ++frame) {
        keys.push_back({Moment{frame, rate}.seconds(), 1 + 0.1 * static_cast<double>(frame * frame % 7)});
        study = paced(keys);
        const Evaluation made = shown(study, frame);
        EXPECT_FALSE(made.outcome("leaves")->hangs_on_changes) << frame;
        EXPECT_TRUE(made.outcome("leaves")->remarks.empty()) << frame;
        seen = first_of(made);
    }
    EXPECT_EQ(test::gone_on, 20) << "one for each frame";
    // The last key once more, at the same moment: this frame alone is another.
    keys.back().value = 9;
    study = paced(keys);
    const Evaluation again = shown(study, 40);
    EXPECT_FALSE(again.outcome("leaves")->hangs_on_changes);
    EXPECT_EQ(test::gone_on, 21);
    EXPECT_NE(first_of(again), seen);
    EXPECT_EQ(first_of(again), first_of(at(study, 40, nullptr))) << "as it is kept";
}

}  // namespace
}  // namespace plume
