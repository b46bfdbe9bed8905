// Keys: what lies between them, edits of them, and how they stand in files.

#include "core/study/keys.hpp"

#include "core/exchange/study_file.hpp"
#include "core/study/edits/chosen_keys.hpp"
#include "core/study/edits/excerpt.hpp"
#include "core/study/moving.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/study/study_scope.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

Control swell(std::vector<ControlKey> keys, double step = 0) {
    return {"swell", 2, 0, 10, step, "m", "", {}, std::move(keys)};
}

StudyPointer with_control(Control control) {
    return *add_control(Study(), std::move(control));
}

StudyPointer read(const std::string& text) {
    const auto study = study_from_text(text);
    EXPECT_TRUE(study) << sentence(study.error());
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

// Posts: one place that stays, one that moves from (0, 0, 0) by (4, 2, 0) at 2 s to (4, 2, 6) at 4 s.
StudyPointer posts() {
    return read(
        R"({"plume": 1, "page": [{"step": "attractors.points", "result": "posts", "slots": {"places": [
      {"name": "still", "x": "1 m", "y": "0 m", "z": "0 m"},
      {"name": "tip", "x": "9 m", "y": "9 m", "z": "9 m", "keys": [
        {"at": 4, "x": "4 m", "y": "2 m", "z": "6 m"},
        {"at": 0, "x": "0 m", "y": "0", "z": "0 m", "easing": "straight"},
        {"at": 2, "x": "400 cm", "y": "2 m", "z": "0 m"}]}]}}]})");
}

const Place& tip_of(const Study& study) {
    return std::get<Places>(study.step("posts")->slots.at("places"))[1];
}

Edited as_it_is(const Study& study) {
    return std::make_shared<const Study>(study);
}

// Moved at a moment, it stays until a frame before it as it was, and forgets what it would do after it.
TEST(Keys, WhatIsRecordedLeavesWhatWasBefore) {
    const Catalogue& catalogue = standard_catalogue();
    const auto recorded = [&](const Study& study, double seconds, double value) {
        const Edited made = plume::recorded(
            study, catalogue, {keyed_control("swell")}, seconds,
            [&](const Study& kept) { return set_control_value(kept, "swell", value, seconds); });
        EXPECT_TRUE(made);
        return *made;
    };
    const auto at = [](const Study& study, double seconds) {
        return value_at(*study.control("swell"), seconds);
    };
    StudyPointer study = recorded(*with_control(swell({})), 1, 7);
    EXPECT_DOUBLE_EQ(at(*study, 29.0 / 30), 2);
    EXPECT_DOUBLE_EQ(at(*study, 1), 7);
    EXPECT_DOUBLE_EQ(at(*study, 5), 7);
    study = recorded(*study, 31.0 / 30, 8);
    study = recorded(*study, 32.0 / 30, 9);
    EXPECT_EQ(study->control("swell")->keys.size(), 4U) << "one a frame, and the one before";
    for (const ControlKey& key : study->control("swell")->keys)
        EXPECT_EQ(key.easing, Easing::straight) << key.seconds;
    study = recorded(*study, 3, 4);
    EXPECT_DOUBLE_EQ(at(*study, 89.0 / 30), 9) << "it stood still in between";
    // Taken up again in its middle.
    study = recorded(*study, 31.0 / 30, 5);
    EXPECT_DOUBLE_EQ(at(*study, 1), 7);
    EXPECT_DOUBLE_EQ(at(*study, 3), 5);
    // From its beginning.
    study = recorded(*study, 0, 6);
    ASSERT_EQ(study->control("swell")->keys.size(), 1U);
    EXPECT_DOUBLE_EQ(at(*study, 3), 6);
    study = recorded(*with_control(swell({})), 0, 6);
    EXPECT_TRUE(study->control("swell")->keys.empty());
    EXPECT_FALSE(plume::recorded(*study, catalogue, {keyed_control("tide")}, 1, as_it_is));
    const auto refused = [](const Study& kept) { return set_control_value(kept, "swell", NAN, 1); };
    EXPECT_FALSE(plume::recorded(*study, catalogue, {keyed_control("swell")}, 1, refused));
}

TEST(Keys, PlacesAreRecordedTogether) {
    const StudyPointer study = posts();
    const ItemId id = study->step("posts")->id;
    const Edited from = recorded(*study, standard_catalogue(),
                                 {keyed_place(id, "places", 0), keyed_place(id, "places", 1)}, 1, as_it_is);
    ASSERT_TRUE(from);
    const auto& places = std::get<Places>((*from)->step("posts")->slots.at("places"));
    ASSERT_EQ(places[0].keys.size(), 1U);
    EXPECT_DOUBLE_EQ(places[0].keys[0].seconds, 29.0 / 30);
    ASSERT_EQ(places[1].keys.size(), 2U);
    EXPECT_DOUBLE_EQ(places[1].keys[0].seconds, 0);
    EXPECT_DOUBLE_EQ(places[1].keys[1].seconds, 29.0 / 30)
        << "moved evenly from 0 s on: 29 of 60 of (4, 2, 0)";
    EXPECT_NEAR(std::stod(places[1].keys[1].x), 4 * 29.0 / 60, 1e-5);
}
// A key within what eases would make it ease another way.
TEST(Keys, WhatEasesIsRecordedFrameByFrame) {
    const StudyPointer study = with_control(swell({{0.5, 0}, {2, 8}, {3, 1}}));
    const Edited from = recorded(*study, standard_catalogue(), {keyed_control("swell")}, 1, as_it_is);
    ASSERT_TRUE(from);
    for (int frame = 0; frame < 30; ++frame)
        EXPECT_EQ(value_at(*(*from)->control("swell"), frame / 30.0),
                  value_at(*study->control("swell"), frame / 30.0))
            << frame;
    EXPECT_EQ((*from)->control("swell")->keys.size(), 15U) << "at frames 15 to 29";
    EXPECT_EQ((*from)->control("swell")->keys.back().seconds, 29.0 / 30);
    const Edited nothing = recorded(*study, standard_catalogue(), {keyed_control("swell")}, 0, as_it_is);
    ASSERT_TRUE(nothing);
    EXPECT_EQ((*nothing)->control("swell")->keys.size(), 1U);
}

// What rests keeps its own words, so that nothing is rounded.
TEST(Keys, APlaceAtRestIsKeyedAsItIsWritten) {
    const StudyPointer study = posts();
    const ItemId id = study->step("posts")->id;
    const Edited later = key_here(*study, standard_catalogue(), keyed_place(id, "places", 1), 5);
    ASSERT_TRUE(later);
    EXPECT_EQ(tip_of(**later).keys.back().x, "4 m");
    const Edited before = key_here(*study, standard_catalogue(), keyed_place(id, "places", 0), 1);
    ASSERT_TRUE(before);
    EXPECT_EQ(std::get<Places>((*before)->step("posts")->slots.at("places"))[0].keys.front().y, "0 m");
    EXPECT_EQ(keyed_place(*study, standard_catalogue(), {id, "places", 1, {}}), keyed_place(id, "places", 1));
}

TEST(Keys, AMirrorImageIsKeyedAsThePlaceItself) {
    const StudyPointer study = read(R"({"plume": 1, "page": [
      {"step": "attractors.points", "result": "posts", "slots": {"pairs": "x", "places": [
        {"name": "one", "x": "1 m", "y": "2 m", "z": "0 m"}, {"name": "two", "x": "3 m", "y": "2 m", "z": "0 m"}]}}]})");
    const ItemId id = study->step("posts")->id;
    EXPECT_EQ(keyed_place(*study, standard_catalogue(), {id, "places", 3, {}}), keyed_place(id, "places", 1));
}

TEST(Keys, BetweenTwoTheValueEasesAsTheFirstOneSays) {
    for (const auto& [easing, at_quarter] :
         {std::pair{Easing::straight, 0.25}, {Easing::smooth, 5.0 / 32}, {Easing::jump, 0.0}}) {
        const Control control = swell({{1, 2, easing}, {5, 6, Easing::smooth}});
        EXPECT_DOUBLE_EQ(value_at(control, 2), 2 + 4 * at_quarter) << key_of(easing);
        EXPECT_DOUBLE_EQ(value_at(control, 1), 2);
        EXPECT_DOUBLE_EQ(value_at(control, 5), 6);
        EXPECT_DOUBLE_EQ(value_at(control, 0), 2) << "before the first";
        EXPECT_DOUBLE_EQ(value_at(control, 99), 6) << "behind the last";
        EXPECT_EQ(easing_from(key_of(easing)), easing);
    }
    EXPECT_DOUBLE_EQ(value_at(swell({}), 3), 2);
    EXPECT_DOUBLE_EQ(value_at(swell({{3, 7}}), 0), 7);
}

TEST(Keys, SmoothIsAtRestOnBothKeys) {
    const Control control = swell({{0, 0}, {1, 10}});
    constexpr double h = 1e-4;
    EXPECT_LT(value_at(control, h) / h, 0.01);
    EXPECT_LT((10 - value_at(control, 1 - h)) / h, 0.01);
    EXPECT_NEAR((value_at(control, 0.5 + h) - value_at(control, 0.5 - h)) / (2 * h), 15, 1e-4)
        << "3/2 of the mean speed in the middle";
}

TEST(Keys, ControlsStayOnTheirStep) {
    const Control bays = swell({{0, 2, Easing::straight}, {1, 5}}, 1);
    for (const auto& [seconds, value] : {std::pair{0.1, 2.0}, {0.2, 3.0}, {0.49, 3.0}, {0.51, 4.0}})
        EXPECT_EQ(value_at(bays, seconds), value) << seconds;
}

TEST(Keys, CamerasTurnTheWayTheirAnglesCount) {
    KeptCamera round{"round", {}};
    CameraKey from{0, {}, Easing::straight}, to{4, {}, Easing::straight};
    set_degrees(from.camera, 0, 10);
    set_degrees(to.camera, 720, 30);
    from.camera.distance = 10;
    to.camera.distance = 40;
    to.camera.target = {2, 4, 6};
    round.keys = {from, to};
    const Camera middle = camera_at(round, 2);
    EXPECT_NEAR(azimuth_degrees(middle), 360, 1e-9);
    EXPECT_NEAR(elevation_degrees(middle), 20, 1e-9);
    EXPECT_NEAR(middle.distance, 20, 1e-12) << "the geometric mean";
    EXPECT_EQ(middle.target, (Vec3{1, 2, 3}));
}

TEST(Keys, ScopesHoldTheMoment) {
    const StudyPointer study = with_control(swell({{0, 1, Easing::straight}, {4, 3}}));
    const Scope scope = scope_of(*study, 2);
    EXPECT_EQ(scope.find("swell")->value, 2);
    EXPECT_EQ(scope.find("time")->value, 2);
    EXPECT_EQ(scope_of(*with_control({"time", 7, 0, 9, 0, "m", "", {}}), 2).find("time")->value, 7)
        << "a control of that name stands before it";
}

TEST(Keys, ASetValueBecomesAKeyOfItsMoment) {
    const StudyPointer study = with_control(swell({{0, 1, Easing::jump}, {4, 3}}));
    const StudyPointer later = *set_control_value(*study, "swell", 5, 2);
    ASSERT_EQ(later->control("swell")->keys.size(), 3U);
    EXPECT_EQ(later->control("swell")->keys[1], (ControlKey{2, 5}));
    EXPECT_EQ(later->control("swell")->value, 2) << "what it was without keys";
    const StudyPointer again = *set_control_value(*later, "swell", 9, 0);
    EXPECT_EQ(again->control("swell")->keys[0], (ControlKey{0, 9, Easing::jump})) << "it goes on as it did";
    EXPECT_FALSE(set_control_value(*study, "swell", NAN, 1));
}

TEST(Keys, AreSetMovedCopiedEasedAndRemoved) {
    const Keyed what = keyed_control("swell");
    StudyPointer study = with_control(swell({}));
    const auto& keys = [&]() -> const std::vector<ControlKey>& { return study->control("swell")->keys; };
    study = *key_here(*study, standard_catalogue(), what, 1);
    EXPECT_EQ(keys(), (std::vector<ControlKey>{{1, 2}}));
    study = *set_control_value(*study, "swell", 6, 3);
    study = *ease_keys(*study, {{what, {1}}}, Easing::straight);
    study = *copy_keys(*study, {{what, {1}}}, 4);
    EXPECT_EQ(keys(), (std::vector<ControlKey>{{1, 2, Easing::straight}, {3, 6}, {5, 2, Easing::straight}}));
    study = *move_keys(*study, {{what, {1}}}, 3);
    EXPECT_EQ(keys(), (std::vector<ControlKey>{{3, 6}, {4, 2, Easing::straight}, {5, 2, Easing::straight}}));
    study = *remove_keys(*study, {{what, {3, 5}}});
    EXPECT_EQ(keys(), (std::vector<ControlKey>{{4, 2, Easing::straight}}));
    study = *remove_keys(*study, {{what, {4}}});
    EXPECT_TRUE(keys().empty());
    EXPECT_EQ(study->control("swell")->value, 2) << "as the last key was";
}

TEST(Keys, WhatCannotBeIsRefusedWithItsReason) {
    const Keyed what = keyed_control("swell");
    const StudyPointer study = with_control(swell({{1, 2}, {3, 4}}));
    EXPECT_EQ(move_keys(*study, {{what, {1}}}, 2).error().code, ErrorCode::name_clash);
    EXPECT_EQ(copy_keys(*study, {{what, {1}}}, 0).error().code, ErrorCode::name_clash);
    EXPECT_EQ(move_keys(*study, {{what, {1}}}, -2).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(move_keys(*study, {{what, {1}}}, NAN).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(remove_keys(*study, {{what, {1, 2}}}).error().code, ErrorCode::unknown_name);
    EXPECT_EQ(remove_keys(*study, {{keyed_control("swall"), {1}}}).error().code, ErrorCode::unknown_name);
    EXPECT_FALSE(key_here(*study, standard_catalogue(), keyed_place(7, "places", 0), 1));
    EXPECT_FALSE(key_here(*study, standard_catalogue(), keyed_camera("nobody"), 1));
    EXPECT_FALSE(set_timeline(*study, {0, 30}));
    EXPECT_FALSE(set_timeline(*study, {6, 0.5}));
    EXPECT_FALSE(set_timeline(*study, {NAN, 30}));
    EXPECT_FALSE(set_timeline(*study, {1e9, 30}));
    EXPECT_EQ((*set_timeline(*study, {2.5, 24}))->time.last_frame(), 60U);
}

TEST(Keys, PlacesAreDraggedAtTheMoment) {
    const StudyPointer study = posts();
    const ItemId id = study->step("posts")->id;
    const StepKind& kind = *standard_catalogue().find("attractors.points");
    const auto handle = [&](const Study& at, double seconds) {
        return place_handles(at, kind, *at.step("posts"), {}, seconds)[1];
    };
    EXPECT_EQ(handle(*study, 1).position, (Vec3{2, 1, 0}));
    EXPECT_EQ(handle(*study, 3).position, (Vec3{4, 2, 3}));
    EXPECT_TRUE(handle(*study, 3).keyed);
    const auto moved = move_place(*study, standard_catalogue(), id, "places", 1, {2, 1, 5}, 1);
    ASSERT_TRUE(moved) << sentence(moved.error());
    EXPECT_EQ(tip_of(**moved).keys.size(), 4U);
    EXPECT_EQ(handle(**moved, 1).position, (Vec3{2, 1, 5}));
    EXPECT_EQ(handle(**moved, 4).position, (Vec3{4, 2, 6}));
    const auto at_key = move_place(*study, standard_catalogue(), id, "places", 1, {5, 2, 0}, 2);
    EXPECT_EQ(tip_of(**at_key).keys.size(), 3U);
    EXPECT_EQ(tip_of(**at_key).keys[1].x, "500 cm") << "in its unit";
    EXPECT_EQ(tip_of(**at_key).keys[1].y, "2 m");
}

TEST(Keys, APlaceIsKeyedWhereItIs) {
    const StudyPointer study = posts();
    const ItemId id = study->step("posts")->id;
    const StudyPointer keyed = *key_here(*study, standard_catalogue(), keyed_place(id, "places", 1), 3);
    EXPECT_EQ(tip_of(*keyed).keys[2], (PlaceKey{3, "4 m", "2 m", "3 m"}));
    const StudyPointer first = *key_here(*study, standard_catalogue(), keyed_place(id, "places", 0), 3);
    EXPECT_EQ(std::get<Places>(first->step("posts")->slots.at("places"))[0].keys,
              (std::vector<PlaceKey>{{3, "1 m", "0 m", "0 m"}}));
    ASSERT_EQ(key_rows(*first).size(), 2U);
    EXPECT_EQ(key_rows(*first)[0].title, "still");
    EXPECT_EQ(key_rows(*first)[1].keys[0].easing, Easing::straight);
}

TEST(Keys, FollowTheUnitsAndTheNamesOfTheStudy) {
    StudyMaker maker;
    maker.control("lift", 3, "m");
    maker.add("attractors.points", "posts");
    maker.set(
        "posts", "places",
        Places{{"still", "0", "0", "0", "1"},
               {"tip", "1", "2", "lift", "1", {}, {{0, "1", "2", "lift"}, {2, "4", "5 m", "lift * 2"}}}});
    const StudyPointer renamed = *set_control(*maker.study, "lift", {"rise", 3, 0, 10, 0, "m", "", {}});
    EXPECT_EQ(tip_of(*renamed).keys[1].z, "rise * 2");
    const StudyPointer in_cm = with_units(*renamed, standard_catalogue(), {LengthUnit::centimetre, {}});
    EXPECT_EQ(tip_of(*in_cm).keys[1].x, "400");
    EXPECT_EQ(tip_of(*in_cm).keys[1].y, "5 m");
    EXPECT_EQ(users_of_control(*renamed, "rise"), std::vector<std::string>{"posts"});
}

TEST(Keys, ComeBackFromTheirFile) {
    StudyPointer study = posts();
    study = *add_control(*study, swell({{0, 1, Easing::jump}, {2.5, 3}}));
    study = *keep_camera(*study, "round", {});
    Camera there;
    set_degrees(there, 420, 30);
    study = *key_camera(*study, "round", {}, 0);
    study = *key_camera(*study, "round", there, 6);
    study = *set_timeline(*study, {2.5, 24});
    const auto again = study_from_text(study_to_text(*study));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_TRUE(same(*study, **again));
    EXPECT_NEAR(azimuth_degrees((*again)->cameras[0].keys[1].camera), 420, 1e-9);
    Study other = *study;
    other.time.rate = 25;
    EXPECT_FALSE(same(*study, other));
}

TEST(Keys, WrongOnesInFilesAreNamed) {
    const auto error_of = [](const std::string& head) {
        const auto study = study_from_text(R"({"plume": 1, )" + head + R"(, "page": []})");
        return study ? std::string("nothing") : sentence(study.error());
    };
    const auto control = [&](const std::string& keys) {
        return error_of(R"("controls": [{"name": "swell", "keys": )" + keys + "}]");
    };
    EXPECT_NE(control(R"([{"at": 1, "value": 2}, {"at": 1, "value": 3}])").find("two keys at 1 s"),
              std::string::npos);
    for (const char* keys :
         {R"([{"value": 2}])", R"([{"at": -1, "value": 2}])", R"([{"at": 1e9, "value": 2}])",
          R"([{"at": 1, "value": "2"}])", R"([{"at": 1, "value": 2, "easing": "bouncing"}])",
          R"([{"at": 1, "value": 2, "spin": 4}])", R"([3])"})
        EXPECT_NE(control(keys).find("key, number 1, that"), std::string::npos) << control(keys);
    EXPECT_NE(control("3").find("needs a list"), std::string::npos);
    for (const char* time :
         {R"({"seconds": 0})", R"({"rate": 0})", R"({"rate": 1e6})", R"({"speed": 2})", "6"})
        EXPECT_NE(error_of(R"("time": )" + std::string(time)), "nothing") << time;
    // Of places the error is the step's, and nothing is lost.
    const StudyPointer twice = read(R"({"plume": 1, "page": [{"step": "attractors.points", "result": "posts",
      "slots": {"places": [{"name": "tip", "keys": [{"at": 1, "x": "2 m"}, {"at": 1, "x": "3 m"}]}]}}]})");
    const Error error = test::error_of(test::run(twice), "posts");
    EXPECT_EQ(error.slot, "places");
    EXPECT_EQ(error.code, ErrorCode::name_clash);
    const StudyPointer broken = read(R"({"plume": 1, "page": [{"step": "attractors.points", "result": "posts",
      "slots": {"places": [{"name": "tip", "keys": [{"at": 1, "x": "2 m"}, {"at": 3, "x": "3 kg"}]}]}}]})");
    EXPECT_NE(test::error_of(test::run(broken), "posts").where.find("at 3 s"), std::string::npos)
        << sentence(test::error_of(test::run(broken), "posts"));
}

}  // namespace
}  // namespace plume
