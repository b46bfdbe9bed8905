#include "core/exchange/study_file.hpp"

#include <filesystem>
#include <fstream>

#include "core/support.hpp"
#include "folders.hpp"

namespace plume {
namespace {

using test::canopy;
using test::Folder;

const std::string small = R"({"plume": 1, "title": "t", "controls": [], "page": []})";

ErrorCode code_of(std::string_view text) {
    const auto study = study_from_text(text);
    return study ? ErrorCode::number_of_codes : study.error().code;
}

TEST(StudyFile, EveryDemoReadsRunsAndComesBackTheSame) {
    int seen = 0;
    for (const auto& entry : std::filesystem::directory_iterator(test::demo_folder)) {
        if (entry.path().extension() != ".plume") continue;
        ++seen;
        const auto study = load_study(entry.path());
        ASSERT_TRUE(study) << sentence(study.error());
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.files = std::make_shared<FileStore>(test::demo_folder);
        EXPECT_EQ(evaluate(*study, plan, plume::Run()).problem_count(), 0U) << entry.path();
        const auto again = study_from_text(study_to_text(**study));
        ASSERT_TRUE(again) << sentence(again.error());
        EXPECT_TRUE(same(**study, **again));
    }
    EXPECT_GT(seen, 0);
}

TEST(StudyFile, EverythingInAStudySurvives) {
    test::StudyMaker maker = canopy();
    maker.control("swell", 2.5, "m");
    maker.number("rise", "high_length", "swell * 2").word("lattice", "plane", "xz");
    auto study = std::make_shared<Study>(*set_title(*maker.study, "Ein Dach \"mit\"\nZeilen ‘φ’", "note"));
    study->units = {LengthUnit::inch, AngleUnit::radian};
    Heading heading{study->next_id++,
                    "Ground",
                    "a note",
                    HeadingColour::plum,
                    true,
                    Page::sheet,
                    {{"later", R"([1,{"x":2}])"}}};
    study->items.insert(study->items.begin(), std::make_shared<const Heading>(heading));
    Step step = *study->step("roof");
    step.muted = true;
    step.show = {false,
                 false,
                 true,
                 false,
                 true,
                 "rise",
                 {Ramp::dusk, true, 6},
                 "rise",
                 5,
                 {"glass", "#102030"},
                 {{"glow", "1"}}};
    step.unknown = {{"tint", "\"#fff\""}};
    study->items.back() = std::make_shared<const Step>(step);
    study->unknown = {{"weather", "\"fine\""}};
    const auto again = study_from_text(study_to_text(*study));
    ASSERT_TRUE(again) << sentence(again.error());
    auto renumbered = std::make_shared<Study>(**again);
    for (std::size_t at = 0; at < study->items.size(); ++at) {  // ids are given anew in the order of the page
        if (const Step* read = step_of((*again)->items[at])) {
            Step same_id = *read;
            same_id.id = id_of(study->items[at]);
            renumbered->items[at] = std::make_shared<const Step>(same_id);
        } else {
            Heading same_id = *heading_of((*again)->items[at]);
            same_id.id = id_of(study->items[at]);
            renumbered->items[at] = std::make_shared<const Heading>(same_id);
        }
    }
    EXPECT_TRUE(same(*study, *renumbered)) << study_to_text(*study);
}

TEST(StudyFile, WritingTwiceGivesTheSameBytes) {
    const std::string text = study_to_text(*canopy().study);
    EXPECT_EQ(study_to_text(**study_from_text(text)), text);
}

TEST(StudyFile, OneLineASlotSoThatADiffReadsWell) {
    test::StudyMaker maker = canopy();
    const std::string before = study_to_text(*maker.study);
    const std::string after = study_to_text(*maker.number("lattice", "columns", "25").study);
    std::istringstream a(before), b(after);
    std::string x, y;
    int changed = 0, lines = 0;
    while (std::getline(a, x) && std::getline(b, y)) {
        ++lines;
        changed += x != y ? 1 : 0;
    }
    EXPECT_EQ(changed, 1);
    EXPECT_GT(lines, 40);
    EXPECT_NE(after.find("        \"columns\": \"= 25\",\n"), std::string::npos);
}

TEST(StudyFile, UnknownKeysAndSlotShapesAreKept) {
    const std::string text =
        R"({"plume": 1, "title": "t", "sky": {"cloud": [1, 2]}, "controls": [{"name": "a", "value": 1, "mood": "calm"}],
        "page": [{"heading": "H", "smell": "salt"}, {"step": "from.the.future", "result": "r", "slots": {"new": {"shape": 1, "of": "slot"}, "n": "= 2"}, "glow": true}]})";
    const auto study = study_from_text(text);
    ASSERT_TRUE(study) << sentence(study.error());
    const std::string back = study_to_text(**study);
    for (const char* kept : {"\"sky\"", "\"cloud\"", "\"mood\": \"calm\"", "\"smell\": \"salt\"", "\"new\"",
                             "\"shape\"", "\"glow\": true", "from.the.future", "\"n\": \"= 2\""})
        EXPECT_NE(back.find(kept), std::string::npos) << kept << " is lost in\n" << back;
    EXPECT_EQ(study_to_text(**study_from_text(back)), back);
}

TEST(StudyFile, DamageIsNamedNeverACrash) {
    const struct {
        const char* what;
        std::string text;
        ErrorCode code;
    } cases[] = {
        {"whole", small, ErrorCode::number_of_codes},
        {"byte-order mark", "\xEF\xBB\xBF" + small, ErrorCode::number_of_codes},
        {"empty", "", ErrorCode::file_damaged},
        {"blank", " \n\t ", ErrorCode::file_damaged},
        {"binary",
         std::string("\x7f"
                     "ELF\0\1\2\3",
                     8),
         ErrorCode::file_damaged},
        {"truncated", small.substr(0, small.size() / 2), ErrorCode::file_damaged},
        {"a list", "[]", ErrorCode::file_damaged},
        {"a number", "3", ErrorCode::file_damaged},
        {"other JSON", R"({"name": "x"})", ErrorCode::file_damaged},
        {"newer", R"({"plume": 99})", ErrorCode::file_newer},
        {"version as text", R"({"plume": "1"})", ErrorCode::file_damaged},
        {"bad UTF-8", "{\"plume\": 1, \"title\": \"\xff\xfe\"}", ErrorCode::file_damaged},
        {"title as number", R"({"plume": 1, "title": 3})", ErrorCode::file_damaged},
        {"page as object", R"({"plume": 1, "page": {}})", ErrorCode::file_damaged},
        {"step as text", R"({"plume": 1, "page": ["x"]})", ErrorCode::file_damaged},
        {"step without result", R"({"plume": 1, "page": [{"step": "skin"}]})", ErrorCode::file_damaged},
        {"result no name", R"({"plume": 1, "page": [{"step": "skin", "result": "a b"}]})",
         ErrorCode::number_of_codes},
        {"a part and a half", R"({"plume": 1.5})", ErrorCode::file_damaged},
        {"control twice", R"({"plume": 1, "controls": [{"name": "a"}, {"name": "a"}]})",
         ErrorCode::name_clash},
        {"control named sin", R"({"plume": 1, "controls": [{"name": "sin"}]})", ErrorCode::file_damaged},
        {"control range", R"({"plume": 1, "controls": [{"name": "a", "least": 2, "most": 1}]})",
         ErrorCode::file_damaged},
        {"control unit", R"({"plume": 1, "controls": [{"name": "a", "unit": "mile"}]})",
         ErrorCode::file_damaged},
        {"unit", R"({"plume": 1, "units": {"length": "mile"}})", ErrorCode::file_damaged},
        {"huge number", R"({"plume": 1, "controls": [{"name": "a", "value": 1e999}]})",
         ErrorCode::file_damaged},
        {"deep", std::string(100'000, '['), ErrorCode::too_deep},
        {"deep in a step", R"({"plume": 1, "x": )" + std::string(80, '[') + std::string(80, ']') + "}",
         ErrorCode::too_deep},
        {"brackets in text", R"({"plume": 1, "title": ")" + std::string(200, '[') + "\"}",
         ErrorCode::number_of_codes},
    };
    for (const auto& c : cases) {
        EXPECT_EQ(code_of(c.text), c.code) << c.what;
        const auto study = study_from_text(c.text);
        EXPECT_TRUE(study || !study.error().message.empty()) << c.what;
    }
}

TEST(StudyFile, ErrorsSayTheLine) {
    const auto study = study_from_text("{\n\"plume\": 1,\n\"title\": oops\n}");
    EXPECT_NE(study.error().message.find("line 3"), std::string::npos) << study.error().message;
}

// Cut at every byte, and one byte changed at a time: an answer every time.
TEST(StudyFile, EveryCutAndManyChangesAreAnswered) {
    const std::string text = study_to_text(*canopy().study);
    for (std::size_t cut = 0; cut + 2 < text.size(); cut += 3)
        EXPECT_FALSE(study_from_text(text.substr(0, cut)));
    std::uint32_t state = 7;
    for (int round = 0; round < 2000; ++round) {
        std::string changed = text;
        state = state * 1664525U + 1013904223U;
        changed[(state >> 8U) % changed.size()] = static_cast<char>(state >> 24U);
        const auto study = study_from_text(changed);
        if (study && round % 20 == 0) (void)test::run(*study);
    }
}

TEST(StudyFile, HalfAGigabyteIsRefusedUnread) {
    const Folder folder;
    std::ofstream(folder / "large.plume") << "{";
    std::filesystem::resize_file(folder / "large.plume", 500'000'000);  // sparse: takes no room on the disk
    const auto study = load_study(folder / "large.plume");
    EXPECT_EQ(study.error().code, ErrorCode::file_too_large);
    EXPECT_NE(sentence(study.error()).find("500 MB"), std::string::npos) << sentence(study.error());
}

TEST(StudyFile, SaveAndLoad) {
    const Folder folder;
    const StudyPointer study = canopy().study;
    ASSERT_TRUE(save_study(*study, folder / "a.plume"));
    EXPECT_TRUE(same(*study, **load_study(folder / "a.plume")));
    EXPECT_EQ(load_study(folder / "none.plume").error().code, ErrorCode::file_missing);
    std::ofstream(folder / "bad.plume") << "{";
    EXPECT_NE(sentence(load_study(folder / "bad.plume").error()).find("bad.plume"), std::string::npos);
}

// Whatever list a step stands in, it stands on its page, and is the same when it is written and read again.
TEST(StudyFile, StepsInTheListOfTheOtherPageGoToTheirOwn) {
    const auto study = study_from_text(
        R"({"plume": 1, "page": [{"step": "handoff.mesh", "result": "leaves"}, {"step": "numbers.list", "result": "a"}],
            "handoff": [{"heading": "Desk"}, {"step": "numbers.list", "result": "b"}]})");
    ASSERT_TRUE(study) << sentence(study.error());
    const auto& items = (*study)->items;
    ASSERT_EQ(items.size(), 4U);
    EXPECT_EQ(step_of(items[0])->name, "a");
    EXPECT_EQ(step_of(items[1])->name, "b");
    EXPECT_EQ(step_of(items[2])->name, "leaves");
    EXPECT_EQ(heading_of(items[3])->title, "Desk");
    const auto again = study_from_text(study_to_text(**study));
    ASSERT_TRUE(again) << sentence(again.error());
    EXPECT_TRUE(same(**study, **again));
}

}  // namespace
}  // namespace plume
