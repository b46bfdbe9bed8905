// Surfaces filled down to a level, and forms cut into sheets.

#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/solids/filled_down.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::StudyMaker;

Placement level_at(double height) {
    return placement_of({0, 0, height}, {0, 0, 1}, {1, 0, 0});
}
SolidSet bodies_of(const StudyMaker& maker, const std::string& name) {
    return std::get<SolidSet>(test::value_of(test::run(maker.study), name));
}

TEST(FilledDown, AParaboloidAndItsMesh) {
    // The integral of (x^2 + y^2) / 2 over 4 by 4.
    const double under = 64.0 / 3;
    const auto body = filled_down(test::quadric(1), level_at(-1), plume::Run());
    ASSERT_TRUE(body);
    EXPECT_TRUE(body->exact());
    EXPECT_EQ(body->face_count(), 6U);
    EXPECT_NEAR(body->figures().volume, under + 16, 1e-9);
    // From above it is the room under a ceiling.
    const auto over = filled_down(test::quadric(1), level_at(5), plume::Run());
    ASSERT_TRUE(over);
    EXPECT_NEAR(over->figures().volume, 16 * 5 - under, 1e-9);

    const auto height = [](double x, double y) { return (x * x + y * y) / 2; };
    const Mesh mesh = *facets(test::grid(41, 41, height), FacetShape::quads, plume::Run());
    const auto meshed = filled_down(mesh, level_at(-1), plume::Run());
    ASSERT_TRUE(meshed);
    EXPECT_EQ(test::open_edges(meshed->mesh()), 0U);
    EXPECT_NEAR(meshed->figures().volume, test::volume(meshed->mesh()), 1e-6 * meshed->figures().volume);
}

TEST(FilledDown, WhatCannotBe) {
    EXPECT_EQ(filled_down(test::quadric(1), level_at(1), plume::Run()).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(filled_down(test::sphere(1), level_at(-2), plume::Run()).error().code,
              ErrorCode::unlike_arrangement);
    const Mesh ball = *facets(test::torus(12, 8, 3, 1), FacetShape::quads, plume::Run());
    EXPECT_EQ(filled_down(ball, level_at(-2), plume::Run()).error().code, ErrorCode::unlike_arrangement);
}

TEST(FilledDown, AlongAnyDirection) {
    StudyMaker maker;
    maker.add("curve.arc", "slope");
    maker.word("slope", "shape", "line");
    maker.set("slope", "ends", Places{{"a", "0 m", "0 m", "1 m", "1"}, {"b", "4 m", "0 m", "3 m", "1"}});
    maker.add("surface.extrude", "ramp");
    maker.set("ramp", "curve", ResultName{"slope"})
        .number("ramp", "by", "3 m")
        .word("ramp", "direction", "y");
    maker.add("placement.frame", "east");
    maker.word("east", "up", "x");
    maker.add("body.fill", "bank");
    maker.set("bank", "surface", ResultName{"ramp"})
        .word("bank", "rule", "level")
        .number("bank", "level", "-1 m");
    maker.set("bank", "placement", ResultName{"east"});
    const std::pair<const char*, double> wanted[] = {
        {"z", 4 * 3 * 3}, {"x", 2 * 3 * 3}, {"placed", 2 * 3 * 3}};
    for (const auto& [direction, volume] : wanted)
        EXPECT_NEAR(figures_of(bodies_of(maker.word("bank", "direction", direction), "bank")).volume, volume,
                    1e-9)
            << direction;
    // Along its own plane there is nothing under it.
    EXPECT_EQ(test::error_of(test::run(maker.word("bank", "direction", "y").study), "bank").slot, "surface");
}

StudyMaker block() {
    StudyMaker maker;
    maker.add("outline.shape", "foot");
    maker.number("foot", "width", "2 m").number("foot", "depth", "2 m");
    maker.add("body.extrude", "block");
    maker.set("block", "curve", ResultName{"foot"}).number("block", "by", "1 m");
    maker.add("body.sheets", "sheets");
    maker.set("sheets", "bodies", ResultName{"block"}).number("sheets", "thickness", "100 mm");
    return maker;
}

TEST(Sheets, OfABlock) {
    StudyMaker maker = block();
    for (const char* walls : {"upright", "slope"}) {
        const SolidSet sheets = bodies_of(maker.word("sheets", "walls", walls), "sheets");
        ASSERT_EQ(sheets.bodies.size(), 10U) << walls;
        ASSERT_EQ(sheets.fields.size(), 1U);
        EXPECT_EQ(sheets.fields[0].name, "sheet");
        for (std::size_t sheet = 0; sheet < 10; ++sheet) {
            EXPECT_NEAR(sheets.bodies[sheet].figures().volume, 0.4, 1e-9);
            EXPECT_NEAR(sheets.bodies[sheet].figures().centroid.z, 0.05 + 0.1 * static_cast<double>(sheet),
                        1e-9);
            EXPECT_EQ(sheets.fields[0].values[sheet], static_cast<double>(sheet + 1));
        }
    }
    // Where the height is no whole number of sheets the last one stands over, upright; a slice does not.
    maker.number("sheets", "thickness", "0.3 m");
    EXPECT_NEAR(figures_of(bodies_of(maker, "sheets")).volume, 4, 1e-9);
    EXPECT_NEAR(figures_of(bodies_of(maker.word("sheets", "walls", "upright"), "sheets")).volume, 4.8, 1e-9);
    // Along X as well.
    maker.word("sheets", "direction", "x").number("sheets", "thickness", "0.5 m");
    EXPECT_EQ(bodies_of(maker, "sheets").bodies.size(), 4U);
}

TEST(Sheets, HollowsAndPins) {
    StudyMaker turned;
    turned.add("outline.shape", "section");
    turned.number("section", "width", "1 m").number("section", "depth", "1 m").word("section", "plane", "xz");
    turned.add("thing.move", "aside");
    turned.set("aside", "thing", ResultName{"section"}).number("aside", "x", "1.5 m");
    turned.number("aside", "y", "0 m").number("aside", "z", "0.5 m");
    turned.add("surface.revolve", "skin");
    turned.set("skin", "curve", ResultName{"aside"});
    turned.add("body.close", "ring");
    turned.set("ring", "thing", ResultName{"skin"});
    turned.add("points.typed", "pins");
    turned.set("pins", "rows", Lines{"x, y, z\n1.5, 0, 0\n-1.5, 0, 0\n1.05, 0, 0\n0, 0, 0"});
    turned.word("pins", "arrangement", "scatter");
    turned.add("body.sheets", "sheets");
    turned.set("sheets", "bodies", ResultName{"ring"}).number("sheets", "thickness", "0.25 m");
    const double whole = pi * (4 - 1) * 1;
    EXPECT_NEAR(figures_of(bodies_of(turned, "ring")).volume, whole, 1e-6);
    EXPECT_NEAR(figures_of(bodies_of(turned, "sheets")).volume, whole, 1e-4) << "the hollow is cut out";
    turned.word("sheets", "pins", "holes").number("sheets", "diameter", "0.2 m");
    turned.set("sheets", "places", ResultName{"pins"});
    const Evaluation made = test::run(turned.study);
    const SolidSet sheets = std::get<SolidSet>(test::value_of(made, "sheets"));
    EXPECT_NEAR(figures_of(sheets).volume, whole - 2 * pi * 0.01, 1e-4) << "two have room";
    const auto& remarks = made.outcome("sheets")->remarks;
    ASSERT_EQ(remarks.size(), 2U);
    EXPECT_EQ(remarks[0].text.substr(0, 22), "4 sheets of 4 bodies: ");
    EXPECT_EQ(remarks[1].text, "Pins would break out of a sheet 4 times and make no hole there.");
    EXPECT_TRUE(remarks[1].loss);
    // In slices, which are meshes, the pin at the rim bites into it.
    turned.word("sheets", "walls", "slope").number("sheets", "thickness", "1 m");
    turned.set("pins", "rows", Lines{"x, y, z\n1.5, 0, 0\n1.05, 0, 0"});
    EXPECT_LT(figures_of(bodies_of(turned, "sheets")).volume, whole - pi * 0.01);
}

TEST(Sheets, SlicesOfASlope) {
    StudyMaker maker;
    maker.add("curve.arc", "slope");
    maker.word("slope", "shape", "line");
    maker.set("slope", "ends", Places{{"a", "0 m", "0 m", "1 m", "1"}, {"b", "4 m", "0 m", "3 m", "1"}});
    maker.add("surface.extrude", "ramp");
    maker.set("ramp", "curve", ResultName{"slope"})
        .number("ramp", "by", "3 m")
        .word("ramp", "direction", "y");
    maker.add("body.fill", "bank");
    maker.set("bank", "surface", ResultName{"ramp"})
        .word("bank", "rule", "level")
        .number("bank", "level", "0 m");
    maker.add("body.sheets", "sheets");
    maker.set("sheets", "bodies", ResultName{"bank"}).number("sheets", "thickness", "0.7 m");
    for (const char* walls : {"slope", "upright"}) {
        const SolidSet sheets = bodies_of(maker.word("sheets", "walls", walls), "sheets");
        EXPECT_EQ(sheets.bodies.size(), 5U);
        double wanted = 24;
        if (walls == std::string("upright")) {
            // Their outlines halfway up what is there of the form: so wide is the ramp at that height.
            wanted = 0;
            for (const double middle : {0.35, 1.05, 1.75, 2.45, 2.9})
                wanted += 0.7 * 3 * std::min(4.0, 2 * (3 - middle));
        }
        EXPECT_NEAR(figures_of(sheets).volume, wanted, 1e-6) << walls;
    }
    maker.number("sheets", "thickness", "1e-9 m");
    EXPECT_TRUE(test::error_of(test::run(maker.study), "sheets").code == ErrorCode::over_budget ||
                test::error_of(test::run(maker.study), "sheets").code == ErrorCode::out_of_memory);
    maker.number("sheets", "thickness", "0 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "sheets").slot, "thickness");
}

}  // namespace
}  // namespace plume
