// Several keys at once: moved, copied, eased, taken away, and made fewer.

#include "core/study/edits/chosen_keys.hpp"

#include <cmath>
#include <limits>
#include <numbers>

#include "core/study/edits/fewer_keys.hpp"
#include "core/study/moving.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

const Keyed swell_key = keyed_control("swell");

StudyPointer with_swell(std::vector<ControlKey> keys) {
    return *add_control(Study(), {"swell", 2, -100, 100, 0, "m", "", {}, std::move(keys)});
}
const std::vector<ControlKey>& keys_of(const Study& study) {
    return study.control("swell")->keys;
}
std::vector<double> moments_of(const Study& study) {
    std::vector<double> moments;
    for (const ControlKey& key : keys_of(study))
        moments.push_back(key.seconds);
    return moments;
}

// One a frame, evenly on.
template <class Value>
std::vector<ControlKey> recorded(int frames, Value value) {
    std::vector<ControlKey> keys;
    for (int frame = 0; frame <= frames; ++frame)
        keys.push_back({frame / 30.0, value(frame / 30.0), Easing::straight});
    return keys;
}
KeyChoice all_of(const Study& study) {
    return {{swell_key, moments_of(study)}};
}

StudyPointer with_places(const char* kind, const char* slot, Places places) {
    StudyMaker maker;
    maker.add(kind, "posts");
    maker.set("posts", slot, std::move(places));
    return maker.study;
}

TEST(ChosenKeys, AreChosenOnceAndInOrder) {
    KeyChoice choice;
    for (const double seconds : {2.0, 1.0, 2.0, 2.0 + 1e-8})
        choose(choice, swell_key, seconds);
    choose(choice, keyed_control("other"), 0.5);
    EXPECT_EQ(choice[0].seconds, (std::vector<double>{1, 2}));
    EXPECT_EQ(key_count(choice), 3U);
    EXPECT_EQ(first_moment(choice), 0.5);
    EXPECT_EQ(first_moment({}), 0);
    EXPECT_TRUE(is_chosen(choice, swell_key, 1 + 1e-8));
    EXPECT_FALSE(is_chosen(choice, swell_key, 0.5));
    EXPECT_EQ(moved_by(choice, 1)[0].seconds, (std::vector<double>{2, 3}));
}

TEST(ChosenKeys, MoveTogetherPastWhereTheyWere) {
    const StudyPointer study = with_swell({{0, 1}, {1, 2}, {2, 3}, {3, 4}, {5, 6}});
    const KeyChoice choice{{swell_key, {1, 2, 3}}};
    // Where one of them was another may come.
    const StudyPointer later = *move_keys(*study, choice, 1);
    EXPECT_EQ(keys_of(*later), (std::vector<ControlKey>{{0, 1}, {2, 2}, {3, 3}, {4, 4}, {5, 6}}));
    EXPECT_EQ(move_keys(*study, choice, 2).error().code, ErrorCode::name_clash) << "on the last one";
    EXPECT_EQ(move_keys(*study, choice, -1).error().code, ErrorCode::name_clash) << "on the first one";
    // Past one that stays.
    EXPECT_EQ(moments_of(**move_keys(*study, choice, 4.5)), (std::vector<double>{0, 5, 5.5, 6.5, 7.5}));
    EXPECT_EQ(move_keys(*study, choice, -1.5).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(move_keys(*study, choice, std::numeric_limits<double>::infinity()).error().code,
              ErrorCode::out_of_range);
    EXPECT_EQ(move_keys(*study, {{swell_key, {1, 2.5}}}, 1).error().code, ErrorCode::unknown_name);
}

TEST(ChosenKeys, AreCopiedEasedAndTakenAway) {
    const StudyPointer study = with_swell({{0, 1}, {1, 2}});
    const KeyChoice both{{swell_key, {0, 1}}};
    EXPECT_EQ(keys_of(**copy_keys(*study, both, 3)),
              (std::vector<ControlKey>{{0, 1}, {1, 2}, {3, 1}, {4, 2}}));
    EXPECT_EQ(copy_keys(*study, both, 1).error().code, ErrorCode::name_clash);
    const StudyPointer jumping = *ease_keys(*study, both, Easing::jump);
    for (const ControlKey& key : keys_of(*jumping))
        EXPECT_EQ(key.easing, Easing::jump);
    const StudyPointer none = *remove_keys(*study, both);
    EXPECT_TRUE(keys_of(*none).empty());
    EXPECT_EQ(none->control("swell")->value, 2) << "as the last one was";
    EXPECT_EQ(keys_of(**remove_keys(*study, {})), keys_of(*study));
}

TEST(ChosenKeys, OfSeveralThingsMoveAtOnceOrNotAtAll) {
    StudyPointer study = with_swell({{1, 2}, {4, 2}});
    study = *add_control(*study, {"turn", 2, -100, 100, 0, "m", "", {}, {{1, 7}, {2, 7}}});
    const KeyChoice choice{{swell_key, {1}}, {keyed_control("turn"), {1}}};
    EXPECT_EQ(move_keys(*study, choice, 1).error().code, ErrorCode::name_clash);
    const StudyPointer moved = *move_keys(*study, choice, 2);
    EXPECT_EQ(moments_of(*moved), (std::vector<double>{3, 4}));
    EXPECT_EQ(moved->control("turn")->keys, (std::vector<ControlKey>{{2, 7}, {3, 7}}));
}

TEST(FewerKeys, CornersOfAnEvenWayAreLeft) {
    // Up for a second, stays for one, down for two.
    const auto way = [](double t) { return t < 1 ? t : t < 2 ? 1.0 : 2 - t / 2; };
    const StudyPointer study = with_swell(recorded(120, way));
    const auto fewer = fewer_keys(*study, standard_catalogue(), all_of(*study), 1e-9);
    ASSERT_TRUE(fewer);
    EXPECT_EQ(moments_of(*fewer->study), (std::vector<double>{0, 1, 2, 4}));
    EXPECT_EQ(fewer->before, 121U);
    EXPECT_EQ(fewer->left, 4U);
}

TEST(FewerKeys, StayWithinTheShareAtEachMoment) {
    const auto way = [](double t) { return 3 * std::sin(std::numbers::pi * t); };
    const StudyPointer study = with_swell(recorded(180, way));
    std::size_t last = 0;
    for (const double share : {0.05, 0.02, 0.01}) {
        const auto fewer = fewer_keys(*study, standard_catalogue(), all_of(*study), share);
        double largest = 0;
        for (int tenth = 0; tenth <= 1800; ++tenth)
            largest = std::max(largest, std::abs(value_at(*fewer->study->control("swell"), tenth / 300.0) -
                                                 value_at(*study->control("swell"), tenth / 300.0)));
        EXPECT_LE(largest, share * 6 * (1 + 1e-12)) << share;
        EXPECT_GT(largest, share * 6 / 10) << "no more keys than are needed";
        EXPECT_LT(fewer->left, fewer->before / 2) << share;
        EXPECT_GT(fewer->left, last) << share;
        EXPECT_EQ(fewer->left, keys_of(*fewer->study).size());
        last = fewer->left;
    }
}

TEST(FewerKeys, WhatIsNotChosenOrDoesNotGoOnEvenlyStays) {
    std::vector<ControlKey> keys = recorded(90, [](double t) { return 2 * t; });
    keys[30].easing = Easing::smooth;
    const StudyPointer study = with_swell(keys);
    EXPECT_EQ(moments_of(*fewer_keys(*study, standard_catalogue(), all_of(*study), 0.01)->study),
              (std::vector<double>{0, 1, 31 / 30.0, 3}));
    KeyChoice some;
    for (int frame = 60; frame <= 90; ++frame)
        choose(some, swell_key, frame / 30.0);
    const auto fewer = fewer_keys(*study, standard_catalogue(), some, 0.01);
    EXPECT_EQ(fewer->before, 31U);
    EXPECT_EQ(fewer->left, 2U);
    EXPECT_EQ(keys_of(*fewer->study).size(), 62U);
    const StudyPointer still = with_swell(recorded(20, [](double) { return 4.0; }));
    EXPECT_EQ(fewer_keys(*still, standard_catalogue(), all_of(*still), 0)->left, 2U);
    EXPECT_EQ(fewer_keys(*study, standard_catalogue(), {{keyed_control("swall"), {1}}}, 0.01).error().code,
              ErrorCode::unknown_name);
    EXPECT_EQ(fewer_keys(*study, standard_catalogue(), {}, 0.01)->left, 0U);
}

TEST(FewerKeys, APlaceIsMeasuredInSpaceAndItsExpressionsStay) {
    Place tip{"tip", "0 m", "0 m", "0 m", "1", {}};
    KeyChoice choice;
    for (int frame = 0; frame <= 60; ++frame) {
        // Three metres along x, with a jitter of 3 mm across.
        tip.keys.push_back({frame / 30.0, std::to_string(frame * 50) + " mm", frame % 2 == 0 ? "0" : "0.003",
                            frame == 20 ? "1 m - 1 m" : "0 m", Easing::straight});
    }
    const StudyPointer study = with_places("attractors.points", "places", {tip});
    const Keyed of = keyed_place(study->step("posts")->id, "places", 0);
    for (const PlaceKey& key : tip.keys)
        choose(choice, of, key.seconds);
    const auto left = [&](double share) {
        std::vector<double> moments;
        const auto fewer = fewer_keys(*study, standard_catalogue(), choice, share);
        for (const PlaceKey& key : std::get<Places>(fewer->study->step("posts")->slots.at("places"))[0].keys)
            moments.push_back(std::round(key.seconds * 30));
        return moments;
    };
    EXPECT_EQ(left(0.002), (std::vector<double>{0, 19, 20, 21, 60}))
        << "6 mm, and the one with an expression";
    EXPECT_EQ(left(0.0005).size(), 61U) << "1.5 mm";
}

// Along a line it is a share: a tenth of it weighs as much as a tenth of what goes on across.
TEST(FewerKeys, WhereAPlaceStandsAlongALineIsMeasuredByItself) {
    Place pole{"pole", "0", "0 m", "0 m", "1", {}};
    KeyChoice choice;
    for (int frame = 0; frame <= 60; ++frame) {
        const double along = 0.1 * std::abs(frame - 30) / 30.0;
        pole.keys.push_back({frame / 30.0, std::to_string(along), std::to_string(100 * frame) + " m", "0 m",
                             Easing::straight});
    }
    const StudyPointer study = with_places("curve.over_base", "poles", {pole});
    ASSERT_TRUE(study->step("posts"));
    const Keyed of = keyed_place(study->step("posts")->id, "poles", 0);
    for (const PlaceKey& key : pole.keys)
        choose(choice, of, key.seconds);
    EXPECT_EQ(fewer_keys(*study, standard_catalogue(), choice, 0.01)->left, 3U);
}

TEST(FewerKeys, CamerasStay) {
    StudyPointer study = *keep_camera(Study(), "round", {});
    for (const double seconds : {0.0, 1.0, 2.0})
        study = *key_camera(*study, "round", {}, seconds);
    const KeyChoice choice{{keyed_camera("round"), {0, 1, 2}}};
    study = *ease_keys(*study, choice, Easing::straight);
    EXPECT_EQ(fewer_keys(*study, standard_catalogue(), choice, 1)->left, 3U);
}

}  // namespace
}  // namespace plume
