// Curves from SVG: against closed forms of what is written by hand, and what is said of drawings that cannot
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

// A page of 100 x 50 in its own units, y up from its lower side once it is read.
std::string page(const std::string& content, const std::string& size = "width=\"200mm\" height=\"100mm\"") {
    return "<?xml version=\"1.0\"?>\n<svg xmlns=\"http://www.w3.org/2000/svg\" " + size +
           " viewBox=\"0 0 100 50\">\n" + content + "\n</svg>";
}
std::string path(const std::string& data) {
    return page("<path d=\"" + data + "\"/>");
}
CurveFile read(const std::string& text) {
    return test::drawing_of(text, "plan.svg");
}
SplineCurve only(const std::string& text) {
    return test::only_curve_of(text, "plan.svg");
}
Error error_of(const std::string& text) {
    return test::drawing_error(text, "plan.svg");
}

TEST(SvgFile, LinesInAllTheirLetters) {
    const SplineCurve curve = only(path("M10 10h20v5H20V20l-5,-2L10-0 3.5.5"));
    EXPECT_FALSE(curve.closed());
    const std::vector<Vec3> corners{{10, 40, 0}, {30, 40, 0}, {30, 35, 0}, {20, 35, 0},
                                    {20, 30, 0}, {15, 32, 0}, {10, 50, 0}, {3.5, 49.5, 0}};
    ASSERT_EQ(curve.basis().pole_count(), corners.size());
    for (std::size_t corner = 0; corner < corners.size(); ++corner)
        expect_near(curve.pole(corner), corners[corner]);
}

TEST(SvgFile, PathsCloseAndBeginAgain) {
    const CurveFile file = read(path("M0 0 10 0 10 10z m20 0 l5 0 0 5 z l1 1"));
    ASSERT_EQ(file.curves.size(), 3U);
    EXPECT_TRUE(file.curves[0].closed());
    EXPECT_NEAR(CurveLength(file.curves[0]).total(), 20 + std::sqrt(200.0), 1e-12);
    expect_near(at(file.curves[1], 0), {20, 50, 0});
    expect_near(at(file.curves[2], 0), {20, 50, 0});
    expect_near(at(file.curves[2], 1), {21, 49, 0});
}

TEST(SvgFile, BeziersAreExact) {
    const SplineCurve cubic = only(path("M0 0C0 10 10 10 10 0"));
    expect_near(at(cubic, 0.5), {5, 50 - 7.5, 0});
    const SplineCurve quadratic = only(path("M0 0q5 10 10 0"));
    EXPECT_EQ(quadratic.basis().degree, 2);
    expect_near(at(quadratic, 0.5), {5, 45, 0});
    // What is held over is mirrored: both halves are one sine-like curve about (10, 0).
    const SplineCurve smooth = only(path("M0 0C0 10 10 10 10 0S20-10 20 0"));
    expect_near(at(smooth, 0.75), {15, 50 + 7.5, 0}, 1e-9);
    const SplineCurve waves = only(path("M0 0Q5 10 10 0T20 0"));
    expect_near(at(waves, 0.75), {15, 55, 0}, 1e-9);
}

TEST(SvgFile, ArcsAreExact) {
    // A quarter of a circle about (10, 10), both ways round.
    for (const auto& [flags, centre] : {std::pair{"0 1", Vec3{0, 40, 0}},
                                        {"0 0", Vec3{10, 50, 0}},
                                        {"1 1", Vec3{10, 50, 0}},
                                        {"1 0", Vec3{0, 40, 0}}}) {
        const SplineCurve arc = only(path(std::string("M0 0A10 10 0 ") + flags + " 10 10"));
        for (int step = 0; step <= 10; ++step)
            EXPECT_NEAR(length(at(arc, step / 10.0) - centre), 10, 1e-11) << flags;
        EXPECT_NEAR(CurveLength(arc).total(), flags[0] == '1' ? 15 * pi : 5 * pi, 1e-8) << flags;
    }
    // Turned by 30 degrees, flags without blanks; every place fits the equation of the ellipse.
    const SplineCurve turned = only(path("M0 0a8 4 30 01 6 3"));
    expect_near(at(turned, 1), {6, 47, 0}, 1e-11);
    // Radii too small reach just from end to end.
    const SplineCurve small = only(path("M0 0A1 1 0 0 1 10 0"));
    for (int step = 0; step <= 10; ++step)
        EXPECT_NEAR(length(at(small, step / 10.0) - Vec3{5, 50, 0}), 5, 1e-11);
}

TEST(SvgFile, ShapesAreCurves) {
    const CurveFile file =
        read(page("<rect x='1' y='2' width='10' height='4'/><rect x='0' y='0' width='10' height='6' "
                  "rx='2'/><circle cx='50' cy='25' r='5'/>"
                  "<ellipse cx='50' cy='25' rx='8' ry='2'/><line x1='0' y1='0' x2='3' y2='4'/><polyline "
                  "points='0,0 1,0 1,1'/>"
                  "<polygon points='0 0 4 0 4 3'/>"));
    ASSERT_EQ(file.curves.size(), 7U);
    const auto total = [&](std::size_t index) { return CurveLength(file.curves[index]).total(); };
    EXPECT_NEAR(total(0), 28, 1e-12);
    EXPECT_NEAR(total(1), 12 + 4 + 4 * pi, 1e-8);
    EXPECT_NEAR(total(2), 10 * pi, 1e-8);
    EXPECT_NEAR(total(4), 5, 1e-12);
    EXPECT_NEAR(total(5), 2, 1e-12);
    EXPECT_NEAR(total(6), 12, 1e-12);
    EXPECT_TRUE(file.curves[2].closed() && file.curves[3].closed() && file.curves[6].closed());
    expect_near(poles_box(file.curves[0]).low, {1, 44, 0});
}

TEST(SvgFile, TransformsAndUsesPlaceThem) {
    const CurveFile file = read(page(
        "<defs><g id='post'><line x1='0' y1='0' x2='1' y2='0'/></g></defs><symbol id='mark'><line x1='0' "
        "y1='0' x2='0' y2='1'/></symbol>"
        "<g id='fence' transform='translate(10 20) scale(2)'><use href='#post' x='3'/><g "
        "transform='rotate(90)'><use xmlns:xlink='http://www.w3.org/1999/xlink' xlink:href='#mark'/></g></g>"
        "<line x1='1' y1='0' x2='2' y2='0' transform='matrix(0 1 -1 0 5 5), skewX(45)'/>"));
    ASSERT_EQ(file.curves.size(), 3U);
    EXPECT_EQ(file.layers, (std::vector<std::string>{"fence", "drawing"}));
    expect_near(at(file.curves[0], 0), {16, 30, 0});
    expect_near(at(file.curves[0], 1), {18, 30, 0});
    expect_near(at(file.curves[1], 1), {8, 30, 0});
    expect_near(at(file.curves[2], 0), {5, 44, 0});
    expect_near(at(file.curves[2], 1), {5, 43, 0});
}

TEST(SvgFile, UnitsAreThoseOfThePage) {
    const std::string line = "<line x1='0' y1='0' x2='1' y2='0'/>";
    EXPECT_NEAR(*read(page(line)).metres_per_unit, 0.002, 1e-15);
    EXPECT_NEAR(*read(page(line, "width='10in' height='5in'")).metres_per_unit, 0.00254, 1e-15);
    EXPECT_EQ(read(page(line, "width='100' height='50'")).metres_per_unit, std::nullopt);
    EXPECT_EQ(read(page(line, "width='100%'")).metres_per_unit, std::nullopt);
}

TEST(SvgFile, LayersHaveTheirTitles) {
    const std::string line = "<line x1='0' y1='0' x2='1' y2='0'/>";
    const CurveFile file = read(page("<g id='g1'><title>Reed &amp; mud</title>" + line + "<g id='inner'>" +
                                     line + "</g></g><g id='g2'>" + line +
                                     "</g>"
                                     "<g id='g3' style='display: none'>" +
                                     line + "</g>"));
    EXPECT_EQ(file.layers, (std::vector<std::string>{"Reed & mud", "g2"}));
    EXPECT_EQ(file.losses, (std::vector<std::string>{"Left out, for they are no curves: 1 hidden."}));
}

TEST(SvgFile, WhatUsesItselfIsRefused) {
    EXPECT_EQ(error_of(page("<g id='a'><use href='#b'/></g><g id='b'><use href='#a'/></g>")).code,
              ErrorCode::file_damaged);
    std::string bomb = "<defs><line id='u0' x1='0' y1='0' x2='1' y2='1'/>";
    for (int depth = 1; depth < 12; ++depth) {
        bomb += "<g id='u" + std::to_string(depth) + "'>";
        for (int copy = 0; copy < 10; ++copy)
            bomb += "<use href='#u" + std::to_string(depth - 1) + "'/>";
        bomb += "</g>";
    }
    EXPECT_EQ(error_of(page(bomb + "</defs><use href='#u11'/>")).code, ErrorCode::file_too_large);
    std::string chain = "<defs><line id='u0' x1='0' y1='0' x2='1' y2='1'/>";
    for (int depth = 1; depth < 30000; ++depth)
        chain += "<use id='u" + std::to_string(depth) + "' href='#u" + std::to_string(depth - 1) + "'/>";
    EXPECT_FALSE(read_curve_bytes(page(chain + "</defs><use href='#u29999'/>"), "plan.svg", plume::Run()));
    std::string nested;
    for (int depth = 0; depth < 1000; ++depth)
        nested += "<g>";
    EXPECT_EQ(error_of(page(nested)).code, ErrorCode::too_deep);
}

// Entities of the document are bounded by the parser; external ones and scripts are left alone.
TEST(SvgFile, NothingIsFetchedOrRun) {
    std::string laughs = "<!DOCTYPE svg [<!ENTITY a0 \"ha\">";
    for (int depth = 1; depth < 12; ++depth) {
        laughs += "<!ENTITY a" + std::to_string(depth) + " \"";
        for (int copy = 0; copy < 10; ++copy)
            laughs += "&a" + std::to_string(depth - 1) + ";";
        laughs += "\">";
    }
    EXPECT_EQ(error_of(laughs + "]><svg><title>&a11;</title></svg>").code, ErrorCode::file_damaged);
    const test::Folder folder;
    test::write(folder / "secret", "M0 0L1 1");
    const std::string outside =
        "<!DOCTYPE svg [<!ENTITY x SYSTEM \"file://" + (folder / "secret").string() +
        "\">]><svg><title>&x;</title><path d='M0 0L9 9'/><script>alert(1)</script>"
        "<use href='http://sallow.example/a.svg#b'/><image href='http://sallow.example/a.png'/></svg>";
    const CurveFile file = read(outside);
    EXPECT_EQ(file.curves.size(), 1U);
    EXPECT_EQ(file.losses, (std::vector<std::string>{"1 reference to what is not in the file left out.",
                                                     "Left out, for they are no curves: 1 image."}));
}

TEST(SvgFile, WhatCannotBeReadSaysWhere) {
    EXPECT_EQ(sentence(error_of("<svg><path d='M0 0L1 1'/>")),
              "is no XML that can be read: no element found in line 1. Get it anew, or mend that line.");
    EXPECT_EQ(sentence(error_of("<html/>")), "is XML, but no SVG. Choose a file of DXF or SVG.");
    EXPECT_EQ(error_of(page("")).code, ErrorCode::empty_input);
    const CurveFile file = read(page("<path d='M0 0L5 0 5 reed'/><path d='L1 1'/>"));
    ASSERT_EQ(file.curves.size(), 1U);
    EXPECT_EQ(
        file.losses,
        (std::vector<std::string>{
            "2 paths are drawn up to a mistake only, the first one in line 3 at character 12 of its data."}));
    for (const char* data :
         {"M0 0 L1e999 0", "M0 0 A1 1 0 2 0 3 3", "M0 0 C1 1", "M", "Z", "M0 0ZZ5", "M0 0 L1 1 @", "M nan 0"})
        (void)read_curve_bytes(path(data), "plan.svg", plume::Run());
    const std::string whole = page("<g transform='scale(2)'><path d='M0 0C1 1 2 2 3 0A1 1 0 0 1 5 5z'/></g>");
    for (std::size_t size = 1; size + 1 < whole.size(); ++size)
        EXPECT_FALSE(read_curve_bytes(whole.substr(0, size), "plan.svg", plume::Run())) << size;
}

TEST(SvgFile, OurOwnComesBackToScale) {
    const CurveSet set{
        {ellipse(placement_of({3, 4, 0}, {0, 0, 1}, {1, 0, 0}), 2, 2), *line_between({0, 0, 0}, {6, 0, 0})}};
    ExportJob job = test::job_of(Value(set), "pond");
    job.plan_scale = 50;
    const CurveFile file = read(test::bytes_of(write_svg, job));
    ASSERT_EQ(file.curves.size(), 2U);
    EXPECT_EQ(file.layers, (std::vector<std::string>{"pond"}));
    EXPECT_NEAR(CurveLength(file.curves[0]).total() * *file.metres_per_unit * 50, 4 * pi, 1e-5);
    EXPECT_NEAR(CurveLength(file.curves[1]).total() * *file.metres_per_unit * 50, 6, 1e-6);
}

}  // namespace
}  // namespace plume
