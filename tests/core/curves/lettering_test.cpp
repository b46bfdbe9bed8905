// Text as strokes, and the step that writes it.

#include "core/geometry/curves/lettering.hpp"

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

Box box_of(const Lettering& letters) {
    Box box;
    for (const std::vector<Vec3>& stroke : letters.strokes)
        for (const Vec3 place : stroke)
            box.include(place);
    return box;
}

TEST(Lettering, CapitalsStandOnTheirLineAndAreOneHigh) {
    for (const char* text : {"H", "T", "M", "7", "HMT"}) {
        const auto letters = lettering(text);
        ASSERT_TRUE(letters);
        const Box box = box_of(*letters);
        EXPECT_NEAR(box.low.y, 0, 1e-12) << text;
        EXPECT_NEAR(box.high.y, 1, 1e-12) << text;
        EXPECT_GE(box.low.x, 0) << text;
        EXPECT_LE(box.high.x, letters->width) << text;
        EXPECT_TRUE(letters->unknown.empty());
    }
    EXPECT_LT(box_of(*lettering("g")).low.y, -0.1) << "below the line";
    EXPECT_NEAR(lettering("AB")->width, lettering("A")->width + lettering("B")->width, 1e-12);
}

TEST(Lettering, UnitsHaveTheirSigns) {
    for (const char* text : {"°", "²", "³", "×", "−", "·", "–"}) {
        const auto letters = lettering(text);
        ASSERT_TRUE(letters);
        EXPECT_TRUE(letters->unknown.empty()) << text;
        EXPECT_FALSE(letters->strokes.empty()) << text;
    }
    EXPECT_GT(box_of(*lettering("²")).low.y, 0.4) << "raised";
}

TEST(Lettering, WhatHasNoStrokesIsNamedOnce) {
    const auto letters = lettering("aéb\n€é");
    ASSERT_TRUE(letters);
    EXPECT_EQ(letters->unknown, "é\n€");
    EXPECT_NEAR(letters->width, lettering("a b   ")->width, 1e-12);
    EXPECT_EQ(lettering("")->width, 0);
    EXPECT_TRUE(lettering("   ")->strokes.empty());
    EXPECT_FALSE(lettering("\xff\xc3")->unknown.empty()) << "bytes that are no text";
}

// A straight line from one place to another, 4 m and more.
StudyMaker line_between(const std::string& ax, const std::string& ay, const std::string& bx,
                        const std::string& by) {
    StudyMaker maker;
    maker.add("curve.arc", "line");
    maker.word("line", "shape", "line");
    maker.set("line", "ends", Places{{"a", ax, ay, "0 m", "1"}, {"b", bx, by, "0 m", "1"}});
    maker.add("curve.write", "writing");
    maker.set("writing", "thing", ResultName{"line"}).word("writing", "what", "text");
    maker.set("writing", "text", Lines{"L"}).number("writing", "height", "0.5 m");
    return maker;
}

TEST(WriteSteps, AlongALineNeverUpsideDown) {
    // An L is an upright of a capital's height with a foot to its right.
    for (const bool backwards : {false, true}) {
        StudyMaker maker =
            backwards ? line_between("2 m", "0 m", "-2 m", "0 m") : line_between("-2 m", "0 m", "2 m", "0 m");
        const auto set = std::get<CurveSet>(value_of(test::run(maker.study), "writing"));
        const Box box = bounds_of(Value(set));
        EXPECT_NEAR(box.low.y, 0.25, 1e-9) << "half a capital above the line";
        EXPECT_NEAR(box.high.y, 0.75, 1e-9);
        EXPECT_NEAR(box.low.x + box.high.x, 0, 0.1) << "in the middle";
        double highest_x = 0;
        for (const SplineCurve& stroke : set.curves)
            for (const double t : {stroke.basis().start(), stroke.basis().end()})
                if (const Vec3 at = evaluate(stroke, t).position; at.y > 0.7) highest_x = at.x;
        EXPECT_LT(highest_x, 0) << "the upright is at the left";
        maker.word("writing", "stand", "below");
        EXPECT_NEAR(bounds_of(value_of(test::run(maker.study), "writing")).high.y, -0.25, 1e-9);
        maker.word("writing", "stand", "on");
        EXPECT_NEAR(bounds_of(value_of(test::run(maker.study), "writing")).high.y, 0.25, 1e-9);
    }
    // An upright line is read upwards.
    for (const bool down : {false, true}) {
        StudyMaker maker =
            down ? line_between("0 m", "2 m", "0 m", "-2 m") : line_between("0 m", "-2 m", "0 m", "2 m");
        const Box box = bounds_of(value_of(test::run(maker.study), "writing"));
        EXPECT_NEAR(box.high.x, -0.25, 1e-9);
    }
}

TEST(WriteSteps, AsOftenAsALineIsLong) {
    StudyMaker maker = line_between("-5 m", "0 m", "5 m", "0 m");
    const auto strokes = [&] {
        return std::get<CurveSet>(value_of(test::run(maker.study), "writing")).curves.size();
    };
    const std::size_t once = strokes();
    maker.word("writing", "times", "every").number("writing", "spacing", "3 m");
    EXPECT_EQ(strokes(), 3 * once);
    maker.number("writing", "spacing", "40 m");
    EXPECT_EQ(strokes(), once) << "once at least";
    maker.set("writing", "text", Lines{"L\nL"});
    EXPECT_EQ(strokes(), 2 * once) << "two lines";
    maker.number("writing", "spacing", "1e-9 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "writing").code, ErrorCode::out_of_memory);
}

TEST(WriteSteps, NumbersAndAddressesOfPoints) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "1").number("grid", "rows", "1");
    maker.number("grid", "width", "4 m").number("grid", "depth", "4 m");
    maker.add("curve.write", "writing");
    maker.set("writing", "thing", ResultName{"grid"}).number("writing", "height", "0.2 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "writing").slot, "thing") << "there is no number";
    maker.word("writing", "what", "named").set("writing", "number", WordKey{"rise"});
    EXPECT_EQ(test::error_of(test::run(maker.study), "writing").slot, "number");
    maker.word("writing", "what", "address");
    Evaluation made = test::run(maker.study);
    EXPECT_NEAR(bounds_of(value_of(made, "writing")).low.y, -2 + 0.1, 0.1);
    EXPECT_EQ(made.outcome("writing")->remarks.front().text.substr(0, 8), "4 texts,");
    // Upright, read from the front: Z is up.
    maker.word("writing", "direction", "x");
    const Box box = bounds_of(value_of(test::run(maker.study), "writing"));
    EXPECT_NEAR(box.low.x, -2, 1e-9);
    EXPECT_NEAR(box.high.x, 2, 1e-9);
    EXPECT_NEAR(box.high.z, 0.3, 1e-9);
}

TEST(WriteSteps, NumbersThatAreNotFiniteAreLeftOut) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "1").number("grid", "rows", "1");
    maker.add("field.formula", "rise");
    maker.set("rise", "points", ResultName{"grid"}).formula("rise", "sqrt(x / 1 m)");
    maker.add("curve.write", "writing");
    maker.set("writing", "thing", ResultName{"rise"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("writing")->value) << sentence(*made.outcome("writing")->error);
    const auto& remarks = made.outcome("writing")->remarks;
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_EQ(remarks[0].text.substr(0, 8), "2 texts,");
    EXPECT_TRUE(remarks[1].loss);
    EXPECT_EQ(remarks[1].text, "2 numbers are not there or not finite and are left out.");
}

TEST(WriteSteps, InThePlanesOfPlacements) {
    StudyMaker maker;
    maker.add("placement.frame", "page");
    maker.set("page", "place", Places{{"p", "1 m", "2 m", "3 m", "1"}});
    maker.add("curve.write", "writing");
    maker.set("writing", "thing", ResultName{"page"}).word("writing", "what", "text");
    maker.set("writing", "text", Lines{"H é"}).number("writing", "height", "1 m");
    const Evaluation made = test::run(maker.study);
    const Box box = bounds_of(value_of(made, "writing"));
    EXPECT_NEAR(box.low.z, 3, 1e-9);
    EXPECT_NEAR(box.low.y, 2.5, 1e-9);
    EXPECT_NEAR(box.high.y, 3.5, 1e-9);
    const auto& remarks = made.outcome("writing")->remarks;
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_TRUE(remarks[1].loss);
    EXPECT_EQ(remarks[1].text, "There are no strokes for ‘é’.");
    maker.set("writing", "text", Lines{" "});
    EXPECT_EQ(test::error_of(test::run(maker.study), "writing").slot, "text");
}

}  // namespace
}  // namespace plume
