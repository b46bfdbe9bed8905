// Films that are handed off: what is in them, and when they are made anew.

#include <fstream>

#include "core/exchange/study_file.hpp"
#include "core/handoff/hand_off.hpp"
#include "core/handoff/moments.hpp"
#include "core/handoff/pictured_delivery.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

// A flat sheet that grows as a control says, whose first value is 1 whatever comes of it later.
StudyPointer growing_sheet(const std::string& later, const std::string& wishes = "",
                           const std::string& note = "") {
    const auto study =
        study_from_text(R"({"plume": 1, "time": {"seconds": 1, "rate": 4}, "note": ")" + note + R"(",
      "controls": [{"name": "grown", "value": 1, "least": 0, "most": 9, "step": 0.1,
                    "keys": [{"at": 0, "value": 1}, {"at": 1, "value": )" +
                        later + R"(}]}],
      "cameras": [{"name": "slow look", "target": [0, 0, 0], "distance": 20, "azimuth": -60, "elevation": 30}],
      "page": [
      {"step": "lattice.rectangular", "result": "ground", "show": {"visible": false},
       "slots": {"columns": "= 2", "rows": "= 2", "width": "= 1 m * grown", "depth": "= 2 m"}},
      {"step": "skin", "result": "sheet", "slots": {"points": {"result": "ground"}, "surface": "flat"}}],
      "handoff": [{"step": "handoff.film", "result": "film", "slots": {"results": {"all_of": true},
       "format": ".png", "width": "= 24", "height": "= 16")" +
                        wishes + "}}]}");
    if (!study) throw std::runtime_error(sentence(study.error()));
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

class FilmHandOff : public testing::Test {
protected:
    HandOffEntry entry_of(const StudyPointer& study) const {
        const auto plan = plan_hand_off(test::run(study), place_, plume::Run());
        if (!plan) throw std::runtime_error(sentence(plan.error()));
        return plan->entries.at(0);
    }
    Result<std::string> write(const StudyPointer& study) const {
        const auto plan = plan_hand_off(test::run(study), place_, plume::Run());
        return hand_off(*plan, plan->entries.at(0), test::moments_of(*study), place_, false, plume::Run());
    }
    std::string film() const {
        std::ifstream file(folder_ / "handoff" / "untitled.png", std::ios::binary);
        return {std::istreambuf_iterator<char>(file), {}};
    }
    // Chunks that begin a frame.
    static std::size_t frames_in(const std::string& png) {
        std::size_t frames = 0;
        for (std::size_t at = png.find("fcTL"); at != std::string::npos; at = png.find("fcTL", at + 1))
            ++frames;
        return frames;
    }

    test::Folder folder_;
    HandOffPlace place_{folder_ / "study.plume", "2031-05-04", "14:20"};
};

TEST_F(FilmHandOff, HasAllFramesOfTheTimeOrOfAPart) {
    const auto whole = write(growing_sheet("3"));
    ASSERT_TRUE(whole) << sentence(whole.error());
    EXPECT_NE(whole->find("5 frames of 24 × 16 pixels"), std::string::npos) << *whole;
    EXPECT_EQ(frames_in(film()), 5U);
    const auto part = write(growing_sheet("3", R"(, "span": "part", "from": "= 0.5", "until": "= 1")"));
    ASSERT_TRUE(part) << sentence(part.error());
    EXPECT_EQ(frames_in(film()), 3U);
}

TEST_F(FilmHandOff, IsMadeAnewWhereALaterMomentChangesAndNotElse) {
    ASSERT_TRUE(write(growing_sheet("3")));
    EXPECT_TRUE(entry_of(growing_sheet("3")).unchanged);
    EXPECT_TRUE(entry_of(growing_sheet("3", "", "told otherwise")).unchanged);
    EXPECT_FALSE(entry_of(growing_sheet("4")).unchanged) << "the first frame is the same";
    Study faster = *growing_sheet("3");
    faster.time.rate = 8;
    EXPECT_FALSE(entry_of(std::make_shared<const Study>(faster)).unchanged);
}

TEST_F(FilmHandOff, FollowsTheKeysOfItsCamera) {
    const std::string by_camera = R"(, "view": "slow look")";
    Study still = *growing_sheet("1", by_camera), moving = still;
    ASSERT_EQ(still.cameras.size(), 1U);
    Camera later = moving.cameras.front().camera;
    later.distance = 4;
    moving.cameras.front().keys = {{0, moving.cameras.front().camera, {}}, {1, later, {}}};
    ASSERT_TRUE(write(std::make_shared<const Study>(still)));
    const std::string seen_from_one_place = film();
    EXPECT_TRUE(entry_of(std::make_shared<const Study>(still)).unchanged);
    EXPECT_FALSE(entry_of(std::make_shared<const Study>(moving)).unchanged);
    ASSERT_TRUE(write(std::make_shared<const Study>(moving)));
    EXPECT_GT(film().size(), seen_from_one_place.size()) << "frames differ now";
}

TEST_F(FilmHandOff, SaysAtWhichMomentSomethingIsMissing) {
    ASSERT_TRUE(write(growing_sheet("3")));
    const std::string before = film();
    const auto written = write(growing_sheet("-1"));  // nothing is as wide as that
    ASSERT_FALSE(written);
    EXPECT_NE(sentence(written.error()).find("‘sheet’ has no result at 0."), std::string::npos)
        << sentence(written.error());
    EXPECT_EQ(film(), before);
}

TEST_F(FilmHandOff, RefusesWhatEndsBeforeItBeginsAndWhatIsEndless) {
    const StudyPointer backwards = growing_sheet("3", R"(, "span": "part", "from": "= 1", "until": "= 0.5")");
    const HandOffEntry entry = entry_of(backwards);
    ASSERT_TRUE(entry.error);
    EXPECT_NE(sentence(*entry.error).find("before the film begins"), std::string::npos);
    Study endless = *growing_sheet("3");
    endless.time = {86'400, 240};
    const auto written = write(std::make_shared<const Study>(endless));
    ASSERT_FALSE(written);
    EXPECT_EQ(written.error().code, ErrorCode::over_budget);
}

// The tab shows it at the moment that is looked at.
TEST_F(FilmHandOff, HasAPictureOfItsFirstMoment) {
    const HandOffEntry entry = entry_of(growing_sheet("3"));
    ASSERT_TRUE(entry.delivery);
    EXPECT_TRUE(is_picture(*entry.delivery));
    const PictureJob job = picture_job_of(*entry.delivery, {});
    EXPECT_EQ(job.still.width, 24);
    EXPECT_EQ(job.results.size(), 1U);
    EXPECT_EQ(job.turn_pictures, 0);
}

}  // namespace
}  // namespace plume
