// Cameras that a study keeps: edits, files, units, sentences that look by them.

#include <numbers>

#include "core/exchange/study_file.hpp"
#include "core/handoff/pictured_delivery.hpp"
#include "core/study/edits/edits.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

Camera somewhere() {
    Camera camera;
    camera.target = {3, -2, 1.5};
    camera.distance = 12.5;
    camera.azimuth_rad = 1.2345678901234;
    camera.elevation_rad = 0.3;
    camera.perspective = false;
    return camera;
}

// A grid that is pictured by a camera of that name.
StudyMaker pictured(const std::string& view) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("handoff.picture", "picture");
    maker.set("picture", "results", ResultList{ResultList::Of::seen, "", {}});
    maker.word("picture", "view", view);
    return maker;
}

PictureWishes wishes(const StudyPointer& study) {
    return *std::get<Delivery>(test::value_of(test::run(study), "picture"))->wishes.picture;
}

TEST(Cameras, AreKeptPutElsewhereRenamedAndRemoved) {
    const StudyPointer kept = *keep_camera(Study(), "the pool", somewhere());
    ASSERT_NE(kept->camera("the pool"), nullptr);
    EXPECT_NEAR(kept->camera("the pool")->camera.azimuth_rad, somewhere().azimuth_rad, 1e-10);
    const StudyPointer moved = *keep_camera(*kept, "the pool", Camera());
    ASSERT_EQ(moved->cameras.size(), 1U);
    EXPECT_EQ(moved->camera("the pool")->camera.distance, Camera().distance);
    EXPECT_FALSE(same(*kept, *moved));
    const StudyPointer gone = *remove_camera(*moved, "the pool");
    EXPECT_TRUE(gone->cameras.empty());
    EXPECT_EQ(remove_camera(*gone, "the pool").error().code, ErrorCode::unknown_name);
    for (const std::string& name :
         {std::string(), std::string("  "), std::string("plan"), std::string(61, 'a')})
        EXPECT_EQ(keep_camera(Study(), name, Camera()).error().code, ErrorCode::bad_name) << name;
}

TEST(Cameras, SentencesFollowWhatIsRenamed) {
    const StudyPointer study = *keep_camera(*pictured("the pool").study, "the pool", somewhere());
    const StudyPointer renamed = *rename_camera(*study, standard_catalogue(), "the pool", "from the reeds");
    EXPECT_EQ(std::get<WordKey>(renamed->step("picture")->slots.at("view")).key, "from the reeds");
    EXPECT_FALSE(wishes(renamed).seen.fitted);
    const StudyPointer two = *keep_camera(*renamed, "other", Camera());
    EXPECT_EQ(rename_camera(*two, standard_catalogue(), "other", "from the reeds").error().code,
              ErrorCode::name_clash);
    EXPECT_EQ(rename_camera(*two, standard_catalogue(), "nobody", "x").error().code, ErrorCode::unknown_name);
}

TEST(Cameras, StayInFilesAsTheyAre) {
    const StudyPointer study = *keep_camera(*pictured("the pool").study, "the pool", somewhere());
    const std::string text = study_to_text(*study);
    const auto read = study_from_text(text);
    ASSERT_TRUE(read) << sentence(read.error());
    EXPECT_EQ((*read)->cameras, study->cameras);
    EXPECT_EQ(study_to_text(**read), text);
}

TEST(Cameras, WhatAFileSaysWronglyIsNamed) {
    const auto said = [](const std::string& cameras) {
        const auto read = study_from_text(R"({"plume": 1, "page": [], "cameras": )" + cameras + "}");
        return read ? std::string("read") : sentence(read.error());
    };
    EXPECT_EQ(said(R"([{"name": "a", "target": [0, 0, 0]}])"), "read");
    EXPECT_NE(said(R"([{"name": "a"}])").find("three numbers for ‘target’"), std::string::npos);
    EXPECT_NE(said(R"([{"name": "a", "target": [0, "x", 0]}])").find("three numbers"), std::string::npos);
    EXPECT_NE(said(R"([{"target": [0, 0, 0]}])").find("has no ‘name’"), std::string::npos);
    EXPECT_NE(said(R"([{"name": "a", "target": [0, 0, 0], "distance": 0}])").find("distance above 0"),
              std::string::npos);
    EXPECT_NE(said(R"([{"name": "a", "target": [0, 0, 0]}, {"name": "a", "target": [0, 0, 0]}])")
                  .find("which another camera has"),
              std::string::npos);
    EXPECT_NE(said(R"([7])").find("Camera 1"), std::string::npos);
    EXPECT_NE(said(R"({})").find("list"), std::string::npos);
}

TEST(Cameras, StandWhereTheyStoodInOtherUnits) {
    const StudyPointer study = *keep_camera(Study(), "the pool", somewhere());
    const StudyPointer feet = with_units(*study, standard_catalogue(), {LengthUnit::foot, AngleUnit::degree});
    const Camera& camera = feet->camera("the pool")->camera;
    EXPECT_NEAR(camera.distance, 12.5 / 0.3048, 1e-9);
    EXPECT_NEAR(camera.target.y, -2 / 0.3048, 1e-9);
    EXPECT_EQ(camera.elevation_rad, study->camera("the pool")->camera.elevation_rad);
}

TEST(Cameras, WhoLooksByOneThatIsGoneIsTold) {
    const Evaluation made = test::run(pictured("the pool").study);
    ASSERT_TRUE(made.outcome("picture")->error);
    EXPECT_NE(sentence(*made.outcome("picture")->error).find("no such camera is kept"), std::string::npos);
    const StudyPointer kept = *keep_camera(*pictured("the pool").study, "the pool", somewhere());
    EXPECT_EQ(wishes(kept).seen.camera.target, somewhere().target);
    // A camera that moves makes another picture.
    const Hash before = test::run(kept).outcome("picture")->key;
    const StudyPointer moved = *keep_camera(*kept, "the pool", Camera());
    EXPECT_NE(test::run(moved).outcome("picture")->key, before);
}

TEST(Cameras, APictureTakesTheViewOfTheModel) {
    const StudyPointer study = pictured("above").study;
    const ItemId sentence = study->step("picture")->id;
    const StudyPointer first = *with_picture_seen_from(*study, sentence, somewhere());
    ASSERT_EQ(first->cameras.size(), 1U);
    EXPECT_EQ(first->cameras[0].name, "view 1");
    EXPECT_EQ(wishes(first).seen.camera.distance, 12.5);
    // Once more moves the same camera.
    const StudyPointer second = *with_picture_seen_from(*first, sentence, Camera());
    ASSERT_EQ(second->cameras.size(), 1U);
    EXPECT_EQ(wishes(second).seen.camera.distance, Camera().distance);
}

TEST(Pictures, TheSunOfAPlaceIsThatOfTheEphemeris) {
    StudyMaker maker = pictured("above");
    maker.word("picture", "light", "place");
    const PictureWishes june = wishes(maker.study);
    ASSERT_TRUE(june.sun);
    // June 21 at 54 degrees north, three in the afternoon of a clock an hour ahead: half past west of south.
    EXPECT_NEAR(june.sun->z, std::sin(51.85 * std::numbers::pi / 180), 1e-3);
    maker.number("picture", "hour", "23");
    const Evaluation night = test::run(maker.study);
    ASSERT_TRUE(night.outcome("picture")->value);
    ASSERT_EQ(night.outcome("picture")->remarks.size(), 1U);
    EXPECT_NE(night.outcome("picture")->remarks[0].text.find("below the horizon"), std::string::npos);
    maker.number("picture", "day", "31");
    ASSERT_TRUE(test::run(maker.study).outcome("picture")->error);
    EXPECT_EQ(test::run(maker.study).outcome("picture")->error->slot, "day");
}

}  // namespace
}  // namespace plume
