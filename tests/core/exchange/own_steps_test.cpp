// Steps that are kept among one's own: written, found, read again; files that hold none.

#include "core/exchange/own_steps.hpp"

#include <fstream>

#include "core/exchange/study_file.hpp"
#include "core/study/edits/group_steps.hpp"
#include "core/study/sentence.hpp"
#include "core/study/step_group.hpp"
#include "core/study/step_search.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

const std::string script =
    "-- Raise by steps\n-- sentence: Raise {ground} by steps of {rise}.\n-- ground: points\n"
    "-- rise: length = 40 cm\n-- result: points\n"
    "return ground:with{z = floor(ground.x / 3) * rise}\n";

Step with_script(const std::string& text) {
    Step step;
    step.kind = "script.lua";
    step.slots.emplace("script", Lines{text});
    return step;
}
void write(const std::filesystem::path& path, const std::string& text) {
    std::ofstream(path) << text;
}
StudyMaker grouped() {
    StudyMaker maker;
    maker.control("bays", 6);
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "bays");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"ground"});
    const ItemIds items{maker.study->step("ground")->id, maker.study->step("skin")->id};
    auto group = group_of_steps(*maker.study, standard_catalogue(), items, {{"bays", {}, {}}});
    group->title = "Lay a skin";
    group->sentence = "Lay a skin of {bays} bays";
    maker.study = with_group(*maker.study, standard_catalogue(), items, *std::move(group))->study;
    return maker;
}

TEST(OwnSteps, AreWrittenAndFoundInEveryStudy) {
    const test::Folder folder;
    const auto& catalogue = standard_catalogue();
    const auto file = own_step_file(folder.path(), with_script(script), catalogue);
    EXPECT_EQ(file.filename(), "Raise-by-steps.lua");
    ASSERT_TRUE(keep_own_step(file, with_script(script), catalogue));
    const StudyMaker maker = grouped();
    const Step& skin = *maker.study->step("skin");
    const auto other = own_step_file(folder.path(), skin, catalogue);
    EXPECT_EQ(other.filename(), "Lay-a-skin.plume");
    ASSERT_TRUE(keep_own_step(other, skin, catalogue));

    const OwnSteps own = read_own_steps(folder.path(), catalogue);
    ASSERT_EQ(own.steps.size(), 2U);
    EXPECT_TRUE(own.problems.empty());
    Study empty;
    const auto offers = step_offers({empty, catalogue, 0, "", Page::sheet, own.steps}, "lay skin");
    ASSERT_FALSE(offers.empty());
    EXPECT_EQ(offers.front().own, &own.steps[0]);
    EXPECT_EQ(offers.front().kind->verb, "Lay a skin");
    auto added = add_step(empty, catalogue, own.steps[0], 0);
    ASSERT_TRUE(added) << sentence(added.error());
    const Step& step = *added->study->step(added->id);
    EXPECT_EQ(sentence_text(*catalogue.find(step), step), "Lay a skin of 6 bays (2 steps).")
        << "without the control that drove it where it was made";
    EXPECT_EQ(test::run(added->study).problem_count(), 0U);
    // The script reads points: none is there yet.
    const auto raise = step_offers({empty, catalogue, 0, "", Page::sheet, own.steps}, "raise by steps");
    EXPECT_EQ(raise.front().own, &own.steps[1]);
    EXPECT_FALSE(raise.front().fits);
    added = add_step(empty, catalogue, *catalogue.find("lattice.rectangular"), 0);
    added = add_step(*added->study, catalogue, own.steps[1], 1);
    ASSERT_TRUE(added) << sentence(added.error());
    const Step& raised = *added->study->step(added->id);
    EXPECT_EQ(std::get<Lines>(raised.slots.at("script")).text, script) << "embedded";
    EXPECT_EQ(std::get<NumberText>(raised.slots.at("rise")).text, "40 cm");
    EXPECT_EQ(test::run(added->study).problem_count(), 0U);
}

TEST(OwnSteps, FilesThatHoldNoneAreTold) {
    const test::Folder folder;
    const auto& catalogue = standard_catalogue();
    write(folder / "a.lua", script);
    write(folder / "b.lua", "return 1");
    write(folder / "c.plume", "{ \"plume\": 1, \"page\": [");
    write(folder / "d.plume", study_to_text(*test::canopy().study));
    write(folder / "e.lua", std::string(2'000'000, '-'));
    write(folder / "f.txt", "no step");
    write(folder / "g.lua", "");
    std::filesystem::create_directory(folder / "h.lua");
    const OwnSteps own = read_own_steps(folder.path(), catalogue);
    EXPECT_EQ(own.steps.size(), 1U);
    ASSERT_EQ(own.problems.size(), 6U);
    for (const Error& problem : own.problems) {
        EXPECT_NE(sentence(problem).find('.'), std::string::npos);
        EXPECT_FALSE(problem.mend.empty()) << sentence(problem);
    }
    EXPECT_TRUE(read_own_steps(folder / "gone", catalogue).steps.empty());
}

TEST(OwnSteps, ScriptsThatGiveNumbersAreOfTheirKind) {
    const test::Folder folder;
    const auto& catalogue = standard_catalogue();
    write(folder / "count.lua",
          "-- Count points\n-- sentence: Count {ground}.\n-- ground: points\n-- result: count\nreturn "
          "#ground\n");
    const OwnSteps own = read_own_steps(folder.path(), catalogue);
    ASSERT_EQ(own.steps.size(), 1U);
    EXPECT_TRUE(gives_number(own.steps[0]));
    EXPECT_TRUE(can_be_kept(own.steps[0], catalogue));
    EXPECT_EQ(own_step_file(folder.path(), own.steps[0], catalogue).filename(), "Count-points.lua");
    auto added = add_step(Study(), catalogue, *catalogue.find("lattice.rectangular"), 0);
    added = add_step(*added->study, catalogue, own.steps[0], 1);
    ASSERT_TRUE(added) << sentence(added.error());
    const Evaluation evaluation = test::run(added->study);
    EXPECT_EQ(evaluation.problem_count(), 0U);
    EXPECT_GT(number_of(*evaluation.outcome(added->id)->value)->value, 3);
}

TEST(OwnSteps, OnlyWhatHasATextOfItsOwnIsKept) {
    const test::Folder folder;
    const auto& catalogue = standard_catalogue();
    const StudyMaker maker = test::canopy();
    EXPECT_FALSE(keep_own_step(folder / "x.plume", *maker.study->step("lattice"), catalogue));
    EXPECT_FALSE(keep_own_step(folder / "x.lua", with_script("return 1"), catalogue));
    EXPECT_FALSE(std::filesystem::exists(folder / "x.plume"));
    EXPECT_FALSE(std::filesystem::exists(folder / "x.lua"));
}

}  // namespace
}  // namespace plume
