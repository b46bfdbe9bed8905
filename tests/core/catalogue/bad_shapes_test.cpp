// What curves, surfaces and bodies cannot be made of, one case after the other: each is answered at its slot,
// in words that name what is wrong, or is made of all the same.

#include <cmath>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;

Places places(std::initializer_list<std::array<double, 4>> all) {
    Places made;
    for (const auto& [x, y, z, weight] : all) {
        const auto text = [](double number) {
            char digits[40];
            std::snprintf(digits, sizeof digits, "%.17g", number);
            return std::string(digits);
        };
        made.push_back({"p" + std::to_string(made.size()), text(x) + " m", text(y) + " m", text(z) + " m",
                        text(weight)});
    }
    return made;
}

void add_curve(StudyMaker& maker, const std::string& name, const Places& poles, int degree = 3,
               bool closed = false) {
    maker.add("curve.drawn", name);
    maker.number(name, "degree", std::to_string(degree)).word(name, "ends", closed ? "closed" : "open");
    maker.set(name, "poles", poles);
}
void add_square(StudyMaker& maker, const std::string& name, double side, double x = 0) {
    maker.add("outline.shape", name + "_flat");
    maker.number(name + "_flat", "width", std::to_string(side) + " m")
        .number(name + "_flat", "depth", std::to_string(side) + " m");
    maker.add("thing.move", name);
    maker.set(name, "thing", ResultName{name + "_flat"}).number(name, "x", std::to_string(x) + " m");
    maker.number(name, "y", "0 m").number(name, "z", "0 m");
}
void add_block(StudyMaker& maker, const std::string& name, double side, double x = 0) {
    add_square(maker, name + "_foot", side, x);
    maker.add("body.extrude", name);
    maker.set(name, "curve", ResultName{name + "_foot"}).number(name, "by", std::to_string(side) + " m");
}

// The error of the last step: at a slot, with words, and with a mend that is a sentence.
void expect_refused(const StudyMaker& maker, const std::string& name, const std::string& slot,
                    const std::string& words) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    ASSERT_FALSE(outcome.value) << name << " is made: " << outline_text(*outcome.value, maker.study->units);
    EXPECT_EQ(outcome.error->slot, slot) << sentence(*outcome.error);
    EXPECT_NE(sentence(*outcome.error).find(words), std::string::npos) << sentence(*outcome.error);
    EXPECT_TRUE(outcome.error->mend.ends_with(".")) << sentence(*outcome.error);
}
Evaluation expect_made(const StudyMaker& maker, const std::string& name) {
    Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    EXPECT_TRUE(outcome.value) << sentence(*outcome.error);
    return made;
}

const Places wave = places({{0, 0, 0, 1}, {2, 1, 0, 1}, {4, -1, 0, 1}, {6, 0, 0, 1}});

TEST(BadCurves, TooFewPolesForADegree) {
    StudyMaker maker;
    add_curve(maker, "curve", places({{0, 0, 0, 1}, {1, 0, 0, 1}, {2, 1, 0, 1}}), 4);
    expect_refused(maker, "curve", "poles", "degree 4");
    StudyMaker none;
    add_curve(none, "curve", {});
    EXPECT_FALSE(test::run(none.study).outcome("curve")->value);
}

TEST(BadCurves, AllPolesAtOnePlace) {
    StudyMaker maker;
    add_curve(maker, "curve", places({{1, 2, 3, 1}, {1, 2, 3, 1}, {1, 2, 3, 1}, {1, 2, 3, 1}}));
    expect_refused(maker, "curve", "poles", "one place");
}

TEST(BadCurves, WeightsThatAreNotAboveZero) {
    for (const double weight : {0.0, -1.0}) {
        StudyMaker maker;
        add_curve(maker, "curve", places({{0, 0, 0, 1}, {2, 1, 0, weight}, {4, -1, 0, 1}, {6, 0, 0, 1}}));
        expect_refused(maker, "curve", "poles", "weight");
    }
}

TEST(BadCurves, ClosedWhereOpenIsNeededAndTheReverse) {
    StudyMaker closed;
    closed.add("outline.shape", "ring");
    closed.add("curve.extend", "longer");
    closed.set("longer", "curve", ResultName{"ring"});
    expect_refused(closed, "longer", "curve", "closed");
    StudyMaker open;
    add_curve(open, "curve", wave);
    open.add("surface.fill", "face");
    open.set("face", "curve", ResultName{"curve"});
    expect_refused(open, "face", "curve", "open");
    open.add("body.extrude", "block");
    open.set("block", "curve", ResultName{"curve"});
    expect_refused(open, "block", "curve", "open");
}

TEST(BadCurves, HugeAndTinyOnesAreMeasuredAsWell) {
    for (const double scale : {1e9, 1e-9}) {
        StudyMaker maker;
        add_curve(maker, "curve",
                  places({{0, 0, 0, 1}, {scale, 0, 0, 1}, {2 * scale, 0, 0, 1}, {3 * scale, 0, 0, 1}}));
        const Evaluation made = expect_made(maker, "curve");
        EXPECT_NEAR(length_of(std::get<CurveSet>(*made.outcome("curve")->value).curves.front()) / scale, 3,
                    1e-9);
    }
}

TEST(BadLofts, OfOneCurveOfItselfAndOfUnlikeEnds) {
    StudyMaker one;
    add_curve(one, "curve", wave);
    one.add("surface.loft", "roof");
    one.set("roof", "curve", ResultName{"curve"}).word("roof", "from", "over");
    expect_refused(one, "roof", "curve", "two curves");
    one.word("roof", "from", "between").set("roof", "last", ResultName{"curve"});
    expect_refused(one, "roof", "curve", "lie on each other");
    StudyMaker unlike;
    add_curve(unlike, "curve", wave);
    unlike.add("outline.shape", "ring");
    unlike.add("surface.loft", "roof");
    unlike.set("roof", "curve", ResultName{"curve"}).set("roof", "last", ResultName{"ring"});
    expect_refused(unlike, "roof", "curve", "closed");
}

TEST(BadLofts, OfCurvesThatCrossAndOfTenThousand) {
    StudyMaker cross;
    add_curve(cross, "curve", wave);
    add_curve(cross, "other", places({{0, -2, 0, 1}, {2, -1, 0, 1}, {4, 1, 0, 1}, {6, 2, 0, 1}}));
    cross.add("surface.loft", "roof");
    cross.set("roof", "curve", ResultName{"curve"}).set("roof", "last", ResultName{"other"});
    expect_made(cross, "roof");
    StudyMaker many;
    add_curve(many, "curve", wave);
    many.add("thing.repeat", "curves");
    many.set("curves", "thing", ResultName{"curve"})
        .number("curves", "count", "10000")
        .number("curves", "x", "0 m");
    many.number("curves", "y", "0 m").number("curves", "z", "10 mm");
    many.add("surface.loft", "roof");
    many.set("roof", "curve", ResultName{"curves"}).word("roof", "from", "over");
    const Evaluation made = expect_made(many, "roof");
    const SplinePatch& roof = std::get<SurfaceSet>(*made.outcome("roof")->value).patches.front();
    EXPECT_EQ(roof.v().pole_count(), 10'000U);
    EXPECT_NEAR(roof.z()[roof.z().size() - 1], 99.99, 1e-9);
}

TEST(BadSweeps, RailsWithACuspOrAReversal) {
    for (const Places& rail : {places({{0, 0, 0, 1}, {4, 0, 0, 1}, {4, 0, 0, 1}, {0, 0.001, 0, 1}}),
                               places({{0, 0, 0, 1}, {5, 0, 0, 1}, {0, 0, 0, 1}}),
                               places({{0, 0, 0, 1}, {6, 6, 0, 1}, {0, 6, 0, 1}, {6, 0, 0, 1}})}) {
        StudyMaker maker;
        add_square(maker, "profile", 0.5);
        add_curve(maker, "rail", rail, rail.size() == 3 ? 1 : 3);
        maker.add("surface.sweep", "swept");
        maker.set("swept", "curve", ResultName{"profile"}).set("swept", "rail", ResultName{"rail"});
        const Evaluation made = test::run(maker.study);
        const Outcome& outcome = *made.outcome("swept");
        if (outcome.value)
            EXPECT_FALSE(outcome.remarks.empty()) << "how true it is, is said";
        else
            EXPECT_EQ(outcome.error->slot, "rail") << sentence(*outcome.error);
    }
}

TEST(BadThickness, ZeroNegativeAndEnormous) {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"});
    maker.add("body.thicken", "shell");
    maker.set("shell", "surface", ResultName{"wall"});
    maker.number("shell", "by", "0 m");
    expect_refused(maker, "shell", "by", "0");
    maker.number("shell", "by", "-200 mm");
    expect_refused(maker, "shell", "by", "0");
    maker.number("shell", "by", "10 m");
    const Evaluation enormous = test::run(maker.study);
    const Outcome& outcome = *enormous.outcome("shell");
    ASSERT_TRUE(outcome.value || outcome.error);
    const std::string told = outcome.value && !outcome.remarks.empty() ? outcome.remarks.front().text
                             : outcome.error                           ? sentence(*outcome.error)
                                                                       : std::string();
    EXPECT_NE(told.find("fold"), std::string::npos) << told;
    EXPECT_NE(told.find("4 m"), std::string::npos) << "the largest thickness that holds: " << told;
    // Where it folds it can be coloured: half of 10 m of a radius of 2 m.
    const SplinePatch& face = std::get<SolidSet>(*outcome.value).bodies.front().patches().front();
    ASSERT_EQ(face.fields().size(), 1U);
    EXPECT_EQ(face.fields().front().name, "fold");
    EXPECT_NEAR(face.fields().front().values[0], 2.5, 0.2);
}

TEST(BadFills, OutlinesThatCrossThemselves) {
    StudyMaker maker;
    add_curve(maker, "eight", places({{0, 0, 0, 1}, {4, 4, 0, 1}, {4, 0, 0, 1}, {0, 4, 0, 1}}), 1, true);
    for (const char* kind : {"surface.fill", "body.extrude"}) {
        StudyMaker one = maker;
        one.add(kind, "made");
        one.set("made", "curve", ResultName{"eight"});
        expect_refused(one, "made", "curve", "cross");
    }
}

TEST(BadBodies, ThatOnlyTouch) {
    StudyMaker maker;
    add_block(maker, "first", 2);
    add_block(maker, "second", 2, 2);
    maker.add("body.combine", "made");
    maker.set("made", "first", ResultName{"first"}).set("made", "second", ResultName{"second"});
    maker.word("made", "operation", "join");
    const Evaluation joined = expect_made(maker, "made");
    EXPECT_NEAR(figures_of(std::get<SolidSet>(*joined.outcome("made")->value)).volume, 16, 1e-9);
    maker.word("made", "operation", "share");
    expect_refused(maker, "made", "second", "shares no place");
    maker.word("made", "operation", "cut");
    const Evaluation cut = expect_made(maker, "made");
    EXPECT_NEAR(figures_of(std::get<SolidSet>(*cut.outcome("made")->value)).volume, 8, 1e-9);
}

TEST(BadBodies, OpenEdgesMakeNone) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.add("skin", "facets");
    maker.set("facets", "points", ResultName{"grid"}).word("facets", "surface", "flat");
    maker.add("body.close", "body");
    maker.set("body", "thing", ResultName{"facets"});
    expect_refused(maker, "body", "thing", "edges are open");
}

}  // namespace
}  // namespace plume
