// The step with a script, where it stands in a study.

#include <cmath>

#include "core/data/curve_set.hpp"
#include "core/exchange/study_file.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/sentence.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

StudyMaker with_script(const std::string& script) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "1");
    maker.number("ground", "width", "2 m").number("ground", "depth", "1 m");
    maker.add("script.lua", "made");
    maker.set("made", "script", Lines{script}).set("made", "ground", ResultName{"ground"});
    return maker;
}

const std::string raised =
    "-- Raise\n-- sentence: Raise {ground} by {by}, {how}.\n-- ground: points\n"
    "-- by: length = 50 cm, from 0 m to 5 m\n-- how: one of evenly, twice\n-- result: points\n"
    "return ground:with{z = ground.z + by * (how == 'twice' and 2 or 1)}";

TEST(ScriptSteps, HeadsBecomeSentencesWithSlots) {
    StudyMaker maker = with_script(raised);
    const Step& step = *maker.study->step("made");
    EXPECT_EQ(sentence_text(*standard_catalogue().find(step), step),
              "Raise ground by 50 cm, evenly: by 7 lines, for at most 60 s and 1000 MB.");
    const Evaluation evaluation = run(maker.study);
    EXPECT_NEAR(lattice_of(*evaluation.outcome("made")->value)->z()[3], 0.5, 1e-15);
    maker.word("made", "how", "twice").number("made", "by", "2 m");
    EXPECT_NEAR(lattice_of(*run(maker.study).outcome("made")->value)->z()[3], 4, 1e-15);
    maker.number("made", "by", "6 m");
    const Error error = error_of(run(maker.study), "made");
    EXPECT_EQ(error.slot, "by");
    EXPECT_NE(sentence(error).find("is above 5 m"), std::string::npos) << sentence(error);
}

TEST(ScriptSteps, LengthsCountWhatTheyCountedWhereTheScriptWasWritten) {
    StudyMaker maker = with_script(
        "-- Raise\n-- sentence: Raise {ground} by {by}.\n-- ground: points\n-- by: length = 50 cm\n"
        "-- result: points\nreturn ground:with{z = by + 0.25, x = ground.x}");
    const StudyPointer there =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree});
    const Evaluation evaluation = run(there);
    const PointLattice& points = *lattice_of(*evaluation.outcome("made")->value);
    EXPECT_NEAR(points.z()[0], 750, 1e-9);
    EXPECT_NEAR(points.x()[5], 1000, 1e-9);
}

TEST(ScriptSteps, WhatIsWrongNamesTheSlotAndNothingIsLost) {
    StudyMaker maker = with_script(raised);
    maker.number("made", "by", "3 m");
    maker.set("made", "script", Lines{"-- Raise\n-- result: points\n-- sentence: Raise {ground"});
    const Error head = error_of(run(maker.study), "made");
    EXPECT_EQ(head.slot, "script");
    EXPECT_EQ(head.begin, std::string("-- Raise\n-- result: points\n-- sentence: Raise ").size());
    // Once the head is mended, what stood in its slots is there again.
    maker.set("made", "script", Lines{raised});
    EXPECT_NEAR(lattice_of(*run(maker.study).outcome("made")->value)->z()[0], 3, 1e-15);
    maker.set("made", "script", Lines{raised + " + nothing.x"});
    const Error body = error_of(run(maker.study), "made");
    EXPECT_EQ(body.slot, "script");
    EXPECT_NE(sentence(body).find("line 7"), std::string::npos) << sentence(body);
}

TEST(ScriptSteps, ScriptsGoWithTheirStudy) {
    StudyMaker maker = with_script(raised);
    maker.number("made", "by", "3 m");
    const auto read = study_from_text(study_to_text(*maker.study));
    ASSERT_TRUE(read) << sentence(read.error());
    EXPECT_TRUE(same(**read, *maker.study));
    EXPECT_NEAR(lattice_of(*run(*read).outcome("made")->value)->z()[0], 3, 1e-15);
}

TEST(ScriptSteps, WhatIsPrintedIsToldWithTheResult) {
    StudyMaker maker = with_script(
        "-- Say\n-- sentence: Say {ground}.\n-- ground: points\n-- result: points\n"
        "for i = 1, 20 do print('row', i) end\nreturn ground");
    const Evaluation evaluation = run(maker.study);
    const auto& remarks = evaluation.outcome("made")->remarks;
    ASSERT_EQ(remarks.size(), 13U);
    EXPECT_EQ(remarks.front().text, "It printed 8 lines before these.");
    EXPECT_EQ(remarks.back().text, "It printed: row  20");
}

TEST(ScriptSteps, CurvesAreReadAndMade) {
    StudyMaker maker;
    maker.add("curve.arc", "bow");
    maker.add("script.lua", "rungs");
    maker.set(
        "rungs", "script",
        Lines{"-- Rungs\n-- sentence: Draw {count} rungs from {bow} down.\n-- bow: curves\n-- count: count = "
              "5\n"
              "-- result: curves\nlocal all = {}\nfor i = 1, count do\n"
              "  local x, y, z = bow:at((i - 1) / (count - 1))\n"
              "  all[i] = line(column{x, x}, column{y, y}, column{z, z - 1})\nend\nreturn curves(all)"});
    maker.set("rungs", "bow", ResultName{"bow"});
    const Evaluation evaluation = run(maker.study);
    const Outcome* outcome = evaluation.outcome("rungs");
    ASSERT_TRUE(outcome->value) << sentence(*outcome->error);
    EXPECT_EQ(std::get<CurveSet>(*outcome->value).curves.size(), 5U);
}

}  // namespace
}  // namespace plume::test
