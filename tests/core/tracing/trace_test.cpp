// Why a part is as it is: followed through moves, copies, parts, throws and frames; numbers by hand.
#include "core/tracing/trace.hpp"

#include <gtest/gtest.h>

#include "core/formula/put_in.hpp"
#include "core/support.hpp"
#include "core/tracing/part_places.hpp"

namespace plume {
namespace {

using test::StudyMaker;

// One step of a trace, as text: titles, lines, remarks.
std::string told(const Trace& trace, const Study& study, const std::string& name) {
    const TracedStep* traced = trace.at(study.step(name)->id);
    if (!traced) return "nothing";
    std::string text;
    for (const TracedPart& part : traced->parts) {
        text += '[' + part.title + "]\n";
        for (const std::string& line : part.lines)
            text += line + '\n';
    }
    for (const std::string& remark : traced->remarks)
        text += remark + '\n';
    return text;
}

bool has(const std::string& text, const std::string& part) {
    return text.find(part) != std::string::npos;
}

class Tracing : public testing::Test {
protected:
    void ask(const std::string& result, const std::string& part) {
        evaluation = test::run(maker.study);
        ASSERT_EQ(evaluation.problem_count(), 0U);
        const auto named = part_named(test::value_of(evaluation, result), result, part);
        ASSERT_TRUE(named) << sentence(named.error());
        auto made =
            trace_part(evaluation, standard_catalogue(), maker.study->step(result)->id, *named, plume::Run());
        ASSERT_TRUE(made) << sentence(made.error());
        trace = *std::move(made);
    }
    std::string at(const std::string& name) const { return told(trace, *maker.study, name); }

    StudyMaker maker;
    Evaluation evaluation;
    Trace trace;
};

// Bays of 1.5 m from (-18, -12) on: the point 14,8 is at (3, 0), 4 m north of ‘south’.
StudyMaker swelling() {
    StudyMaker maker = test::canopy();
    maker.set("perches", "places",
              Places{{"north", "0 m", "6 m", "0 m", "1"}, {"south", "3 m", "-4 m", "0 m", "1"}});
    maker.word("rise", "source", "fixed").number("rise", "from_low", "0").number("rise", "from_high", "8");
    maker.word("roof", "surface", "flat");
    return maker;
}

TEST_F(Tracing, APointIsFollowedThroughItsNumbersToWhereItWasLaid) {
    maker = swelling();
    ask("pushed", "14,8");
    ASSERT_EQ(trace.steps.size(), 5U);
    EXPECT_TRUE(has(at("lattice"), "[i 14  j 8]\nat 3, 0, 0 m\n")) << at("lattice");
    EXPECT_TRUE(has(at("perches"), "[south")) << at("perches");
    EXPECT_FALSE(has(at("perches"), "[north"));
    EXPECT_TRUE(has(at("reach"), "reach 4 m\n")) << at("reach");
    EXPECT_TRUE(has(at("reach"), "the nearest is south, 4 m away")) << at("reach");
    EXPECT_FALSE(has(at("reach"), "at 3, 0")) << "it has not moved";
    EXPECT_TRUE(
        has(at("rise"), "4 m of 0 m … 8 m is a share of 0.5, answered by 0.5: of 0 m … 3.2 m that is 1.6 m"))
        << at("rise");
    EXPECT_TRUE(has(at("pushed"), "at 3, 0, 1.6 m, moved by 0, 0, 1.6 m")) << at("pushed");
}

TEST_F(Tracing, AResponseTellsItsShareAndItsAnswer) {
    maker = swelling();
    maker.word("reach", "response", "smooth_step").number("reach", "reach", "8 m");
    ask("reach", "14,8");
    // t = 4/8; 3 t² - 2 t³ = 0.5.
    EXPECT_TRUE(has(at("reach"), "within 8 m that is t = 0.5, answered by 0.5")) << at("reach");
    maker.word("reach", "combination", "sum");
    ask("reach", "14,8");
    EXPECT_TRUE(has(at("reach"), "south, 4 m away; within 8 m")) << at("reach");
    EXPECT_TRUE(has(at("reach"), "north, 6.7082 m away")) << at("reach");
    EXPECT_TRUE(has(at("perches"), "[south") && has(at("perches"), "[north"));
}

TEST_F(Tracing, TheCornersOfASkinsFaceAreItsPoints) {
    maker = swelling();
    ask("roof", "vertex 214");  // 14 + 8 × 25
    EXPECT_TRUE(has(at("pushed"), "[i 14  j 8]")) << at("pushed");
    ask("roof", "face 0");
    for (const char* corner : {"[i 0  j 0]", "[i 1  j 0]", "[i 0  j 1]", "[i 1  j 1]"})
        EXPECT_TRUE(has(at("pushed"), corner)) << corner << at("pushed");
}

TEST_F(Tracing, ASmoothSurfaceIsFollowedByThePointsItWasMadeThrough) {
    maker = swelling();
    maker.word("roof", "surface", "smooth");
    maker.add("thing.move", "lifted");
    maker.set("lifted", "thing", ResultName{"roof"}).number("lifted", "z", "2 m");
    ask("lifted", "14,8");
    EXPECT_TRUE(has(at("lifted"), "[point 14,8]") && has(at("lifted"), "moved by 0, 0, 2 m")) << at("lifted");
    EXPECT_EQ(at("roof"), "[point 14,8]\n") << "it is where its point is, and has its numbers";
    EXPECT_TRUE(has(at("pushed"), "[i 14  j 8]")) << at("pushed");
    EXPECT_TRUE(has(at("lattice"), "at 3, 0, 0 m")) << at("lattice");
    // At the corner that lies at zero too.
    maker.number("lattice", "width", "0.3 m").number("lattice", "depth", "0.3 m");
    maker.word("lattice", "origin", "corner");
    ask("roof", "0,0");
    EXPECT_EQ(at("roof"), "[point 0,0]\n");
    EXPECT_TRUE(has(at("lattice"), "[i 0  j 0]")) << at("lattice");
}

TEST_F(Tracing, ACurveIsFollowedByThePointsItWasMadeThrough) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("curve.join", "rows");
    maker.word("rows", "route", "rows");
    maker.add("thing.repeat", "copies");
    maker.number("copies", "count", "2").number("copies", "x", "0 m").number("copies", "z", "4 m");
    ask("copies", "19,7");
    EXPECT_TRUE(has(at("copies"), "[curve 19, point 7]") && has(at("copies"), "copy 2 of 2")) << at("copies");
    EXPECT_EQ(at("rows"), "[curve 2, point 7]\n");
    EXPECT_TRUE(has(at("lattice"), "[i 7  j 2]")) << at("lattice");
    const Value rows = test::value_of(evaluation, "rows");
    EXPECT_FALSE(part_named(rows, "rows", "17,0"));
    EXPECT_FALSE(part_named(rows, "rows", "0,25"));
    EXPECT_EQ(part_named(rows, "rows", "16,24")->number, 17U * 25U - 1);
}

TEST_F(Tracing, CopiesOfASurfaceAreFollowedToIt) {
    maker = swelling();
    maker.word("roof", "surface", "smooth");
    maker.add("thing.repeat", "copies");
    maker.set("copies", "thing", ResultName{"roof"})
        .number("copies", "count", "3")
        .number("copies", "x", "50 m");
    ask("copies", "2,14,8");
    EXPECT_TRUE(has(at("copies"), "copy 3 of 3")) << at("copies");
    EXPECT_TRUE(has(at("roof"), "[point 14,8]")) << at("roof");
    EXPECT_TRUE(has(at("pushed"), "[i 14  j 8]")) << at("pushed");
}

TEST_F(Tracing, LinesOfAFormulaHaveTheirValuesPutIn) {
    maker.control("swell", 3.2, "m");
    maker.add("lattice.rectangular", "lattice");
    maker.add("points.move_formula", "moved");
    maker.formula("moved", "rise = swell * 0.5 # half of it\nto_z = z + rise");
    ask("moved", "2,1");
    EXPECT_TRUE(has(at("moved"), "rise 1.6 m = swell 3.2 m × 0.5\n")) << at("moved");
    EXPECT_TRUE(has(at("moved"), "to_z 1.6 m = z 0 m + rise 1.6 m\n")) << at("moved");
    EXPECT_TRUE(has(at("moved"), "moved by 0, 0, 1.6 m")) << at("moved");
    EXPECT_TRUE(has(at("lattice"), "[i 2  j 1]"));
}

TEST_F(Tracing, NumbersOfSentencesThatReadControlsTellTheirs) {
    maker.control("span", 12, "m");
    maker.add("lattice.rectangular", "lattice");
    maker.number("lattice", "width", "span * 2");
    ask("lattice", "0,0");
    EXPECT_TRUE(has(at("lattice"), "width = span 12 m × 2 = 24 m")) << at("lattice");
}

TEST_F(Tracing, CopiesSayWhichTheyAre) {
    maker.add("lattice.rectangular", "lattice");
    maker.number("lattice", "columns", "2").number("lattice", "rows", "1");  // 3 × 2 points
    maker.add("thing.repeat", "copies");
    maker.number("copies", "count", "4");
    evaluation = test::run(maker.study);
    const Value copies = test::value_of(evaluation, "copies");
    const auto asked = trace_part(evaluation, standard_catalogue(), maker.study->step("copies")->id,
                                  {PartSort::item, 2 * 6 + 5}, plume::Run());
    ASSERT_TRUE(asked) << sentence(asked.error());
    trace = *asked;
    EXPECT_TRUE(has(at("copies"), "copy 3 of 4")) << at("copies");
    EXPECT_TRUE(has(at("lattice"), "[i 2  j 1]")) << at("lattice");
    // 3 m a copy along X.
    EXPECT_TRUE(has(at("copies"), "moved by 6, 0, 0 m")) << at("copies");
}

TEST_F(Tracing, PartsOfALatticeAreFoundWhereTheyAre) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("points.reverse", "turned");
    ask("turned", "0,0");
    const auto place = places_of(test::value_of(evaluation, "turned"), {PartSort::item, 0}).front();
    const TracedStep* from = trace.at(maker.study->step("lattice")->id);
    ASSERT_TRUE(from);
    ASSERT_EQ(from->parts.size(), 1U);
    EXPECT_NE(from->parts[0].part.number, 0U) << "turned round, it is another address";
    EXPECT_EQ(places_of(test::value_of(evaluation, "lattice"), from->parts[0].part).front(), place);
}

TEST_F(Tracing, AThrowNamesItsAddressAndSeed) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("field.random", "chance");
    maker.number("chance", "seed", "7");
    ask("chance", "4,3");
    EXPECT_TRUE(has(at("chance"), "thrown for the address 4,3 from seed 7")) << at("chance");
    EXPECT_TRUE(has(at("lattice"), "[i 4  j 3]"));
}

TEST_F(Tracing, SmoothedNumbersNameTheirNeighbours) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("field.random", "chance");
    maker.add("field.smooth", "smoothed");
    ask("smoothed", "4,3");
    for (const char* neighbour : {"3,3 ", "5,3 ", "4,2 ", "4,4 "})
        EXPECT_TRUE(has(at("smoothed"), neighbour)) << neighbour << at("smoothed");
    EXPECT_FALSE(has(at("smoothed"), "5,4 "));
}

TEST_F(Tracing, ABarIsFollowedToThePointsItStandsBetween) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("frame.lattice", "frame");
    maker.add("thing.move", "lifted");
    ask("lifted", "8,5–8,6");
    EXPECT_TRUE(has(at("frame"), "8,5–8,6")) << at("frame");
    EXPECT_TRUE(has(at("lattice"), "[i 8  j 5]") && has(at("lattice"), "[i 8  j 6]")) << at("lattice");
    EXPECT_EQ(trace.at(maker.study->step("lattice")->id)->parts.size(), 2U);
}

TEST_F(Tracing, WhereItCannotBeFollowedItSaysSo) {
    maker = swelling();
    maker.word("roof", "surface", "smooth");
    maker.add("lattice.on_surface", "grid");
    ask("grid", "3,4");
    EXPECT_TRUE(trace.steps.back().ends) << at("grid");
    EXPECT_TRUE(has(at("grid"), "The trace ends here: it is made of roof as a whole")) << at("grid");
    EXPECT_EQ(trace.steps.size(), 1U);
}

TEST_F(Tracing, TubesAreFollowedToTheirCurvesAndTheirEndsToPoints) {
    maker.add("lattice.rectangular", "lattice");
    maker.add("curve.join", "rows");
    maker.word("rows", "route", "rows");
    maker.add("mesh.tube", "tubes");
    ask("tubes", "2");
    EXPECT_TRUE(has(at("rows"), "[curve 2 of 17]")) << at("rows");
    EXPECT_TRUE(has(at("lattice"), "[i 0  j 2]") && has(at("lattice"), "[i 24  j 2]")) << at("lattice");
}

TEST_F(Tracing, PanelsAreFollowedToTheFacesTheyLieOn) {
    maker = swelling();
    maker.add("mesh.panels", "panels");
    ask("panels", "30");
    EXPECT_TRUE(has(at("roof"), "[face 30]")) << at("roof");
    // Face 30 of 24 a row is at column 6 of row 1.
    EXPECT_TRUE(has(at("pushed"), "[i 6  j 1]") && has(at("pushed"), "[i 7  j 2]")) << at("pushed");
}

TEST_F(Tracing, AMutedStepPassesOn) {
    maker = swelling();
    const auto muted = set_muted(*maker.study, maker.study->step("pushed")->id, true);
    ASSERT_TRUE(muted);
    maker.study = *muted;
    evaluation = test::run(maker.study);
    const auto made = trace_part(evaluation, standard_catalogue(), maker.study->step("pushed")->id,
                                 {PartSort::item, 214}, plume::Run());
    ASSERT_TRUE(made) << sentence(made.error());
    trace = *made;
    EXPECT_TRUE(has(at("pushed"), "Muted: it passes on what it reads.")) << at("pushed");
    EXPECT_TRUE(has(at("lattice"), "[i 14  j 8]")) << at("lattice");
}

TEST_F(Tracing, WhatIsNotThereIsNamed) {
    maker = swelling();
    evaluation = test::run(maker.study);
    const Value pushed = test::value_of(evaluation, "pushed"), roof = test::value_of(evaluation, "roof");
    EXPECT_EQ(part_named(pushed, "pushed", "99,99").error().code, ErrorCode::unknown_name);
    EXPECT_EQ(part_named(pushed, "pushed", "").error().code, ErrorCode::unknown_name);
    EXPECT_EQ(part_named(roof, "roof", "face 384").error().code, ErrorCode::unknown_name);
    EXPECT_TRUE(part_named(roof, "roof", "face 383"));
    EXPECT_EQ(part_named(roof, "roof", "vertex -1").error().code, ErrorCode::unknown_name);
    maker.word("roof", "surface", "smooth");
    const Value smooth = test::value_of(test::run(maker.study), "roof");
    EXPECT_EQ(part_named(smooth, "roof", "24,16")->number, 25U * 17U - 1);
    for (const char* wrong : {"25,0", "0,17", "1,2,3", "1", "1,", ",1", "1,2,", "x,1", "1, 2", "-1,0",
                              "99999999999999999999,0", "0,0,0,0"}) {
        const auto part = part_named(smooth, "roof", wrong);
        ASSERT_FALSE(part) << wrong;
        EXPECT_NE(sentence(part.error()).find("its points as ‘0,0’"), std::string::npos);
    }
    const auto& patch = std::get<SurfaceSet>(smooth).patches.front();
    const Value two(SurfaceSet{{patch, patch}});
    EXPECT_EQ(part_named(two, "two", "1,0,0")->number, 25U * 17U);
    EXPECT_FALSE(part_named(two, "two", "3,4"));
    EXPECT_EQ(title_of(two, *part_named(two, "two", "1,24,2")), "surface 1, point 24,2");
    EXPECT_EQ(part_named(Value(Quantity{1, {}}), "number", "0").error().code, ErrorCode::wrong_kind);
    const ItemId step = maker.study->step("pushed")->id;
    EXPECT_EQ(
        trace_part(evaluation, standard_catalogue(), step, {PartSort::item, 425}, plume::Run()).error().code,
        ErrorCode::out_of_range);
    EXPECT_EQ(
        trace_part(evaluation, standard_catalogue(), step, {PartSort::face, 0}, plume::Run()).error().code,
        ErrorCode::out_of_range);
    EXPECT_EQ(trace_part(evaluation, standard_catalogue(), 999, {}, plume::Run()).error().code,
              ErrorCode::missing_input);
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(trace_part(evaluation, standard_catalogue(), step, {}, cancelled).error().code,
              ErrorCode::cancelled);
}

// A post is no point, and its formula runs over the points below.
TEST_F(Tracing, AFormulaIsToldAtThePointThatAPartCameFrom) {
    maker.add("lattice.rectangular", "plot");
    maker.number("plot", "columns", "2").number("plot", "rows", "1");
    maker.number("plot", "width", "6 m").number("plot", "depth", "3 m");
    maker.add("points.keep_where", "corners");
    maker.set("corners", "points", ResultName{"plot"});
    maker.formula("corners", "i != 1");
    maker.add("mesh.posts", "posts");
    maker.set("posts", "points", ResultName{"corners"});
    maker.formula("posts", "radius = 0.1 m\nheight = 2 m + x / 3");
    ask("posts", "1");  // of four, in the order of the rows: (3, -1.5)
    EXPECT_TRUE(has(at("posts"), "at 3, -1.5, 1.5 m, moved by 0, 0, 1.5 m\n")) << at("posts");
    EXPECT_TRUE(has(at("posts"), "height 3 m = 2 m + x 3 m / 3\n")) << at("posts");
    EXPECT_FALSE(has(at("posts"), "height 3 m\n")) << at("posts");
}

TEST_F(Tracing, ClosedCurvesBeginSomewhereAndOpenOnesRunFromOneEndToTheOther) {
    maker.add("outline.shape", "pool");
    maker.word("pool", "shape", "circle").number("pool", "radius", "2 m");
    ask("pool", "0");
    EXPECT_TRUE(has(at("pool"), "begins at 2, 0, 0 m")) << at("pool");
    maker.add("curve.arc", "edge");
    ask("edge", "0");
    EXPECT_TRUE(has(at("edge"), "from ")) << at("edge");
    EXPECT_FALSE(has(at("edge"), "begins")) << at("edge");
}

TEST(ValuesPutIn, StandBehindTheirNames) {
    const ValueText value = [](std::string_view name) { return name == "swell" ? "3.2 m" : std::string(); };
    EXPECT_EQ(with_values("swell*0.43", value), "swell 3.2 m×0.43");
    EXPECT_EQ(with_values(" swell * 0.43  # all", value), "swell 3.2 m × 0.43");
    EXPECT_EQ(with_values("max(swell, 2 m)", value), "max(swell 3.2 m, 2 m)");
    EXPECT_EQ(with_values("other + 1", value), "other + 1");
    EXPECT_EQ(with_values("", value), "");
    EXPECT_EQ(with_values("§", value), "§") << "what cannot be read stays";
}

}  // namespace
}  // namespace plume
