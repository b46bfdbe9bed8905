// Forms made by formula, against closed forms.

#include <cmath>
#include <numbers>

#include "core/picture/drawable.hpp"
#include "core/picture/own_colours.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::run;
using test::StudyMaker;
using test::value_of;

constexpr double pi = std::numbers::pi;

// "polar, 0°, 180°, 31, included" and so on.
struct LoopText {
    const char *name, *from, *to, *count, *end;
};

StudyMaker shaped(const char* system, const std::vector<LoopText>& loops, const std::string& formula) {
    StudyMaker maker;
    maker.add("lattice.formula", "form");
    maker.word("form", "system", system)
        .word("form", "loops",
              loops.size() == 1   ? "one"
              : loops.size() == 2 ? "two"
                                  : "three")
        .formula("form", formula);
    for (std::size_t at = 0; at < loops.size(); ++at) {
        const std::string suffix = std::string("_").append(std::to_string(at + 1));
        maker.word("form", "name" + suffix, loops[at].name)
            .number("form", "from" + suffix, loops[at].from)
            .number("form", "to" + suffix, loops[at].to)
            .number("form", "count" + suffix, loops[at].count)
            .word("form", "end" + suffix, loops[at].end);
    }
    return maker;
}

PointLattice form_of(const StudyMaker& maker) {
    return std::get<PointLattice>(value_of(run(maker.study), "form"));
}

Error form_error(const StudyMaker& maker) {
    return error_of(run(maker.study), "form");
}

const std::vector<LoopText> sphere_loops{{"azimuth", "0°", "360°", "48", "closes"},
                                         {"polar", "0°", "180°", "25", "included"}};

TEST(Shape, SphereOfConstantRadius) {
    const PointLattice form = form_of(shaped("spherical", sphere_loops, "radius = 3 m"));
    EXPECT_EQ(form.arrangement(), Arrangement::grid);
    EXPECT_EQ(form.counts(), (std::array<std::size_t, 3>{48, 25, 1}));
    EXPECT_TRUE(form.closed(0));
    EXPECT_FALSE(form.closed(1));
    for (std::size_t index = 0; index < form.address_count(); ++index) {
        const Address at = form.address(index);
        const double polar = pi * static_cast<double>(at.j) / 24,
                     azimuth = 2 * pi * static_cast<double>(at.i) / 48;
        EXPECT_NEAR(form.x()[index], 3 * std::sin(polar) * std::cos(azimuth), 1e-14);
        EXPECT_NEAR(form.y()[index], 3 * std::sin(polar) * std::sin(azimuth), 1e-14);
        EXPECT_NEAR(form.z()[index], 3 * std::cos(polar), 1e-14);
    }
}

// The area of a skinned sphere comes near 4 pi r^2 with the square of the bay.
TEST(Shape, ASkinnedSphereHasItsArea) {
    const auto area_with = [](const char* around, const char* down) {
        StudyMaker maker =
            shaped("spherical",
                   {{"azimuth", "0°", "360°", around, "closes"}, {"polar", "0°", "180°", down, "included"}},
                   "radius = 3 m");
        maker.add("skin", "skin");
        maker.word("skin", "surface", "flat");
        return area(std::get<Mesh>(value_of(run(maker.study), "skin")));
    };
    const double whole = 4 * pi * 9;
    const double coarse = whole - area_with("48", "25"), fine = whole - area_with("96", "49");
    EXPECT_GT(fine, 0);
    EXPECT_NEAR(coarse / fine, 4, 0.05);
}

TEST(Shape, TorusAndCylinder) {
    const PointLattice torus = form_of(
        shaped("cartesian", {{"a", "0°", "360°", "60", "closes"}, {"b", "0°", "360°", "30", "closes"}},
               "r = 4 m + 1.5 m * cos(b)\nx = r * cos(a)\ny = r * sin(a)\nz = 1.5 m * sin(b)"));
    EXPECT_TRUE(torus.closed(0) && torus.closed(1));
    for (std::size_t index = 0; index < torus.address_count(); ++index) {
        const double ring = std::hypot(torus.x()[index], torus.y()[index]) - 4;
        EXPECT_NEAR(ring * ring + torus.z()[index] * torus.z()[index], 2.25, 1e-13);
    }
    const PointLattice tower = form_of(shaped(
        "cylindrical", {{"azimuth", "0°", "360°", "12", "closes"}, {"z", "0 m", "30 m", "11", "included"}},
        "radius = 5 m"));
    EXPECT_DOUBLE_EQ(tower.z()[tower.index({0, 10, 0})], 30);
    EXPECT_NEAR(tower.x()[tower.index({3, 4, 0})], 0, 1e-14);
    EXPECT_DOUBLE_EQ(tower.y()[tower.index({3, 4, 0})], 5);
}

TEST(Shape, EndsIncludedLeftOutAndClosing) {
    const auto last = [](const char* end) {
        const PointLattice row =
            form_of(shaped("cartesian", {{"x", "1 m", "3 m", "5", end}}, "y = 0 m\nz = 0 m"));
        EXPECT_EQ(row.arrangement(), Arrangement::row);
        EXPECT_EQ(row.x()[0], 1);
        EXPECT_EQ(row.closed(0), std::string(end) == "closes");
        return row.x()[4];
    };
    EXPECT_DOUBLE_EQ(last("included"), 3);
    EXPECT_DOUBLE_EQ(last("excluded"), 2.6);
    EXPECT_DOUBLE_EQ(last("closes"), 2.6);
}

TEST(Shape, ThreeLoopsMakeABlockAndIndicesCount) {
    const PointLattice block = form_of(shaped("cartesian",
                                              {{"x", "0", "1 m", "2", "included"},
                                               {"y", "0", "2 m", "3", "included"},
                                               {"z", "0", "3 m", "4", "included"}},
                                              "field number = i + count_i * (j + count_j * k)\n"
                                              "field part = u + v + w\nfield all = count"));
    EXPECT_EQ(block.arrangement(), Arrangement::block);
    EXPECT_EQ(block.address_count(), 24U);
    for (std::size_t index = 0; index < 24; ++index)
        EXPECT_EQ(block.field("number")->values[index], static_cast<double>(index));
    EXPECT_EQ(block.field("part")->values[0], 0);
    EXPECT_EQ(block.field("part")->values[23], 3);
    EXPECT_EQ(block.field("all")->values[7], 24);
}

TEST(Shape, KeepLeavesGapsAndTheArrangement) {
    const StudyMaker maker =
        shaped("cartesian", {{"x", "0", "9 m", "10", "included"}, {"y", "0", "9 m", "10", "included"}},
               "z = 0 m\nkeep = hypot(x - 4 m, y - 4 m) > 2.5 m");
    const PointLattice form = form_of(maker);
    std::size_t kept = 0;
    for (int i = 0; i < 10; ++i)
        for (int j = 0; j < 10; ++j)
            kept += std::hypot(i - 4, j - 4) > 2.5 ? 1 : 0;
    EXPECT_EQ(form.point_count(), kept);
    EXPECT_EQ(form.address_count(), 100U);
    EXPECT_FALSE(form.present(form.index({4, 4, 0})));
    EXPECT_TRUE(form.present(form.index({0, 0, 0})));
}

TEST(Shape, AKeepThatKeepsNothingIsASentence) {
    const Error error = form_error(
        shaped("cartesian", {{"x", "0", "9 m", "10", "included"}}, "y = 0\nz = 0\nkeep = x > 10 m"));
    EXPECT_EQ(error.code, ErrorCode::empty_input);
    EXPECT_NE(sentence(error).find("keeps no point"), std::string::npos);
}

TEST(Shape, ColourTermsColourThePoints) {
    const PointLattice form = form_of(shaped("cartesian", {{"x", "0", "1 m", "3", "included"}},
                                             "y = 0\nz = 0\nhue = 120° * i\nsaturation = 1\nbrightness = 1"));
    const Drawable drawn = *make_drawable(form, {}, plume::Run());
    ASSERT_EQ(drawn.points.size(), 3U);
    for (std::size_t at = 0; at < 3; ++at)
        EXPECT_LE(drawn.points[at].colour, -3);
    const Rgb red = own_colour(drawn.points[0].colour), green = own_colour(drawn.points[1].colour),
              blue = own_colour(drawn.points[2].colour);
    EXPECT_GT(red.red, 0.95F);
    EXPECT_LT(red.green + red.blue, 0.05F);
    EXPECT_GT(green.green, 0.95F);
    EXPECT_GT(blue.blue, 0.95F);
    EXPECT_EQ(make_drawable(form, {"-", 24'000}, plume::Run())->points[0].colour, plain_coordinate);
}

TEST(Shape, WhatIsNotFiniteIsCountedAndLeftOut) {
    const PointLattice form = form_of(
        shaped("cartesian", {{"x", "-2 m", "2 m", "5", "included"}}, "y = 0\nz = 1 m * sqrt(x / 1 m)"));
    EXPECT_TRUE(std::isnan(form.z()[0]));
    const Drawable drawn = *make_drawable(form, {}, plume::Run());
    EXPECT_EQ(drawn.not_finite_points, 2U);
    EXPECT_EQ(drawn.first_not_finite, 0U);
    EXPECT_EQ(drawn.points.size(), 3U);
}

TEST(Shape, BadLoopsAndFormulasNameThePlaceAndTheMend) {
    const struct {
        LoopText loop;
        const char* formula;
        ErrorCode code;
        const char* says;
    } cases[] = {
        {{"x", "1 m", "1 m", "5", "included"}, "y = 0\nz = 0", ErrorCode::out_of_range, "would coincide"},
        {{"x", "1 m", "90°", "5", "included"}, "y = 0\nz = 0", ErrorCode::unit_mismatch, "goes from"},
        {{"x", "0", "1 m", "0", "included"},
         "y = 0\nz = 0",
         ErrorCode::out_of_range,
         "Points of the first loop"},
        {{"sin", "0", "1 m", "5", "included"}, "y = 0\nz = 0", ErrorCode::bad_name, "sin"},
        {{"x y", "0", "1 m", "5", "included"}, "y = 0\nz = 0", ErrorCode::bad_name, "x y"},
        {{"x", "0", "1 m", "5", "included"}, "y = 0", ErrorCode::missing_input, "‘z’"},
        {{"x", "0", "1 m", "5", "included"}, "y = 0\nz = 30°", ErrorCode::unit_mismatch, "z"},
        {{"x", "0", "1 m", "5", "included"}, "y = 0\nz = 2x", ErrorCode::syntax, "2"},
        {{"x", "0", "1 m", "5", "included"}, "y = 0\nz = zz + 1 m", ErrorCode::unknown_name, "zz"},
        {{"x", "0", "1 m", "5", "included"}, "y = z\nz = 1 m", ErrorCode::unknown_name, "z"},
        {{"x", "0", "1 m", "5", "included"}, "", ErrorCode::syntax, "Formula"},
    };
    for (const auto& c : cases) {
        const Error error = form_error(shaped("cartesian", {c.loop}, c.formula));
        EXPECT_EQ(error.code, c.code) << c.formula << ": " << sentence(error);
        EXPECT_NE(sentence(error).find(c.says), std::string::npos) << sentence(error);
        EXPECT_FALSE(error.mend.empty()) << c.formula;
    }
}

TEST(Shape, OnePointIsAllowedAndABillionThousandIsAskedAbout) {
    EXPECT_EQ(
        form_of(shaped("cartesian", {{"x", "1 m", "1 m", "1", "included"}}, "y = 0\nz = 0")).point_count(),
        1U);
    const StudyMaker huge =
        shaped("cartesian",
               {{"x", "0", "1 m", "1000000", "included"}, {"y", "0", "1 m", "1000000", "included"}}, "z = 0");
    EXPECT_EQ(form_error(huge).code, ErrorCode::out_of_memory) << "no machine has that";
    Budget generous;
    generous.machine_bytes = 1e15;
    EXPECT_EQ(error_of(run(huge.study, generous), "form").code, ErrorCode::over_budget);
}

TEST(Shape, ErrorsOfAFormulaSayWhichBytes) {
    const std::string formula = "y = 0\nz = 1 m * sinn(x)";
    const Error error = form_error(shaped("cartesian", {{"x", "0", "1", "5", "included"}}, formula));
    EXPECT_EQ(formula.substr(error.begin, error.end - error.begin), "sinn");
    EXPECT_NE(error.mend.find("sin"), std::string::npos);
}

TEST(Shape, NamesOutsideAsciiAndControls) {
    StudyMaker maker =
        shaped("spherical", {{"φ", "0°", "360°", "8", "closes"}, {"θ", "0°", "180°", "5", "included"}},
               "radius = size\npolar = θ\nazimuth = φ");
    maker.control("size", 2, "m");
    EXPECT_NEAR(form_of(maker).bounds().high.z, 2, 1e-15);
    maker.study = *set_control_value(*maker.study, "size", 3);
    EXPECT_NEAR(form_of(maker).bounds().high.z, 3, 1e-15);
}

TEST(Shape, RenamingAControlReachesTheFormula) {
    StudyMaker maker = shaped("cartesian", {{"x", "0", "1 m", "5", "included"}}, "y = 0\nz = size * u");
    maker.control("size", 2, "m");
    Control renamed = *maker.study->control("size");
    renamed.name = "height";
    maker.study = *set_control(*maker.study, "size", renamed);
    EXPECT_EQ(std::get<FormulaText>(maker.study->step("form")->slots.at("formula")).text,
              "y = 0\nz = height * u");
    EXPECT_EQ(form_of(maker).z()[4], 2);
}

TEST(Shape, AMutedLineIsZeroOrOne) {
    StudyMaker maker = shaped("cartesian", {{"x", "0", "1 m", "3", "included"}}, "");
    const std::string text = "swell = 3 m * u\nfade = 0.5\ny = swell + 1 m\nz = fade * 4 m";
    maker.set("form", "formula", FormulaText{text, {"swell", "fade"}, {}});
    const PointLattice form = form_of(maker);
    EXPECT_EQ(form.y()[2], 1) << "an added line becomes 0";
    EXPECT_EQ(form.z()[2], 4) << "a factor becomes 1";
}

}  // namespace
}  // namespace plume
