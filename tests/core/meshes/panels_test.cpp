// Panels of faces: areas, volumes, openings in closed form; warped faces split.

#include "core/geometry/meshes/panels.hpp"

#include <cmath>

#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
using test::value_of;

// 4 by 3 rectangles of 2 m by 1 m.
StudyMaker sheet() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "2 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", "4").number("grid", "rows", "3");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"grid"})
        .word("skin", "surface", "flat")
        .word("skin", "facets", "quads");
    maker.add("mesh.panels", "panels");
    maker.set("panels", "mesh", ResultName{"skin"});
    return maker;
}

Mesh mesh_of(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    EXPECT_TRUE(made.outcome(name)->value) << sentence(*made.outcome(name)->error);
    return std::get<Mesh>(value_of(made, name));
}

TEST(Panels, GapThicknessAndSide) {
    StudyMaker maker = sheet();
    maker.number("panels", "gap", "50 mm").number("panels", "thickness", "20 mm");
    const Mesh outside = mesh_of(maker, "panels");
    EXPECT_EQ(outside.part_count(), 12U);
    EXPECT_EQ(test::open_edges(outside), 0U);
    EXPECT_NEAR(test::volume(outside), 12 * 1.9 * 0.9 * 0.02, 1e-12);
    EXPECT_NEAR(outside.bounds().low.z, 0, 1e-12);
    EXPECT_NEAR(outside.bounds().high.z, 0.02, 1e-12);
    maker.word("panels", "side", "inside");
    EXPECT_NEAR(mesh_of(maker, "panels").bounds().low.z, -0.02, 1e-12);
    maker.word("panels", "side", "middle");
    EXPECT_NEAR(mesh_of(maker, "panels").bounds().low.z, -0.01, 1e-12);
    maker.number("panels", "thickness", "0 mm");
    EXPECT_NEAR(area(mesh_of(maker, "panels")), 12 * 1.9 * 0.9, 1e-12);
    EXPECT_EQ(test::run(maker.study).outcome("panels")->remarks.front().text,
              "12 panels, together 20.52 m².");
}

TEST(Panels, OpeningsByAFormula) {
    StudyMaker maker = sheet();
    maker.number("panels", "gap", "0 mm")
        .number("panels", "thickness", "10 mm")
        .word("panels", "sizes", "formula");
    maker.formula("panels", "opening = 0.25");
    const Mesh open = mesh_of(maker, "panels");
    EXPECT_EQ(test::open_edges(open), 0U);
    EXPECT_NEAR(test::volume(open), 12 * 2 * 0.75 * 0.01, 1e-12);
    maker.formula("panels", "opening = 0.5 * (x > 0)");
    EXPECT_NEAR(test::volume(mesh_of(maker, "panels")), (6 * 2 + 6 * 1) * 0.01, 1e-12);
    maker.formula("panels", "opening = 1");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "panels")),
              "The panel 0 has an opening that is not from 0 to below 1. Type another.");
}

// One upright panel, 2 m wide and 1 m high, that looks to -Y.
TEST(Panels, TurnedAboutTheirHinges) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.word("grid", "sizing", "spaced").number("grid", "pitch_u", "2 m").number("grid", "pitch_v", "1 m");
    maker.number("grid", "columns", "1").number("grid", "rows", "1");
    maker.add("points.move_formula", "upright");
    maker.set("upright", "points", ResultName{"grid"}).formula("upright", "to_y = 0 m\nto_z = y");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"upright"})
        .word("skin", "surface", "flat")
        .word("skin", "facets", "quads");
    maker.add("mesh.panels", "panels");
    maker.set("panels", "mesh", ResultName{"skin"}).number("panels", "gap", "0 m");
    maker.number("panels", "thickness", "0 m").number("panels", "turn", "90°");
    const auto expect = [&](const char* hinge, Vec3 low, Vec3 high) {
        maker.word("panels", "hinge", hinge);
        const Box box = mesh_of(maker, "panels").bounds();
        EXPECT_NEAR(length(box.low - low), 0, 1e-12) << hinge;
        EXPECT_NEAR(length(box.high - high), 0, 1e-12) << hinge;
    };
    expect("none", {-1, 0, -0.5}, {1, 0, 0.5});
    expect("upper", {-1, -1, 0.5}, {1, 0, 0.5});
    expect("lower", {-1, -1, -0.5}, {1, 0, -0.5});
    expect("middle", {-1, -0.5, 0}, {1, 0.5, 0});
    // By a formula: what is above the middle goes outwards.
    maker.word("panels", "sizes", "formula").formula("panels", "turn = 15° * area / 1 m^2");
    const Mesh turned = mesh_of(maker, "panels");
    const Vec3 highest = turned.vertex(turned.face(0)[2]);
    EXPECT_NEAR(highest.y, -0.25, 1e-12);
    EXPECT_NEAR(highest.z, 0.5 * std::sqrt(0.75), 1e-12);
    // Further over each other than apart, with a thickness they stay closed.
    maker.word("panels", "sizes", "alike")
        .number("panels", "gap", "-0.1 m")
        .number("panels", "thickness", "10 mm");
    const Mesh shingle = mesh_of(maker, "panels");
    EXPECT_EQ(test::open_edges(shingle), 0U);
    EXPECT_NEAR(test::volume(shingle), 2.2 * 1.2 * 0.01, 1e-12);
}

TEST(Panels, GapsWiderThanFacesLeaveNothing) {
    StudyMaker maker = sheet();
    maker.number("panels", "gap", "0.5 m");
    EXPECT_EQ(sentence(test::error_of(test::run(maker.study), "panels")),
              "Gap leave no panel: gaps are wider than faces. Type a smaller gap.");
    maker.word("panels", "sizes", "formula").formula("panels", "gap = 0.6 m * (face == 5)");
    const Evaluation made = test::run(maker.study);
    EXPECT_EQ(std::get<Mesh>(value_of(made, "panels")).part_count(), 11U);
    EXPECT_EQ(made.outcome("panels")->remarks.front().text,
              "1 face is narrower than the gaps leave, and left out, the first number 5.");
}

TEST(ColdBending, OfATwistedSheetAndInEveryUnit) {
    // z = x y / 50 m over 2 m by 1 m: each panel has a corner 40 mm out. 70 GPa, 8 mm, 0.23.
    StudyMaker maker = sheet();
    maker.add("points.move_formula", "twisted");
    maker.set("twisted", "points", ResultName{"grid"}).formula("twisted", "to_z = x * y / 50 m");
    maker.add("skin", "warped");
    maker.set("warped", "points", ResultName{"twisted"}).word("warped", "surface", "flat");
    maker.add("mesh.cold_bending", "bent");
    maker.set("bent", "mesh", ResultName{"warped"});
    const double wanted = 70e3 * 0.008 * 0.04 / (2 * 1.23 * 2 * 1);
    const auto least_and_most = [&] {
        const Mesh mesh = mesh_of(maker, "bent");
        const auto stress = std::ranges::find(mesh.face_fields(), "stress", &Field::name);
        return std::ranges::minmax(
            std::vector<double>(stress->values.span().begin(), stress->values.span().end()));
    };
    EXPECT_NEAR(least_and_most().min, wanted, wanted * 0.01) << "the sheet slopes by a twentieth";
    EXPECT_NEAR(least_and_most().max, wanted, wanted * 0.01);
    EXPECT_EQ(test::run(maker.study).outcome("bent")->remarks.front().text,
              "All can be bent cold; the most any takes is 30.3 % of the limit.");
    maker.number("bent", "limit", "3");
    EXPECT_NE(test::run(maker.study).outcome("bent")->remarks.front().text.find("12 faces take more"),
              std::string::npos);
    maker.study = with_units(*maker.study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree});
    EXPECT_NEAR(least_and_most().max, wanted, wanted * 0.01);
}

TEST(Panels, TrianglesAndConcaveFacesMoveIn) {
    // An L of six corners, 2 by 2 less 1 by 1, set in by 0.1 all round.
    const Mesh mesh = *Mesh::make({.x = Doubles{0, 2, 2, 1, 1, 0},
                                   .y = Doubles{0, 0, 1, 1, 2, 2},
                                   .z = Doubles(6, 0.0),
                                   .first = {0, 6},
                                   .corners = {0, 1, 2, 3, 4, 5},
                                   .fields = {}});
    const auto number = [](double value) { return [value](std::size_t) { return value; }; };
    const auto made = panels_of(mesh, {number(0.1), number(0), number(0), 1}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_NEAR(made->area, 3 - 8 * 0.1 + 4 * 0.01, 1e-12)
        << "its rim is 8 long, with five corners out and one in";
}

TEST(SplitWarped, TheBetterDiagonalAndTheLimit) {
    // One corner raised by 0.4: 0.1 from the best plane of a square.
    const Mesh mesh = *Mesh::make({.x = Doubles{0, 1, 1, 0, 2, 2},
                                   .y = Doubles{0, 0, 1, 1, 0, 1},
                                   .z = Doubles{0, 0, 0, 0.4, 0, 0},
                                   .first = {0, 4, 8},
                                   .corners = {0, 1, 2, 3, 1, 4, 5, 2},
                                   .fields = {},
                                   .face_fields = {{"load", Doubles{7, 9}, plain_number}}});
    const auto made = split_warped(mesh, 0.05, plume::Run());
    EXPECT_EQ(made->split, 1U);
    EXPECT_EQ(made->mesh.face_count(), 3U);
    EXPECT_NEAR(made->worst, 0, 1e-12);
    EXPECT_EQ(made->mesh.face_fields().front().values[1], 7);
    EXPECT_EQ(made->mesh.face_fields().front().values[2], 9);
    EXPECT_EQ(split_warped(mesh, 0.2, plume::Run())->split, 0U);
    // Folding over the diagonal from the raised corner or the other one turns by as much on a square; a kite
    // has a better one.
    const Mesh kite = *Mesh::make({.x = Doubles{0, 3, 4, 3},
                                   .y = Doubles{0, -1, 0, 1},
                                   .z = Doubles{0, 0, 0.3, 0},
                                   .first = {0, 4},
                                   .corners = {0, 1, 2, 3},
                                   .fields = {}});
    const Mesh halves = split_warped(kite, 0, plume::Run())->mesh;
    const auto turn = [&](std::size_t a, std::size_t b) {
        return dot(unit_or_zero(area_vector(halves, a)), unit_or_zero(area_vector(halves, b)));
    };
    // Over 1-3: normals (0,0,1) and that of 1, 2, 3, rising 0.3 in 1; over 0-2: rising 0.3 in 4 along, 1 to 3
    // across.
    const double along = 1 / std::sqrt(1 + 0.09);
    const Vec3 low = unit_or_zero(cross(Vec3{3, -1, 0}, Vec3{4, 0, 0.3})),
               high = unit_or_zero(cross(Vec3{4, 0, 0.3}, Vec3{3, 1, 0}));
    EXPECT_NEAR(turn(0, 1), std::max(along, dot(low, high)), 1e-12);
}

}  // namespace
}  // namespace plume
