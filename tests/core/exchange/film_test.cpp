// Films: frames into folders, PNGs that move, and a program that makes films of them.

#include "core/exchange/film.hpp"

#include <cstdlib>
#include <fstream>
#include <sstream>

#include "core/exchange/film_encoder.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/slots/slot_form.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

namespace fs = std::filesystem;

std::string bytes_of_file(const fs::path& path) {
    std::ifstream file(path, std::ios::binary);
    std::ostringstream whole;
    whole << file.rdbuf();
    return whole.str();
}

std::size_t times_in(const std::string& text, std::string_view part) {
    std::size_t times = 0;
    for (std::size_t at = text.find(part); at != std::string::npos; at = text.find(part, at + 1))
        ++times;
    return times;
}

// A flat sheet of 2 by 2 m that grows by 2 m a second, at 4 frames a second.
StudyPointer growing_sheet() {
    const auto study = study_from_text(R"({"plume": 1, "time": {"seconds": 1, "rate": 4}, "page": [
      {"step": "lattice.rectangular", "result": "ground", "show": {"visible": false},
       "slots": {"columns": 2, "rows": 2, "width": "= 2 m + 2 m * time", "depth": "2 m"}},
      {"step": "skin", "result": "sheet", "slots": {"points": {"result": "ground"}, "surface": "flat"}}]})");
    return std::make_shared<const Study>(in_form(**study, standard_catalogue()));
}

class Film : public testing::Test {
protected:
    Film() {
        job_.study = growing_sheet();
        job_.plan.catalogue = &standard_catalogue();
        job_.plan.store = &store_;
        job_.seen = [this](const Evaluation& evaluation) -> Result<std::vector<ExportedResult>> {
            moments_.push_back(evaluation.moment.seconds());
            return std::vector<ExportedResult>{{evaluation.outcome("sheet")->value, "sheet", {}}};
        };
        job_.count = 5;
        job_.how.still.width = 24;
        job_.how.still.height = 17;
        job_.how.still.passes = 1;
        job_.how.still.fit = false;
        job_.how.still.camera = seen_from(StandardView::plan, {});
        path_ = std::getenv("PATH");
    }
    ~Film() override { setenv("PATH", path_.c_str(), 1); }

    // The only ffmpeg there is: a script.
    void pretend(const std::string& script) {
        const fs::path program = folder_ / "ffmpeg";
        std::ofstream(program) << "#!/bin/sh\n" << script << "\n";
        fs::permissions(program, fs::perms::owner_all);
        setenv("PATH", (folder_.path().string() + ":/usr/bin:/bin").c_str(), 1);
    }

    ResultStore store_{100'000'000};
    FilmJob job_;
    std::vector<double> moments_;
    test::Folder folder_;
    std::string path_;
};

TEST_F(Film, EveryFrameIsAPictureOfItsMomentInAFolder) {
    const auto written = write_film(job_, folder_ / "frames", plume::Run());
    ASSERT_TRUE(written) << sentence(written.error());
    EXPECT_NE(written->find("5 frames of 24 × 17 pixels, 1.25 s"), std::string::npos) << *written;
    EXPECT_EQ(moments_, (std::vector<double>{0, 0.25, 0.5, 0.75, 1}));
    std::vector<std::string> pictures;
    for (int number = 1; number <= 5; ++number)
        pictures.push_back(
            bytes_of_file(folder_ / "frames" / ("frame-000" + std::to_string(number) + ".png")));
    for (const std::string& picture : pictures)
        EXPECT_TRUE(picture.starts_with("\x89PNG"));
    EXPECT_NE(pictures.front(), pictures.back()) << "it has grown";
    EXPECT_EQ(std::distance(fs::directory_iterator(folder_ / "frames"), {}), 5);
}

TEST_F(Film, APartOfItIsTheSameAsInTheWhole) {
    ASSERT_TRUE(write_film(job_, folder_ / "whole", plume::Run()));
    job_.first = 2;
    job_.count = 1;
    ASSERT_TRUE(write_film(job_, folder_ / "part", plume::Run()));
    EXPECT_EQ(bytes_of_file(folder_ / "part" / "frame-0001.png"),
              bytes_of_file(folder_ / "whole" / "frame-0003.png"));
}

TEST_F(Film, APngThatMovesHasAllFrames) {
    const auto written = write_film(job_, folder_ / "sheet.png", plume::Run());
    ASSERT_TRUE(written) << sentence(written.error());
    const std::string bytes = bytes_of_file(folder_ / "sheet.png");
    EXPECT_EQ(times_in(bytes, "acTL"), 1U);
    EXPECT_EQ(times_in(bytes, "fcTL"), 5U);
}

// It is written while it is made.
TEST_F(Film, APngThatMovesLeavesTheOldOneWhereItBreaksOff) {
    std::ofstream(folder_ / "sheet.png") << "an older one";
    const auto seen = job_.seen;
    job_.seen = [&](const Evaluation& evaluation) -> Result<std::vector<ExportedResult>> {
        if (evaluation.moment.frame == 3) return Error{ErrorCode::empty_input, "It", "is not there", "Go."};
        return seen(evaluation);
    };
    const auto written = write_film(job_, folder_ / "sheet.png", plume::Run());
    ASSERT_FALSE(written);
    EXPECT_EQ(written.error().message, "is not there");
    EXPECT_EQ(bytes_of_file(folder_ / "sheet.png"), "an older one");
    EXPECT_EQ(std::distance(fs::directory_iterator(folder_.path()), {}), 1);
}

// 24 by 16 pixels: a film has even numbers of rows and columns.
TEST_F(Film, FramesGoToTheProgramOneAfterTheOther) {
    pretend("echo \"$@\" > " + (folder_ / "words").string() +
            "\nfor last in \"$@\"; do :; done\ncat > \"$last\"");
    ASSERT_TRUE(can_encode_films());
    const auto written = write_film(job_, folder_ / "sheet.mp4", plume::Run());
    ASSERT_TRUE(written) << sentence(written.error());
    const std::string film = bytes_of_file(folder_ / "sheet.mp4");
    constexpr std::size_t frame = 24 * 16 * 3;
    ASSERT_EQ(film.size(), 5 * frame);
    EXPECT_NE(film.substr(0, frame), film.substr(4 * frame));
    const std::string words = bytes_of_file(folder_ / "words");
    EXPECT_NE(words.find("-s 24x16 -r 4 -i -"), std::string::npos) << words;
    EXPECT_FALSE(fs::exists(folder_ / ".sheet-part.mp4"));
}

TEST_F(Film, WithoutTheProgramItIsSaidWhatToInstall) {
    setenv("PATH", folder_.path().c_str(), 1);
    EXPECT_FALSE(can_encode_films());
    const auto written = write_film(job_, folder_ / "sheet.mp4", plume::Run());
    ASSERT_FALSE(written);
    EXPECT_EQ(written.error().code, ErrorCode::broke_off);
    EXPECT_NE(written.error().mend.find("apt install ffmpeg"), std::string::npos);
    EXPECT_FALSE(fs::exists(folder_ / "sheet.mp4"));
}

TEST_F(Film, WhatTheProgramSaysIsToldAndNothingIsLeftBehind) {
    pretend(
        "for last in \"$@\"; do :; done\necho half > \"$last\"\necho 'first line' >&2\necho 'no such form' "
        ">&2\nexit 3");
    std::ofstream(folder_ / "sheet.mp4") << "an older film";
    const auto written = write_film(job_, folder_ / "sheet.mp4", plume::Run());
    ASSERT_FALSE(written);
    EXPECT_NE(written.error().message.find("“no such form”"), std::string::npos) << sentence(written.error());
    EXPECT_EQ(bytes_of_file(folder_ / "sheet.mp4"), "an older film");
    EXPECT_FALSE(fs::exists(folder_ / ".sheet-part.mp4"));
}

TEST_F(Film, CancelledItLeavesNothingBehind) {
    pretend("for last in \"$@\"; do :; done\ncat > \"$last\"");
    const plume::Run run;
    const auto seen = job_.seen;
    job_.seen = [&](const Evaluation& evaluation) {
        if (evaluation.moment.frame == 2) run.cancel();
        return seen(evaluation);
    };
    const auto written = write_film(job_, folder_ / "sheet.mp4", run);
    EXPECT_EQ(written.error().code, ErrorCode::cancelled);
    EXPECT_FALSE(fs::exists(folder_ / "sheet.mp4"));
    EXPECT_FALSE(fs::exists(folder_ / ".sheet-part.mp4"));
}

TEST_F(Film, ACameraThatFitsSeesTheFormAtItsLargest) {
    job_.how.still.fit = true;
    job_.turn_rad = 6.28;
    ASSERT_TRUE(write_film(job_, folder_ / "frames", plume::Run()));
    EXPECT_EQ(moments_.size(), 10U) << "first it is looked how large it gets";
    // The last frame, of the largest sheet, has its rim: the ground around it stays as it is where nothing
    // is.
    job_.how.still.fit = false;
    job_.turn_rad = 0;
    job_.how.still.camera.distance = 1e4;
    ASSERT_TRUE(write_film(job_, folder_ / "far", plume::Run()));
    EXPECT_NE(bytes_of_file(folder_ / "frames" / "frame-0005.png"),
              bytes_of_file(folder_ / "far" / "frame-0005.png"));
}

TEST_F(Film, ACameraWithKeysIsFollowed) {
    Study study = *job_.study;
    KeptCamera camera{"over it", seen_from(StandardView::plan, {})};
    camera.keys = {{0, camera.camera, Easing::straight}, {1, camera.camera, Easing::straight}};
    camera.keys[1].camera.distance *= 4;
    study.cameras.push_back(camera);
    job_.study = std::make_shared<const Study>(study);
    job_.camera = "over it";
    ASSERT_TRUE(write_film(job_, folder_ / "frames", plume::Run()));
    job_.camera.clear();
    job_.how.still.camera = camera.keys[1].camera;
    job_.first = 4;
    job_.count = 1;
    ASSERT_TRUE(write_film(job_, folder_ / "last", plume::Run()));
    EXPECT_EQ(bytes_of_file(folder_ / "frames" / "frame-0005.png"),
              bytes_of_file(folder_ / "last" / "frame-0001.png"));
}

TEST_F(Film, WhatCannotBeFilmedIsSaid) {
    job_.count = 0;
    EXPECT_EQ(write_film(job_, folder_ / "frames", plume::Run()).error().code, ErrorCode::empty_input);
    job_.count = 2;
    std::ofstream(folder_ / "taken") << "a file";
    EXPECT_EQ(write_film(job_, folder_ / "taken", plume::Run()).error().code, ErrorCode::file_unwritable);
    job_.how.still.width = 0;
    EXPECT_EQ(write_film(job_, folder_ / "frames", plume::Run()).error().code, ErrorCode::out_of_range);
    job_.how.still.width = 24;
    job_.seen = [](const Evaluation&) -> Result<std::vector<ExportedResult>> {
        return std::vector<ExportedResult>();
    };
    EXPECT_EQ(write_film(job_, folder_ / "frames", plume::Run()).error().code, ErrorCode::nothing_to_write);
}

}  // namespace
}  // namespace plume
