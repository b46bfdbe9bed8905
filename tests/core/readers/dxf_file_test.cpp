// Curves from DXF: against closed forms of what is written by hand, and what is said of drawings that cannot
// be.

#include <cmath>
#include <numbers>

#include "core/exchange/export_jobs.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/readers/curve_files.hpp"

namespace plume {
namespace {

using test::at;
using test::expect_near;

constexpr double pi = std::numbers::pi;

// "0 LINE 10 3.5" as lines of codes and values.
std::string tags(const std::string& words) {
    std::string text;
    std::istringstream stream(words);
    for (std::string code, value; stream >> code >> value;)
        text += code + "\n" + value + "\n";
    return text;
}

std::string drawing(const std::string& entities, const std::string& blocks = "", int unit = 6) {
    return tags("0 SECTION 2 HEADER 9 $ACADVER 1 AC1015 9 $INSUNITS 70 " + std::to_string(unit) +
                " 0 ENDSEC") +
           (blocks.empty() ? "" : tags("0 SECTION 2 BLOCKS") + tags(blocks) + tags("0 ENDSEC")) +
           tags("0 SECTION 2 ENTITIES") + tags(entities) + tags("0 ENDSEC 0 EOF");
}

CurveFile read(const std::string& text) {
    return test::drawing_of(text, "site.dxf");
}
SplineCurve only(const std::string& entity) {
    return test::only_curve_of(drawing(entity), "site.dxf");
}
Error error_of(const std::string& text) {
    return test::drawing_error(text, "site.dxf");
}
void expect_on_circle(const SplineCurve& curve, Vec3 centre, double radius, double slack = 1e-12) {
    for (int step = 0; step <= 20; ++step)
        EXPECT_NEAR(length(at(curve, step / 20.0) - centre), radius, slack) << step;
}

TEST(DxfFile, LinesStandWhereTheyDo) {
    const SplineCurve line = only("0 LINE 8 walls 10 1 20 2 30 3 11 4 21 6 31 3");
    expect_near(at(line, 0), {1, 2, 3});
    expect_near(at(line, 1), {4, 6, 3});
}

TEST(DxfFile, ArcsAndCirclesAreExact) {
    const SplineCurve arc = only("0 ARC 8 0 10 2 20 3 30 1 40 5 50 300 51 60");
    expect_on_circle(arc, {2, 3, 1}, 5);
    expect_near(at(arc, 0), {2 + 5 * std::cos(-pi / 3), 3 + 5 * std::sin(-pi / 3), 1});
    expect_near(at(arc, 1), {2 + 5 * std::cos(pi / 3), 3 + 5 * std::sin(pi / 3), 1});
    const SplineCurve circle = only("0 CIRCLE 8 0 10 2 20 3 40 5");
    EXPECT_TRUE(circle.closed());
    expect_on_circle(circle, {2, 3, 0}, 5);
}

// What is drawn on the back of its plane runs the other way.
TEST(DxfFile, PlanesOfTheirOwnAreTurnedBack) {
    const SplineCurve arc = only("0 ARC 8 0 10 2 20 3 40 5 50 0 51 90 210 0 220 0 230 -1");
    expect_near(at(arc, 0), {-7, 3, 0});
    expect_near(at(arc, 1), {-2, 8, 0});
    // Out of the x axis: the plane's x runs along y, its y along z.
    const SplineCurve standing = only("0 ARC 8 0 10 2 20 3 30 1 40 5 50 0 51 90 210 1 220 0 230 0");
    expect_near(at(standing, 0), {1, 7, 3});
    expect_near(at(standing, 1), {1, 2, 8});
}

TEST(DxfFile, EllipsesRunFromTheirLongAxis) {
    const SplineCurve whole =
        only("0 ELLIPSE 8 0 10 1 20 1 30 0 11 0 21 4 31 0 40 0.5 41 0 42 6.283185307179586");
    EXPECT_TRUE(whole.closed());
    for (int step = 0; step < 16; ++step) {
        const Vec3 place = at(whole, step / 16.0) - Vec3{1, 1, 0};
        EXPECT_NEAR(place.y * place.y / 16 + place.x * place.x / 4, 1, 1e-12);
    }
    const SplineCurve part =
        only("0 ELLIPSE 8 0 10 0 20 0 30 0 11 4 21 0 31 0 40 0.5 41 0 42 1.5707963267948966");
    expect_near(at(part, 0), {4, 0, 0});
    expect_near(at(part, 1), {0, 2, 0});
}

TEST(DxfFile, PolylinesWithArcsAreOneCurve) {
    // A slot: two straight sides of 6 and two half circles of radius 1, anticlockwise.
    const SplineCurve slot =
        only("0 LWPOLYLINE 8 0 90 4 70 1 38 2 10 0 20 0 10 6 20 0 42 1 10 6 20 2 10 0 20 2 42 1");
    EXPECT_TRUE(slot.closed());
    EXPECT_NEAR(CurveLength(slot).total(), 12 + 2 * pi, 1e-9);
    Box box;
    for (int step = 0; step < 4000; ++step)
        box.include(at(slot, step / 4000.0));
    EXPECT_NEAR(box.high.x, 7, 1e-5);
    EXPECT_NEAR(box.low.x, -1, 1e-5);
    EXPECT_NEAR(box.low.z, 2, 1e-12);
    // A quarter circle clockwise from (0, 0) to (2, 2): its centre is (2, 0).
    const SplineCurve quarter =
        only("0 LWPOLYLINE 8 0 90 2 70 0 10 0 20 0 42 -0.41421356237309503 10 2 20 2");
    expect_on_circle(quarter, {2, 0, 0}, 2);
}

TEST(DxfFile, PolylinesOfOldAndInSpace) {
    const SplineCurve flat = only(
        "0 POLYLINE 8 0 66 1 70 1 30 4 0 VERTEX 10 0 20 0 0 VERTEX 10 2 20 0 0 VERTEX 10 2 20 2 0 SEQEND");
    EXPECT_TRUE(flat.closed());
    EXPECT_NEAR(CurveLength(flat).total(), 4 + std::sqrt(8.0), 1e-12);
    expect_near(at(flat, 0), {0, 0, 4});
    const SplineCurve space =
        only("0 POLYLINE 8 0 66 1 70 8 0 VERTEX 10 0 20 0 30 1 0 VERTEX 10 2 20 0 30 5 0 SEQEND");
    expect_near(at(space, 1), {2, 0, 5});
}

TEST(DxfFile, SplinesKeepPolesKnotsAndWeights) {
    const SplineCurve spline = only(
        "0 SPLINE 8 0 70 4 71 2 72 6 73 3 40 0 40 0 40 0 40 2.5 40 2.5 40 2.5 "
        "41 1 41 0.7071067811865476 41 1 10 1 20 0 30 7 10 1 20 1 30 7 10 0 20 1 30 7");
    EXPECT_EQ(spline.basis().knots, (std::vector<double>{0, 0, 0, 2.5, 2.5, 2.5}));
    EXPECT_EQ(spline.weights()[1], 0.7071067811865476);
    EXPECT_EQ(spline.pole(1), (Vec3{1, 1, 7}));
    expect_on_circle(spline, {0, 0, 7}, 1);
}

// A closed cubic over even knots, its first three poles repeated: a uniform B-spline, whose places at knots
// are (a + 4 b + c) / 6.
TEST(DxfFile, PeriodicSplinesAreClosed) {
    std::string words = "0 SPLINE 8 0 70 3 71 3 72 11 73 7";
    for (int knot = 0; knot < 11; ++knot)
        words += " 40 " + std::to_string(knot);
    const std::vector<Vec3> poles{{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {0, 4, 0}};
    for (std::size_t pole = 0; pole < 7; ++pole)
        words +=
            " 10 " + std::to_string(poles[pole % 4].x) + " 20 " + std::to_string(poles[pole % 4].y) + " 30 0";
    const SplineCurve spline = only(words);
    EXPECT_TRUE(spline.closed());
    for (std::size_t knot = 0; knot < 4; ++knot)
        expect_near(at(spline, static_cast<double>(knot) / 4),
                    (poles[knot] + poles[(knot + 1) % 4] * 4 + poles[(knot + 2) % 4]) * (1.0 / 6));
}

TEST(DxfFile, BlocksStandWhereTheyArePlaced) {
    // A post of 1 x 1 about its base point (1, 1), doubled, turned by a quarter, two columns and three rows.
    const std::string post =
        "0 BLOCK 8 0 2 post 10 1 20 1 30 0 0 LINE 8 0 10 1 20 1 11 2 21 1 0 LINE 8 caps 10 1 20 1 11 1 21 2 "
        "0 ENDBLK";
    const CurveFile file = read(
        drawing("0 INSERT 8 posts 2 post 10 10 20 20 30 5 41 2 42 2 43 2 50 90 70 2 71 3 44 100 45 7", post));
    ASSERT_EQ(file.curves.size(), 12U);
    EXPECT_EQ(file.layers, (std::vector<std::string>{"posts", "caps"}));
    expect_near(at(file.curves[0], 0), {10, 20, 5});
    expect_near(at(file.curves[0], 1), {10, 22, 5});
    // Columns go along the turned x axis, rows along the turned y axis.
    expect_near(at(file.curves[2], 0), {10, 120, 5}, 1e-11);
    expect_near(at(file.curves[4], 0), {3, 20, 5}, 1e-11);
}

TEST(DxfFile, BlocksWithinBlocksAndMirroredOnes) {
    const std::string blocks =
        "0 BLOCK 8 0 2 leaf 10 0 20 0 0 ARC 8 0 10 0 20 0 40 1 50 0 51 90 0 ENDBLK "
        "0 BLOCK 8 0 2 branch 10 0 20 0 0 INSERT 8 0 2 leaf 10 3 20 0 41 -1 0 INSERT 8 green 2 leaf 10 0 20 "
        "0 0 ENDBLK";
    const CurveFile file = read(drawing("0 INSERT 8 trees 2 branch 10 100 20 0", blocks));
    ASSERT_EQ(file.curves.size(), 2U);
    EXPECT_EQ(file.layers, (std::vector<std::string>{"trees", "green"}));
    expect_on_circle(file.curves[0], {103, 0, 0}, 1, 1e-11);
    expect_near(at(file.curves[0], 0), {102, 0, 0});
}

TEST(DxfFile, BlocksWithoutAnEndAreRefused) {
    const std::string itself =
        "0 BLOCK 8 0 2 ring 10 0 20 0 0 LINE 10 0 20 0 11 1 21 0 0 INSERT 8 0 2 ring 10 1 20 0 0 ENDBLK";
    const Error endless = error_of(drawing("0 INSERT 8 0 2 ring 10 0 20 0", itself));
    EXPECT_EQ(endless.code, ErrorCode::file_damaged);
    EXPECT_TRUE(sentence(endless).starts_with("has a block within itself: ‘ring’ in line "))
        << sentence(endless);
    // Ten of each in the next, ten deep; and the same with nothing in them.
    for (const char* inner : {"0 LINE 10 0 20 0 11 1 21 0", ""}) {
        std::string bomb = std::string("0 BLOCK 8 0 2 b0 10 0 20 0 ") + inner + " 0 ENDBLK";
        for (int depth = 1; depth <= 10; ++depth) {
            bomb += " 0 BLOCK 8 0 2 b" + std::to_string(depth) + " 10 0 20 0";
            for (int copy = 0; copy < 10; ++copy)
                bomb +=
                    " 0 INSERT 8 0 2 b" + std::to_string(depth - 1) + " 10 " + std::to_string(copy) + " 20 0";
            bomb += " 0 ENDBLK";
        }
        EXPECT_EQ(error_of(drawing("0 INSERT 8 0 2 b10 10 0 20 0", bomb)).code, ErrorCode::file_too_large)
            << inner;
    }
    const std::string wide = "0 BLOCK 8 0 2 b0 10 0 20 0 0 LINE 10 0 20 0 11 1 21 0 0 ENDBLK";
    EXPECT_EQ(error_of(drawing("0 INSERT 8 0 2 b0 10 0 20 0 70 30000 71 30000 44 1 45 1", wide)).code,
              ErrorCode::file_too_large);
}

TEST(DxfFile, UnitsAndLayersAreThoseOfTheFile) {
    const std::string line = "0 LINE 8 walls 10 0 20 0 11 1 21 0";
    EXPECT_EQ(read(drawing(line, "", 2)).metres_per_unit, 0.3048);
    EXPECT_EQ(read(drawing(line, "", 21)).metres_per_unit, 1200.0 / 3937.0);
    EXPECT_EQ(read(drawing(line, "", 4)).metres_per_unit, 0.001);
    EXPECT_EQ(read(drawing(line, "", 0)).metres_per_unit, std::nullopt);
    const CurveFile file =
        read(drawing("0 LINE 8 M\\U+00E5ge 10 0 20 0 11 1 21 0 0 LINE 8 caf\xe9 10 0 20 0 11 1 21 0 0 LINE 8 "
                     "\xc3\xbc 10 0 20 0 11 1 21 0"));
    EXPECT_EQ(file.layers, (std::vector<std::string>{"Måge", "café", "ü"}));
}

TEST(DxfFile, WhatIsNoCurveIsCounted) {
    const CurveFile file =
        read(drawing("0 LINE 8 0 10 0 20 0 11 1 21 0 0 HATCH 8 0 0 POINT 8 0 10 0 20 0 0 HATCH 8 0 0 LINE 8 "
                     "0 67 1 10 0 20 0 11 1 21 0"));
    ASSERT_EQ(file.losses.size(), 1U);
    EXPECT_EQ(file.losses[0], "Left out, for they are no curves: 2 HATCH, 1 POINT, 1 on sheets of paper.");
    const CurveFile faulty =
        read(drawing("0 LINE 8 0 10 0 20 0 11 1 21 0 0 LINE 8 0 10 nan 20 0 11 1 21 0 0 CIRCLE 8 0 10 0 20 0 "
                     "40 0 0 INSERT 8 0 2 gone 10 0 20 0"));
    ASSERT_EQ(faulty.losses.size(), 2U);
    EXPECT_EQ(faulty.losses[0],
              "2 curves were left out that cannot be: the LINE in line 34 has numbers that are none or not "
              "finite.");
    EXPECT_EQ(faulty.losses[1], "Blocks that are placed but not in the file: ‘gone’.");
    EXPECT_EQ(error_of(drawing("0 HATCH 8 0")).code, ErrorCode::empty_input);
}

TEST(DxfFile, WhatCannotBeReadSaysWhere) {
    EXPECT_EQ(
        sentence(error_of("0\nSECTION\nhello\nHEADER\n")),
        "has ‘hello’ in line 3, where the number of a code is expected. Get it anew, or mend that line.");
    EXPECT_EQ(sentence(error_of("AutoCAD Binary DXF\r\n\x1a")),
              "is a DXF in its binary form. Save it as a DXF of text, of any version.");
    EXPECT_EQ(error_of("").code, ErrorCode::empty_input);
    const std::string whole = drawing(
        "0 LINE 8 0 10 0 20 0 11 1 21 0 0 SPLINE 8 0 70 0 71 1 40 0 40 0 40 1 40 1 10 0 20 0 10 1 20 1",
        "0 BLOCK 2 b 10 0 20 0 0 LINE 10 0 20 0 11 1 21 0 0 ENDBLK");
    for (std::size_t size = 0; size + 4 < whole.size(); ++size) {
        const auto file = read_curve_bytes(whole.substr(0, size), "site.dxf", plume::Run());
        EXPECT_TRUE(!file || !file->losses.empty()) << size;
    }
}

TEST(DxfFile, LineEndsAndCommentsDoNotMatter) {
    std::string text = "999\nmade by hand\n" + drawing("0 LINE 8 0 10 0 20 0 11 1 21 0");
    std::string other;
    for (const char c : text)
        other += c == '\n' ? "\r\n" : std::string(1, c);
    EXPECT_EQ(read(other).curves.size(), 1U);
}

// The same poles and knots, to the digits the library writes.
TEST(DxfFile, OurOwnComesBack) {
    SplineCurve::Parts parts;
    parts.basis.degree = 3;
    parts.basis.knots = {0, 0, 0, 0, 1.0 / 3, 1, 1, 1, 1};
    parts.x = Doubles{0.1, 1.7, 2.2, 3.9, 5};
    parts.y = Doubles{0, 1, 1.0 / 7, 1, 0};
    parts.z = Doubles{0, 0.5, 1e-3, 2, 0};
    const SplineCurve curve = *SplineCurve::make(std::move(parts));
    const CurveSet set{{curve, ellipse(placement_of({3, 4, 0}, {0, 0, 1}, {1, 0, 0}), 2, 2)}};
    const CurveFile file = read(test::bytes_of(write_dxf, test::job_of(Value(set))));
    ASSERT_EQ(file.curves.size(), 2U);
    EXPECT_EQ(file.metres_per_unit, 1);
    ASSERT_EQ(file.curves[0].basis().knots.size(), curve.basis().knots.size());
    for (std::size_t pole = 0; pole < 5; ++pole)
        expect_near(file.curves[0].pole(pole), curve.pole(pole));
    for (std::size_t knot = 0; knot < 9; ++knot)
        EXPECT_NEAR(file.curves[0].basis().knots[knot], curve.basis().knots[knot], 1e-12);
    expect_on_circle(file.curves[1], {3, 4, 0}, 2, 1e-9);
}

TEST(DxfFile, ReadingIsCancelled) {
    const plume::Run run;
    run.cancel();
    EXPECT_EQ(read_curve_bytes(drawing("0 LINE 8 0 10 0 20 0 11 1 21 0"), "site.dxf", run).error().code,
              ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
