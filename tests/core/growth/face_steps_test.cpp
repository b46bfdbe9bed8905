// Steps that cut faces, trace lines and apply placements to themselves, where they stand in a study.

#include <cmath>

#include "core/data/curve_set.hpp"
#include "core/results/items.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

// A mesh of 4 by 2 squares of a metre.
StudyMaker panels() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "4").number("ground", "rows", "2");
    maker.number("ground", "width", "4 m").number("ground", "depth", "2 m");
    maker.add("skin", "panels");
    maker.set("panels", "points", ResultName{"ground"}).word("panels", "surface", "flat");
    return maker;
}

void cut_panels(StudyMaker& maker, const std::string& rules, const std::string& generations = "1") {
    maker.add("growth.faces", "tiles");
    maker.set("tiles", "mesh", ResultName{"panels"});
    maker.formula("tiles", rules).number("tiles", "generations", generations);
}

StudyMaker bank(const std::string& rules, const std::string& generations = "1") {
    StudyMaker maker = panels();
    cut_panels(maker, rules, generations);
    return maker;
}

Mesh mesh_of(const Evaluation& evaluation, const std::string& name) {
    return std::get<Mesh>(value_of(evaluation, name));
}

TEST(FaceSteps, RulesReadControlsAndUnitsOfTheStudy) {
    StudyMaker maker = bank("tile becomes\nsplit pieces along\ntile");
    maker.control("pieces", 3, "");
    EXPECT_EQ(mesh_of(run(maker.study), "tiles").face_count(), 24U);
}

TEST(FaceSteps, RulesOfFacesReadNumbersAtTheirMiddles) {
    StudyMaker maker = panels();
    maker.add("points.typed", "pegs");
    maker.set("pegs", "rows", Lines{"-1 0 0\n1 0 0"}).word("pegs", "arrangement", "scatter");
    maker.add("field.formula", "wet");
    maker.set("wet", "points", ResultName{"pegs"}).formula("wet", "x > 0 m");
    cut_panels(maker, "tile becomes, where wet > 0.5\nsplit 2\ntile");
    maker.word("tiles", "reading", "numbers").set("tiles", "numbers", ResultName{"wet"});
    // Middles at 0.5 and 1.5 m are nearest to the second peg.
    EXPECT_EQ(mesh_of(run(maker.study), "tiles").face_count(), 4U + 4U * 4U);
}

TEST(FaceSteps, TilesNearTheAttractorsAreCutMoreOften) {
    StudyMaker maker = panels();
    maker.add("attractors.points", "pool");
    maker.set("pool", "places", Places{{"pool", "-2 m", "-1 m", "0 m", "1"}});
    cut_panels(maker, "tile becomes, where to_attractor < 0.8 m\nsplit 2\ntile", "3");
    maker.word("tiles", "near", "attractors").set("tiles", "attractors", ResultName{"pool"});
    maker.number("tiles", "reach", "0 m");
    const Mesh mesh = mesh_of(run(maker.study), "tiles");
    // As counted by hand: the square at the corner, of it three quarters of the first and so on.
    std::size_t expected = 8;
    for (double side = 1; side > 0.2; side /= 2)
        for (double x = side / 2; x < 4; x += side)
            for (double y = side / 2; y < 2; y += side) {
                const bool parent =
                    side == 1 || std::hypot(std::floor(x / (2 * side)) * 2 * side + side,
                                            std::floor(y / (2 * side)) * 2 * side + side) < 0.8;
                if (parent && std::hypot(x, y) < 0.8) expected += 3;
            }
    EXPECT_EQ(mesh.face_count(), expected);
}

TEST(FaceSteps, FacesOfANameAreKept) {
    for (const std::string parts : {"each", "names"}) {
        StudyMaker maker = bank("tile becomes\ninset 0.2\npane, inside\nframe, around");
        maker.word("tiles", "parts", parts);
        maker.add("growth.keep", "panes");
        maker.set("panes", "placements", ResultName{"tiles"}).word("panes", "names", "pane");
        maker.add("growth.keep", "frames");
        maker.set("frames", "placements", ResultName{"tiles"}).word("frames", "names", "pane");
        maker.word("frames", "side", "without");
        const Evaluation evaluation = run(maker.study);
        EXPECT_EQ(mesh_of(evaluation, "panes").face_count(), 8U) << parts;
        EXPECT_EQ(mesh_of(evaluation, "frames").face_count(), 32U) << parts;
        EXPECT_NEAR(area(mesh_of(evaluation, "panes")), 8 * 0.64, 1e-12);
    }
}

TEST(FaceSteps, AKeptFaceStillTellsWhatItCameOf) {
    StudyMaker maker =
        bank("tile becomes\ninset 0.2\npane, inside\nframe, around\npane becomes\nsplit 2\nlast", "2");
    maker.add("growth.keep", "kept");
    maker.set("kept", "placements", ResultName{"tiles"}).word("kept", "names", "last");
    const Evaluation evaluation = run(maker.study);
    const Items items = items_of(*evaluation.outcome("kept")->value);
    ASSERT_EQ(items.count, 32U);
    const std::vector<std::string> why = items.why(31);
    ASSERT_EQ(why.size(), 3U);
    EXPECT_NE(why[0].find("tile, 1 m²"), std::string::npos) << why[0];
    EXPECT_NE(why[1].find("pane, 0.64 m²"), std::string::npos) << why[1];
    EXPECT_NE(why[2].find("last, 0.16 m²; 4th of 4"), std::string::npos) << why[2];
    EXPECT_EQ(items.title(31).substr(items.title(31).find(',')), ", last 7.4.3");
}

TEST(FaceSteps, TellWhatWasRefusedAndWhereItEnded) {
    StudyMaker maker = bank("tile becomes\ninset 0.6 m\npane\ntwig becomes\nsplit 2\ntile", "3");
    const Evaluation evaluation = run(maker.study);
    const std::string told = remarks_of(evaluation, "tiles");
    EXPECT_NE(told.find("! 8 faces stay as they are: they are too narrow"), std::string::npos) << told;
    EXPECT_NE(told.find("in generation 0, of ‘tile’"), std::string::npos) << told;
    EXPECT_NE(told.find("There is a rule for ‘twig’, and no line makes one"), std::string::npos) << told;
    EXPECT_EQ(told.find("rest"), std::string::npos) << told;
    StudyMaker many = bank("tile becomes\nsplit 10\ntile", "4");
    many.number("tiles", "most", "50000");
    const std::string ended = remarks_of(run(many.study), "tiles");
    EXPECT_NE(ended.find("It ended at generation 1 of 4: the next one would add 80 000 faces"),
              std::string::npos)
        << ended;
}

TEST(FaceSteps, EverythingBecomingNothingIsAnErrorWithItsMend) {
    const Evaluation evaluation = run(bank("tile becomes\nnothing").study);
    const Outcome* outcome = evaluation.outcome("tiles");
    ASSERT_TRUE(outcome->error);
    EXPECT_NE(sentence(*outcome->error).find("leave no face"), std::string::npos)
        << sentence(*outcome->error);
}

TEST(FaceSteps, WhatWouldBeTooMuchIsAskedAboutBeforehand) {
    StudyMaker maker = bank("tile becomes\nsplit 3\ntile", "9");
    maker.number("tiles", "most", "1000000000");
    const Evaluation evaluation = run(maker.study);
    const Outcome& outcome = *evaluation.outcome("tiles");
    EXPECT_FALSE(outcome.value);
    ASSERT_TRUE(outcome.error);
    EXPECT_TRUE(outcome.state == StepState::asks || outcome.error->code == ErrorCode::out_of_memory)
        << sentence(*outcome.error);
}

// What is estimated is tried with the numbers that faces began with.
TEST(FaceSteps, NumbersThatFacesHandDownCountBeforehand) {
    StudyMaker maker = panels();
    maker.add("thing.measure", "large");
    maker.set("large", "thing", ResultName{"panels"}).word("large", "what", "area");
    cut_panels(maker, "tile becomes\nsplit 4 * large / 1 m^2\ntile");
    maker.set("tiles", "mesh", ResultName{"large"});
    EXPECT_EQ(mesh_of(run(maker.study), "tiles").face_count(), 8U * 16U);
    maker.formula("tiles", "tile becomes\nsplit 4000 * large / 1 m^2\ntile")
        .number("tiles", "most", "1000000000");
    const Evaluation evaluation = run(maker.study);
    const Outcome& outcome = *evaluation.outcome("tiles");
    EXPECT_FALSE(outcome.value);
    ASSERT_TRUE(outcome.error);
    EXPECT_TRUE(outcome.state == StepState::asks || outcome.error->code == ErrorCode::out_of_memory)
        << sentence(*outcome.error);
}

TEST(TraceSteps, NamesThatArePickedAreDrawn) {
    StudyMaker maker;
    maker.add("growth.trace", "line");
    maker.formula("line", "row becomes\ndash\ngap\ndash").number("line", "generations", "1");
    const auto curves = [&] {
        const Evaluation evaluation = run(maker.study);
        return std::get<CurveSet>(*evaluation.outcome("line")->value).curves;
    };
    EXPECT_EQ(curves().front().x().size(), 4U);
    maker.word("line", "drawn", "dash");
    EXPECT_EQ(curves().front().x().size(), 3U);
    maker.word("line", "drawn", "hole");
    const Evaluation evaluation = run(maker.study);
    ASSERT_TRUE(evaluation.outcome("line")->error);
    EXPECT_NE(sentence(*evaluation.outcome("line")->error).find("Pick parts"), std::string::npos);
}

TEST(TraceSteps, PlacesCannotBeReadWhileNothingIsPlaced) {
    StudyMaker maker;
    maker.add("growth.trace", "line");
    maker.formula("line", "row becomes, where x < 1 m\nrow\nrow");
    const Evaluation evaluation = run(maker.study);
    ASSERT_TRUE(evaluation.outcome("line")->error);
    EXPECT_EQ(evaluation.outcome("line")->error->code, ErrorCode::unknown_name);
}

TEST(TraceSteps, EveryRootHasALineOfItsOwn) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "1");
    maker.add("growth.trace", "line");
    maker.word("line", "from", "points").set("line", "points", ResultName{"ground"});
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(std::get<CurveSet>(*evaluation.outcome("line")->value).curves.size(), 6U);
}

TEST(IterateSteps, EndWithTheGenerationsThatThereIsRoomFor) {
    StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.set("corners", "rows", Lines{"0 0 0\n1 0 0\n0 1 0"}).word("corners", "arrangement", "scatter");
    maker.add("growth.iterate", "gasket");
    maker.set("gasket", "maps", ResultName{"corners"}).number("gasket", "generations", "20");
    maker.number("gasket", "most", "1000");
    const Evaluation evaluation = run(maker.study);
    const auto& grown = std::get<Placements>(*evaluation.outcome("gasket")->value);
    EXPECT_EQ(grown.origins().address_count(), 364U);
    EXPECT_NE(remarks_of(evaluation, "gasket").find("the next one would add 729 parts"), std::string::npos);
}

TEST(IterateSteps, AFactorThatIsNotAboveNothingIsRefused) {
    StudyMaker maker;
    maker.add("points.typed", "corners");
    maker.set("corners", "rows", Lines{"0 0 0\n1 0 0"}).word("corners", "arrangement", "scatter");
    maker.add("growth.iterate", "dust");
    maker.set("dust", "maps", ResultName{"corners"}).formula("dust", "1 / 3 - x / 1 m");
    const Evaluation evaluation = run(maker.study);
    ASSERT_TRUE(evaluation.outcome("dust")->error);
    EXPECT_NE(sentence(*evaluation.outcome("dust")->error).find("of placement 1"), std::string::npos);
}

}  // namespace
}  // namespace plume::test
