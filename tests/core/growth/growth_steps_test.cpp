// Steps that grow, and those that make something of it.

#include <cmath>

#include "core/data/value.hpp"
#include "core/exchange/study_file.hpp"
#include "core/results/columns.hpp"
#include "core/results/items.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume::test {
namespace {

const Placements& placements_of(const Evaluation& evaluation, const std::string& name) {
    const Outcome* outcome = evaluation.outcome(name);
    EXPECT_TRUE(outcome && outcome->value) << (outcome && outcome->error ? sentence(*outcome->error) : "");
    return std::get<Placements>(*outcome->value);
}

StudyMaker tree(const std::string& rules, const std::string& generations = "4") {
    StudyMaker maker;
    maker.add("growth.parts", "tree");
    maker.formula("tree", rules).number("tree", "generations", generations);
    return maker;
}

TEST(GrowthSteps, RulesReadControlsAndUnitsOfTheStudy) {
    StudyMaker maker = tree("a becomes\na, moved swell * 2 up, turned swell / 1 m * 10 about along", "1");
    maker.control("swell", 3, "m");
    const Evaluation evaluation = run(maker.study);
    const Placement& child = placements_of(evaluation, "tree").placement(1);
    EXPECT_NEAR(child.origin.z, 6, 1e-12);
    EXPECT_NEAR(child.up.z, std::cos(30 * std::acos(-1.0) / 180), 1e-12);
}

TEST(GrowthSteps, FirstPartsHandDownTheFieldsTheyStandOn) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "2").number("ground", "rows", "1");
    maker.add("field.formula", "warmth");
    maker.set("warmth", "points", ResultName{"ground"}).formula("warmth", "1 + i");
    maker.add("growth.parts", "tree");
    maker.word("tree", "from", "points").set("tree", "points", ResultName{"warmth"});
    maker.formula("tree", "a becomes\na times warmth, moved 1 m up, with warmth = warmth + 1")
        .number("tree", "generations", "2");
    const Evaluation evaluation = run(maker.study);
    const Placements& grown = placements_of(evaluation, "tree");
    // Six roots: 1, 2, 3 each twice; then 1 + 2 + 3 times two, with 2, 3 and 4, and those times that many.
    EXPECT_EQ(grown.tree()->generations,
              (std::vector<std::size_t>{0, 6, 18, 18 + 2 * (1 * 2 + 2 * 3 + 3 * 4)}));
    EXPECT_TRUE(grown.origins().field("warmth"));
}

TEST(GrowthSteps, RulesReadNumbersAtTheirPlaces) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("field.formula", "slope");
    maker.set("slope", "points", ResultName{"ground"}).formula("slope", "x / 1 m");
    maker.add("growth.parts", "tree");
    maker.word("tree", "reading", "numbers").set("tree", "numbers", ResultName{"slope"});
    maker.formula("tree", "field here = slope\na becomes\na, moved 2 m along")
        .number("tree", "generations", "3");
    const Evaluation evaluation = run(maker.study);
    const Placements& grown = placements_of(evaluation, "tree");
    const PointLattice& ground = *lattice_of(*evaluation.outcome("ground")->value);
    for (std::size_t part = 0; part < 4; ++part) {
        double least = 1e9, nearest = 0;
        for (std::size_t at = 0; at < ground.address_count(); ++at)
            if (const double apart = length(ground.point(at) - grown.placement(part).origin); apart < least) {
                least = apart;
                nearest = ground.point(at).x;
            }
        EXPECT_NEAR(grown.origins().field("here")->values[part], nearest, 1e-12);
    }
}

TEST(GrowthSteps, TellsWhereItEndedAndWhatIsNeverMade) {
    StudyMaker endless = tree("a becomes\na\na\nghost becomes\na", "60");
    endless.number("tree", "most", "900");
    const Evaluation evaluation = run(endless.study);
    EXPECT_EQ(placements_of(evaluation, "tree").origins().point_count(), 511U);
    EXPECT_EQ(remarks_of(evaluation, "tree"),
              "! It ended at generation 8 of 60: the next one would add 512 parts, and at most 900 are "
              "allowed in all.\n"
              "! There is a rule for ‘ghost’, and no line makes one.\n");
    const Evaluation short_one = run(tree("a becomes\nb, moved 1 m up, sized -1", "9").study);
    EXPECT_EQ(remarks_of(short_one, "tree"),
              "Nothing grew beyond generation 1 of 9.\n1 part was turned inside out by a size below 0: a "
              "mirror image.\n");
}

TEST(GrowthSteps, WhatWouldBeTooMuchIsAskedAboutBeforehand) {
    StudyMaker maker = tree("a becomes\na times 10", "12");
    maker.number("tree", "most", "2000000000");
    const Evaluation evaluation = run(maker.study);
    const Outcome& outcome = *evaluation.outcome("tree");
    EXPECT_FALSE(outcome.value);
    ASSERT_TRUE(outcome.error);
    EXPECT_TRUE(outcome.state == StepState::asks || outcome.error->code == ErrorCode::out_of_memory)
        << sentence(*outcome.error);
}

TEST(GrowthSteps, AnErrorOfTheRulesSaysWhere) {
    const Error error = error_of(run(tree("a becomes\n  a, moved 3 sideways").study), "tree");
    EXPECT_EQ(error.slot, "formula");
    EXPECT_EQ(sentence(error),
              "Rules: a way is missing behind ‘moved’ in line 2 at column 14. Add up, down, along, back or "
              "across.");
    EXPECT_EQ(error.begin, 23U);
}

TEST(GrowthSteps, OfWhatGrewSomeAreKeptByName) {
    StudyMaker maker = tree("stem becomes\nstem, moved 1 m up\nleaf times 2, moved copy * 1 m along", "5");
    maker.add("growth.keep", "leaves");
    maker.set("leaves", "placements", ResultName{"tree"}).word("leaves", "names", "leaf");
    maker.add("growth.keep", "rest");
    maker.set("rest", "placements", ResultName{"tree"})
        .word("rest", "names", "leaf")
        .word("rest", "side", "without");
    maker.add("growth.keep", "ends");
    maker.set("ends", "placements", ResultName{"tree"}).word("ends", "side", "ends");
    maker.add("growth.keep", "none");
    maker.set("none", "placements", ResultName{"tree"}).word("none", "names", "root");
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(placements_of(evaluation, "leaves").origins().point_count(), 10U);
    EXPECT_EQ(placements_of(evaluation, "rest").origins().point_count(), 6U);
    EXPECT_EQ(placements_of(evaluation, "ends").origins().point_count(), 11U);
    EXPECT_EQ(placements_of(evaluation, "leaves").tree(), placements_of(evaluation, "tree").tree());
    EXPECT_EQ(error_of(evaluation, "none").slot, "names");
}

TEST(GrowthSteps, CopiesAreAsLargeAsTheirParts) {
    StudyMaker maker = tree(
        "a becomes\na, moved 4 m along, sized 0.5\na, moved 4 m across, mirrored across, sized 0.5", "2");
    maker.number("tree", "size", "2 m");
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "rectangle").number("rim", "width", "1 m").number("rim", "depth", "1 m");
    maker.add("body.extrude", "box");
    maker.set("box", "curve", ResultName{"rim"}).number("box", "by", "1 m");
    const auto add = [&](const char* name, const char* sized) {
        maker.add("thing.place", name);
        maker.set(name, "thing", ResultName{"box"})
            .set(name, "to", ResultName{"tree"})
            .word(name, "sized", sized);
        maker.add("number.body", std::string(name) + "_volume");
        maker.set(std::string(name) + "_volume", "body", ResultName{name});
    };
    add("own", "size");
    add("same", "same");
    add("formula", "formula");
    maker.formula("formula", "scale = size / 1 m\nup = 3");
    const Evaluation evaluation = run(maker.study);
    const auto volume = [&](const char* name) {
        return std::get<Quantity>(value_of(evaluation, std::string(name) + "_volume")).value;
    };
    EXPECT_NEAR(volume("own"), 8 + 2 * 1 + 4 * 0.125, 1e-9);
    EXPECT_NEAR(volume("same"), 7, 1e-9);
    EXPECT_NEAR(volume("formula"), 3 * (8 + 2 * 1 + 4 * 0.125), 1e-9);
    StudyMaker zero = tree("a becomes\na, moved 1 m up", "2");
    zero.add("attractors.points", "p");
    zero.add("thing.place", "none");
    zero.set("none", "thing", ResultName{"p"})
        .set("none", "to", ResultName{"tree"})
        .word("none", "sized", "formula");
    zero.formula("none", "scale = number + depth");
    EXPECT_EQ(
        sentence(error_of(run(zero.study), "none")),
        "Formula gives the copy at 0 a size of 0. Keep sizes away from 0, or leave that placement out.");
}

TEST(GrowthSteps, PlacementsThatDidNotGrowAreRefused) {
    StudyMaker maker;
    maker.add("placement.frame", "plane");
    for (const char* kind : {"growth.keep", "growth.members", "growth.curves"}) {
        maker.add(kind, kind + 7);
        maker.set(kind + 7, "placements", ResultName{"plane"});
    }
    const Evaluation evaluation = run(maker.study);
    for (const char* name : {"keep", "members", "curves"})
        EXPECT_EQ(error_of(evaluation, name).code, ErrorCode::wrong_kind) << name;
}

TEST(GrowthSteps, PartsAreTabledAndAskedWhy) {
    const Evaluation evaluation =
        run(tree("a becomes\nb, moved 1 m up, chance 1\nb becomes\na, sized 0.5", "3").study);
    const Value& value = *evaluation.outcome("tree")->value;
    const Table table = columns_of(value);
    const auto column = [&](const std::string& name) {
        return std::ranges::find(table.columns, name, &TableColumn::name);
    };
    ASSERT_NE(column("part"), table.columns.end());
    EXPECT_EQ(column("part")->text(1), "b");
    EXPECT_EQ(column("came of")->text(0), "");
    EXPECT_EQ(column("came of")->text(3), "2");
    const Items items = items_of(value);
    EXPECT_EQ(items.title(2), "a 2  generation 2");
    const std::vector<std::string> why = items.why(3);
    ASSERT_EQ(why.size(), 4U);
    EXPECT_EQ(why[0], "generation 0: a, 1 m; where it began");
    EXPECT_EQ(why[2], "generation 2: a, 0.5 m; by ‘a, sized 0.5’");
    EXPECT_NE(why[3].find("its line drew 0."), std::string::npos) << why[3];
}

TEST(GrowthSteps, TheTreeStaysWithWhatIsMoved) {
    StudyMaker maker = tree("a becomes\na, moved 1 m up", "3");
    maker.add("thing.move", "moved");
    maker.set("moved", "thing", ResultName{"tree"});
    maker.add("growth.members", "members");
    maker.set("members", "placements", ResultName{"moved"});
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(std::get<BarFrame>(value_of(evaluation, "members")).member_count(), 3U);
}

// All nests of the demo are reached, and every end bears a box.
TEST(GrowthSteps, TheHeronryReachesItsNests) {
    const auto study = load_study(std::string(demo_folder) + "/heronry.plume");
    ASSERT_TRUE(study) << sentence(study.error());
    const Evaluation evaluation = run(*study);
    EXPECT_EQ(evaluation.problem_count(), 0U);
    EXPECT_NE(remarks_of(evaluation, "boughs").find("All 56 goals are reached"), std::string::npos)
        << remarks_of(evaluation, "boughs");
    const std::size_t tips = placements_of(evaluation, "tips").origins().point_count();
    EXPECT_EQ(std::get<SolidSet>(value_of(evaluation, "boxes")).bodies.size(), tips);
}

TEST(GrowthSteps, BranchesTellWhatDrewThem) {
    StudyMaker maker;
    maker.add("points.typed", "goals");
    maker.set("goals", "rows", Lines{"x, y, z\n-1, 0, 4\n1, 0, 4"}).word("goals", "arrangement", "scatter");
    maker.add("growth.towards", "tree");
    maker.word("tree", "goals", "points").set("tree", "goal_points", ResultName{"goals"});
    maker.number("tree", "step", "1 m").number("tree", "reach", "10 m").number("tree", "near", "0.6 m");
    const auto tree = std::get<Placements>(value_of(run(maker.study), "tree"));
    const auto last = tree.tree()->descent(tree.origins().address_count() - 1);
    ASSERT_GE(last.size(), 4U);
    EXPECT_EQ(last[0], "part 0: where it began");
    EXPECT_EQ(last[1], "part 1: drawn by 2 goals, the nearest 0") << "both pull until one is reached";
    EXPECT_TRUE(last.back().find("goal") != std::string::npos) << last.back();
}

}  // namespace
}  // namespace plume::test
