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

TEST(ScriptSteps, CountsAreWholeNumbers) {
    StudyMaker maker;
    maker.add("script.lua", "made");
    maker.set("made", "script",
              Lines{"-- Set\n-- sentence: Set {count}.\n-- count: count = 7\n-- result: points\n"
                    "assert(math.type(count) == 'integer')\n"
                    "return scatter(numbers(count), column(count, 0), column(count / 1, 2))"});
    EXPECT_EQ(std::get<PointLattice>(value_of(run(maker.study), "made")).point_count(), 7U);
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

// Every kind, made and read again by a script -------------------------------------------------------------

std::string of_points(const std::string& result, const std::string& body) {
    return "-- Make\n-- sentence: Make it of {ground}.\n-- ground: points\n-- result: " + result + "\n" +
           body;
}
std::string reading(const std::string& kind, const std::string& result, const std::string& body) {
    return "-- Read\n-- sentence: Read {it}.\n-- it: " + kind + "\n-- result: " + result + "\n" + body;
}
// What `make` makes of 3 by 2 points, 1 m apart, and what `read` makes of that.
class Chain {
public:
    Chain(const std::string& kind, const std::string& make, const std::string& result = {},
          const std::string& read = {}) {
        maker_ = with_script(of_points(kind, make));
        if (!read.empty()) {
            maker_.add("script.lua", "again");
            maker_.set("again", "script", Lines{reading(kind, result, read)})
                .set("again", "it", ResultName{"made"});
        }
        evaluation_ = run(maker_.study);
    }
    template <class Form>
    Form made(const char* name = "made") const {
        const Outcome* outcome = evaluation_.outcome(name);
        EXPECT_TRUE(outcome->value) << (outcome->error ? sentence(*outcome->error) : "");
        return std::get<Form>(*outcome->value);
    }
    Error error() const { return error_of(evaluation_, "made"); }
    const StudyMaker& maker() const { return maker_; }

private:
    StudyMaker maker_;
    Evaluation evaluation_;
};

TEST(ScriptKinds, NumbersOnPoints) {
    const Chain chain("numbers", "return ground:numbers(ground.x + 10 * ground.y)", "points",
                      "return it.points:with{z = it.values / 2}");
    const auto numbers = chain.made<FieldOnPoints>();
    EXPECT_EQ(numbers.name, "made") << "they have the name of their step, as formulas read it";
    EXPECT_EQ(numbers.field().dimension, plain_number);
    ASSERT_EQ(numbers.field().values.size(), 6U);
    for (std::size_t at = 0; at < 6; ++at) {
        const Vec3 place = numbers.points.point(at);
        EXPECT_EQ(numbers.field().values[at], place.x + 10 * place.y);
        EXPECT_EQ(chain.made<PointLattice>("again").z()[at], (place.x + 10 * place.y) / 2);
    }
    EXPECT_EQ(Chain("numbers", "return ground:lengths(3)").made<FieldOnPoints>().field().dimension, a_length);
}

TEST(ScriptKinds, Directions) {
    const Chain chain("directions", "return ground:directions(ground.y, 0 - ground.x, 2)", "points",
                      "return it.points:with{z = it.x * it.x + it.y * it.y + it.z}");
    const auto directions = chain.made<DirectionsOnPoints>();
    EXPECT_EQ(directions.name, "made");
    for (std::size_t at = 0; at < 6; ++at) {
        const Vec3 place = directions.points.point(at), way = directions.direction(at);
        EXPECT_EQ(way, (Vec3{place.y, -place.x, 2}));
        EXPECT_NEAR(chain.made<PointLattice>("again").z()[at], place.x * place.x + place.y * place.y + 2,
                    1e-12);
    }
}

TEST(ScriptKinds, Placements) {
    const Chain chain("placements", "return ground:placements(0, 1, 0, 0, 0, 2)", "numbers",
                      "local x, y, z = it:across() return it.points:numbers(x + #it)");
    const auto placements = chain.made<Placements>();
    ASSERT_EQ(placements.placements().size(), 6U);
    EXPECT_EQ(placements.placement(3).along, (Vec3{0, 1, 0}));
    EXPECT_EQ(placements.placement(3).up, (Vec3{0, 0, 1}));
    EXPECT_EQ(placements.placement(3).across, (Vec3{-1, 0, 0}));
    EXPECT_EQ(chain.made<FieldOnPoints>("again").field().values[0], 5);
    // An axis without a length is replaced, as everywhere.
    EXPECT_NEAR(length(Chain("placements", "return ground:placements(0, 0, 0, 0, 0, 0)")
                           .made<Placements>()
                           .placement(0)
                           .up),
                1, 1e-12);
}

TEST(ScriptKinds, Frames) {
    const Chain chain("frame", "return ground:frame(column{1, 2, 3}, column{2, 3, 6})", "frame",
                      "return it.points:frame(it.to, it.from)");
    const auto frame = chain.made<BarFrame>();
    ASSERT_EQ(frame.member_count(), 3U);
    EXPECT_EQ(frame.members()[2].from, 2U);
    EXPECT_EQ(frame.members()[2].to, 5U);
    EXPECT_NEAR(frame.length_of(frame.members()[0]), 1, 1e-12);
    EXPECT_EQ(chain.made<BarFrame>("again").members()[2].from, 5U);
    const Error error = Chain("frame", "return ground:frame(column{1, 2}, column{2, 7})").error();
    EXPECT_NE(sentence(error).find("member 2 ends at 7"), std::string::npos) << sentence(error);
    EXPECT_FALSE(Chain("frame", "return ground:frame(column{1, 2}, column{2, 1})").error().message.empty())
        << "twice the same";
    EXPECT_FALSE(Chain("frame", "return ground:frame(column{0/0}, column{1})").error().message.empty());
}

TEST(ScriptKinds, Surfaces) {
    const Chain chain("surface", "return ground:with{z = 2 + ground.x}:skin()", "points",
                      "local u = numbers(5) / 4\nlocal x, y, z = it:at(u, 0.5)\n"
                      "local a, b, c = it:normal(u, 0.5)\nreturn scatter(x, y, z):with{steep = a / c}");
    EXPECT_EQ(chain.made<SurfaceSet>().patches.size(), 1U);
    const auto places = chain.made<PointLattice>("again");
    for (std::size_t at = 0; at < 5; ++at) {
        EXPECT_NEAR(places.x()[at], -1 + static_cast<double>(at) / 2, 1e-9);
        EXPECT_NEAR(places.y()[at], 0, 1e-9);
        EXPECT_NEAR(places.z()[at], 2 + places.x()[at], 1e-9);
        EXPECT_NEAR(places.field("steep")->values[at], -1, 1e-9) << "it rises by 45 degrees";
    }
    const Error error = Chain("surface", "return scatter(ground.x, ground.y, ground.z):skin()").error();
    EXPECT_EQ(error.slot, "script") << sentence(error);
}

TEST(ScriptKinds, AllCountWhatTheyCountedWhereTheScriptWasWritten) {
    const Chain metres("frame", "return ground:with{z = 1}:frame(column{1}, column{2})", "numbers",
                       "return it.points:lengths(it.points.z * 2)");
    const StudyPointer there =
        with_units(*metres.maker().study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree});
    const Evaluation evaluation = run(there);
    ASSERT_EQ(evaluation.problem_count(), 0U) << sentence(*evaluation.outcome("made")->error);
    const auto& frame = std::get<BarFrame>(*evaluation.outcome("made")->value);
    EXPECT_NEAR(frame.length_of(frame.members()[0]), 1000, 1e-9);
    const auto& lengths = std::get<FieldOnPoints>(*evaluation.outcome("again")->value);
    EXPECT_NEAR(lengths.field().values[0], 2000, 1e-9);
    EXPECT_NEAR(lengths.points.point(0).z, 1000, 1e-9);
}

TEST(ScriptKinds, WhatIsReturnedIsWhatTheHeadSays) {
    for (const char* kind : {"numbers", "directions", "placements", "curves", "surface", "mesh", "frame"}) {
        const Error error = Chain(kind, "return ground").error();
        EXPECT_EQ(error.code, ErrorCode::wrong_kind);
        EXPECT_NE(sentence(error).find(kind), std::string::npos) << sentence(error);
    }
    EXPECT_EQ(Chain("points", "return ground:numbers(1)").error().code, ErrorCode::wrong_kind);
    EXPECT_FALSE(Chain("numbers", "return ground:numbers(column(5, 1))").error().message.empty());
}

StudyMaker counting(const std::string& head, const std::string& rest) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "4").number("ground", "rows", "2");
    maker.add("number.lua", "figure");
    maker.set("figure", "script",
              Lines{"-- Reckon\n-- sentence: Reckon over {ground}.\n-- ground: points\n-- result: " + head +
                    "\n" + rest});
    maker.set("figure", "ground", ResultName{"ground"});
    return maker;
}

TEST(ScriptNumbers, AreReadByTheirNames) {
    StudyMaker maker = counting("count", "return #ground");
    maker.add("lattice.rectangular", "other");
    maker.number("other", "columns", "figure - 10").number("other", "rows", "1");
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(number_of(*evaluation.outcome("figure")->value)->value, 15);
    EXPECT_EQ(lattice_of(*evaluation.outcome("other")->value)->counts()[0], 6U);
}

TEST(ScriptNumbers, HaveUnits) {
    StudyMaker maker = counting("length", "return 2.5");
    const StudyPointer there =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree});
    for (const auto& [study, wanted] : {std::pair{maker.study, 2.5}, std::pair{there, 2500.0}}) {
        const auto number = number_of(*run(study).outcome("figure")->value);
        EXPECT_NEAR(number->value, wanted, 1e-9);
        EXPECT_EQ(number->dimension, a_length);
    }
    const auto turn = number_of(*run(counting("angle", "return math.pi").study).outcome("figure")->value);
    EXPECT_EQ(turn->dimension, an_angle);
    EXPECT_NEAR(turn->value, 3.14159265358979, 1e-12);
}

TEST(ScriptNumbers, WhatIsNoneIsRefused) {
    const std::pair<const char*, const char*> wrong[] = {
        {"return 0 / 0", "returns what is no number"},
        {"return math.huge", "returns an infinite number"},
        {"return 2.5", "returns the number 2.5, and its head says that it gives count"},
        {"return 'seven'", "returns a string"},
        {"return nil", "returns nil"},
        {"return 1, 2", "returns 2 values"},
        {"", "returns nothing"},
        {"return ground", "and its head says that it gives count"}};
    for (const auto& [script, told] : wrong) {
        const Error error = error_of(run(counting("count", script).study), "figure");
        EXPECT_EQ(error.code, ErrorCode::wrong_kind) << script;
        EXPECT_NE(sentence(error).find(told), std::string::npos) << sentence(error);
        EXPECT_EQ(error.slot, "script");
    }
}

// Each of the two steps says that the other one is for it.
TEST(ScriptNumbers, StandInAStepOfTheirOwn) {
    const Error number =
        error_of(run(with_script("-- Count\n-- sentence: Count {ground}.\n-- ground: points\n"
                                 "-- result: number\nreturn #ground")
                         .study),
                 "made");
    EXPECT_NE(number.mend.find("Compute a number by a script"), std::string::npos) << sentence(number);
    const Error points = error_of(run(counting("points", "return ground").study), "figure");
    EXPECT_NE(points.mend.find("‘Compute by a script’"), std::string::npos) << sentence(points);
}

}  // namespace
}  // namespace plume::test
