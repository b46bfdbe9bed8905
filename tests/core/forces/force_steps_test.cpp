// Steps that hold points and find forms in balance.

#include <algorithm>
#include <cmath>

#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/results/facts.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

// A frame of 8 by 6 bays of 1 m, from the origin.
StudyMaker trellis() {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.number("ground", "columns", "8").number("ground", "rows", "6").word("ground", "origin", "corner");
    maker.number("ground", "width", "8 m").number("ground", "depth", "6 m");
    maker.add("frame.lattice", "net");
    maker.set("net", "points", ResultName{"ground"});
    return maker;
}
StudyMaker& hold(StudyMaker& maker, const char* name, const char* thing, const char* at) {
    maker.add("forces.hold", name);
    return maker.set(name, "thing", ResultName{thing}).word(name, "at", at);
}
const PointLattice& nodes_of(const Value& value) {
    const auto* frame = std::get_if<BarFrame>(&value);
    return frame ? frame->nodes() : *lattice_of(value);
}
std::size_t held_in(const Value& value, double firmness = 1) {
    const auto* mesh = std::get_if<Mesh>(&value);
    const auto& fields = mesh ? mesh->fields() : nodes_of(value).fields();
    const auto held = std::ranges::find(fields, "held", &Field::name);
    EXPECT_NE(held, fields.end());
    std::size_t count = 0;
    for (std::size_t at = 0; at < held->values.size(); ++at)
        if (held->values[at] == firmness) ++count;
    return count;
}

TEST(Hold, CornersAndBorders) {
    StudyMaker maker = trellis();
    hold(maker, "corners", "net", "corners");
    hold(maker, "border", "net", "border");
    hold(maker, "points", "ground", "border");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"ground"}).word("skin", "surface", "flat");
    hold(maker, "of_mesh", "skin", "corners");
    hold(maker, "rim", "skin", "border");
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(held_in(value_of(evaluation, "corners")), 4U);
    EXPECT_EQ(held_in(value_of(evaluation, "border")), 2U * (8 + 6));
    EXPECT_EQ(held_in(value_of(evaluation, "points")), 2U * (8 + 6));
    EXPECT_EQ(held_in(value_of(evaluation, "of_mesh")), 4U);
    EXPECT_EQ(held_in(value_of(evaluation, "rim")), 2U * (8 + 6));
    EXPECT_EQ(remarks_of(evaluation, "corners"), "4 points held.\n");
}

TEST(Hold, ByAddressByConditionAndOneAfterTheOther) {
    StudyMaker maker = trellis();
    hold(maker, "row", "net", "named").set("row", "addresses", Lines{"*,0 0,6 99,0"});
    maker.number("row", "firmness", "0.25");
    hold(maker, "both", "row", "where").formula("both", "y > 5.5 m");
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(held_in(value_of(evaluation, "row"), 0.25), 10U);
    EXPECT_NE(remarks_of(evaluation, "row").find("! 1 address is not in it, the first ‘99,0’"),
              std::string::npos)
        << remarks_of(evaluation, "row");
    EXPECT_EQ(held_in(value_of(evaluation, "both"), 0.25), 9U) << "what is held more firmly by now counts so";
    EXPECT_EQ(held_in(value_of(evaluation, "both")), 9U);
}

TEST(Hold, HandlesTakeTheirPointsAlong) {
    StudyMaker maker = trellis();
    maker.add("attractors.points", "handles");
    maker.set("handles", "places",
              Places{{"a", "0.1 m", "0 m", "3 m", "1"}, {"b", "8 m", "6 m", "2 m", "1"}});
    hold(maker, "there", "net", "near").set("there", "spots", ResultName{"handles"});
    hold(maker, "kept", "net", "near")
        .set("kept", "spots", ResultName{"handles"})
        .word("kept", "moved", "kept");
    const Evaluation evaluation = run(maker.study);
    const Value there = value_of(evaluation, "there"), kept = value_of(evaluation, "kept");
    EXPECT_EQ(held_in(there), 2U);
    EXPECT_EQ(nodes_of(there).point(0), (Vec3{0.1, 0, 3}));
    EXPECT_EQ(nodes_of(there).point(62), (Vec3{8, 6, 2}));
    EXPECT_EQ(nodes_of(there).point(1), nodes_of(kept).point(1));
    EXPECT_EQ(nodes_of(kept).point(0), (Vec3{0, 0, 0}));
}

// Whatever is nearest to them: the first one named goes to the first place.
TEST(Hold, NamedPointsAreLedByPlaces) {
    StudyMaker maker = trellis();
    maker.add("attractors.points", "handles");
    maker.set("handles", "places", Places{{"a", "8 m", "6 m", "3 m", "1"}, {"b", "0 m", "0 m", "2 m", "1"}});
    maker.add("attractors.points", "one");
    maker.set("one", "places", Places{{"a", "1 m", "1 m", "1 m", "1"}});
    const auto led = [&](const char* name, const char* addresses, const char* by) {
        hold(maker, name, "net", "named").set(name, "addresses", Lines{addresses});
        maker.word(name, "led", "onto").set(name, "leads", ResultName{by});
    };
    led("each", "2,0 0,0", "handles");
    led("again", "0,0 2,0 0,0", "handles");
    led("all", "0,0 2,0", "one");
    led("too_many", "0,0 2,0 4,0", "handles");
    const Evaluation evaluation = run(maker.study);
    const Value each = value_of(evaluation, "each"), again = value_of(evaluation, "again"),
                all = value_of(evaluation, "all");
    EXPECT_EQ(nodes_of(each).point(2), (Vec3{8, 6, 3}));
    EXPECT_EQ(nodes_of(each).point(0), (Vec3{0, 0, 2}));
    EXPECT_EQ(nodes_of(again).point(0), (Vec3{8, 6, 3})) << "named twice, led once";
    EXPECT_EQ(nodes_of(all).point(0), (Vec3{0, 1, 1})) << "as they lie about their middle";
    EXPECT_EQ(nodes_of(all).point(2), (Vec3{2, 1, 1}));
    EXPECT_EQ(held_in(each), 2U);
    EXPECT_EQ(error_of(evaluation, "too_many").slot, "leads");
    EXPECT_NE(error_of(evaluation, "too_many").message.find("2 places for 3 points"), std::string::npos);
}

TEST(Hold, BordersGoOntoCurves) {
    StudyMaker maker = trellis();
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "4 m");
    hold(maker, "on_ring", "net", "within").set("on_ring", "things", ResultName{"ring"});
    maker.number("on_ring", "reach", "30 cm");
    const Value value = value_of(run(maker.study), "on_ring");
    const PointLattice& nodes = nodes_of(value);
    const Field& held = *nodes.field("held");
    std::size_t count = 0;
    for (std::size_t at = 0; at < nodes.address_count(); ++at) {
        const std::size_t row = at / 9;
        const double before = std::hypot(static_cast<double>(at % 9), static_cast<double>(row));
        EXPECT_EQ(held.values[at] == 1, std::abs(before - 4) <= 0.3) << at;
        if (held.values[at] != 1) continue;
        EXPECT_NEAR(std::hypot(nodes.point(at).x, nodes.point(at).y), 4, 1e-12);
        ++count;
    }
    EXPECT_GT(count, 2U);
}

TEST(Hold, RefusesWithTheSlotAndTheMend) {
    StudyMaker maker = trellis();
    hold(maker, "none", "net", "corners").number("none", "firmness", "0");
    hold(maker, "far", "net", "where").formula("far", "x > 99 m");
    maker.add("outline.shape", "plot");
    maker.add("lattice.scatter", "loose");
    maker.set("loose", "outline", ResultName{"plot"});
    hold(maker, "anyhow", "loose", "corners");
    maker.add("outline.shape", "ring");
    maker.number("ring", "radius", "90 m").word("ring", "shape", "circle");
    hold(maker, "out_of_reach", "net", "within").set("out_of_reach", "things", ResultName{"ring"});
    const Evaluation evaluation = run(maker.study);
    EXPECT_EQ(error_of(evaluation, "none").slot, "firmness");
    EXPECT_EQ(error_of(evaluation, "far").slot, "formula");
    EXPECT_EQ(error_of(evaluation, "out_of_reach").slot, "things");
    EXPECT_EQ(error_of(evaluation, "anyhow").slot, "thing");
    EXPECT_EQ(error_of(evaluation, "anyhow").code, ErrorCode::wrong_kind);
    for (const char* name : {"none", "far", "out_of_reach", "anyhow"})
        EXPECT_FALSE(error_of(evaluation, name).mend.empty()) << name;
}

// A rope over eight bays of 1 m, loaded at its nodes: z of node i is -p i (8 - i) / 2 q.
StudyMaker rope() {
    StudyMaker maker;
    maker.add("lattice.formula", "places");
    maker.word("places", "loops", "one").number("places", "from_1", "0 m").number("places", "to_1", "8 m");
    maker.number("places", "count_1", "9").formula("places", "y = 0 m\nz = 0 m");
    maker.add("frame.lattice", "net");
    maker.set("net", "points", ResultName{"places"});
    hold(maker, "pinned", "net", "corners");
    maker.add("forces.densities", "hung");
    maker.set("hung", "net", ResultName{"pinned"}).formula("hung", "4 kN/m").word("hung", "loaded", "each");
    maker.number("hung", "weight", "0.5 kN");
    return maker;
}

TEST(FormsInBalance, AreTheSameInAnyUnits) {
    const StudyMaker maker = rope();
    const StudyPointer small =
        with_units(*maker.study, standard_catalogue(), {LengthUnit::millimetre, AngleUnit::degree});
    for (const auto& [study, metre] : {std::pair{maker.study, 1.0}, std::pair{small, 1000.0}}) {
        const Value hung = value_of(run(study), "hung");
        const auto& frame = std::get<BarFrame>(hung);
        for (std::size_t at = 0; at <= 8; ++at)
            EXPECT_NEAR(frame.nodes().point(at).z, -0.5 * static_cast<double>(at * (8 - at)) / 8 * metre,
                        1e-9 * metre);
        const auto& force = frame.fields().back();
        EXPECT_EQ(force.name, "force");
        EXPECT_EQ(force.dimension, a_force);
        // Flattest in the middle: 4 kN a metre times 1 m along and 1/16 m down.
        EXPECT_NEAR(force.values[4], 4 * std::hypot(1, 0.0625), 1e-9);
        EXPECT_NE(remarks_of(run(study), "hung").find("The largest force is 4.366 kN, in the member "),
                  std::string::npos)
            << remarks_of(run(study), "hung");
        // Each end carries half of all nine loads, and what pulls along.
        EXPECT_NEAR(frame.nodes().field("support")->values[0], std::hypot(4, 4.5 * 0.5), 1e-9);
    }
}

TEST(FormsInBalance, MeshesAreNetsOfTheirEdges) {
    StudyMaker maker = trellis();
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"ground"}).word("skin", "surface", "flat");
    hold(maker, "pinned_mesh", "skin", "corners");
    hold(maker, "pinned_net", "net", "corners");
    for (const auto& [name, of] :
         {std::pair{"mesh_form", "pinned_mesh"}, std::pair{"net_form", "pinned_net"}}) {
        maker.add("forces.densities", name);
        maker.set(name, "net", ResultName{of}).word(name, "loaded", "each").number(name, "weight", "0.3 kN");
    }
    const Evaluation evaluation = run(maker.study);
    const Value mesh_form = value_of(evaluation, "mesh_form"), net_form = value_of(evaluation, "net_form");
    const auto& mesh = std::get<Mesh>(mesh_form);
    const PointLattice& nodes = nodes_of(net_form);
    ASSERT_EQ(mesh.vertex_count(), nodes.address_count());
    // At a corner two edges meet, alike to those of the frame.
    const auto& frame = std::get<BarFrame>(net_form);
    double sum = 0;
    for (std::size_t at = 0; at < frame.member_count(); ++at)
        if (frame.members()[at].from == 0) sum += frame.fields().back().values[at];
    EXPECT_EQ(mesh.fields().back().name, "force");
    EXPECT_NEAR(mesh.fields().back().values[0], sum / 2, 1e-9);
    for (std::size_t at = 0; at < nodes.address_count(); ++at)
        EXPECT_LT(length(mesh.vertex(at) - nodes.point(at)), 1e-10) << at;
}

// Of 8 by 6 bays 28 members, or edges with one face, are along the border; a ring has two borders.
TEST(FormsInBalance, BordersArePulledMore) {
    StudyMaker maker = trellis();
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"ground"}).word("skin", "surface", "flat");
    hold(maker, "pinned_mesh", "skin", "corners");
    hold(maker, "pinned_net", "net", "corners");
    maker.add("forces.densities", "frame");
    maker.set("frame", "net", ResultName{"pinned_net"}).formula("frame", "1 kN/m * if(border, 3, 2)");
    maker.add("forces.densities", "mesh");
    maker.set("mesh", "net", ResultName{"pinned_mesh"}).formula("mesh", "1 kN/m * if(border, 3, 2)");
    const Evaluation evaluation = run(maker.study);
    const Value value = value_of(evaluation, "frame"), mesh_value = value_of(evaluation, "mesh");
    const auto& frame = std::get<BarFrame>(value);
    std::size_t border = 0;
    for (std::size_t at = 0; at < frame.member_count(); ++at) {
        const double density = frame.fields().back().values[at] / frame.length_of(frame.members()[at]);
        EXPECT_TRUE(std::abs(density - 3) < 1e-9 || std::abs(density - 2) < 1e-9) << density;
        border += density > 2.5 ? 1 : 0;
    }
    EXPECT_EQ(border, 28U);
    const auto& mesh = std::get<Mesh>(mesh_value);
    for (std::size_t at = 0; at < mesh.vertex_count(); ++at)
        EXPECT_LT(length(mesh.vertex(at) - frame.nodes().point(at)), 1e-10);
}

TEST(FormsInBalance, LoadsAreCarriedByNodes) {
    StudyMaker maker = rope();
    maker.study = *remove_items(*maker.study, {maker.study->step("hung")->id}, true);
    maker.add("field.formula", "load");
    maker.set("load", "points", ResultName{"places"}).formula("load", "if(i == 4, 3 kN, 0 kN)");
    maker.set("net", "points", ResultName{"load"});
    maker.study = *move_items(*maker.study, {maker.study->step("load")->id}, 1);
    maker.add("forces.densities", "hung");
    maker.set("hung", "net", ResultName{"pinned"})
        .formula("hung", "2 kN/m")
        .word("hung", "loaded", "carried");
    const Evaluation evaluation = run(maker.study);
    // A single load of 3 kN in the middle: two lines from end to end.
    const Value hung = value_of(evaluation, "hung");
    for (std::size_t at = 0; at <= 8; ++at)
        EXPECT_NEAR(nodes_of(hung).point(at).z, -3.0 / 4 * static_cast<double>(std::min(at, 8 - at)), 1e-10);
    maker.set("net", "points", ResultName{"places"});
    EXPECT_EQ(error_of(run(maker.study), "hung").slot, "loaded");
}

TEST(FormsInBalance, StiffMembersComeToRest) {
    StudyMaker maker = rope();
    maker.add("forces.relax", "rest");
    maker.set("rest", "net", ResultName{"pinned"}).formula("rest", "length * 1.2");
    maker.number("rest", "stiffness", "1e6 kN")
        .word("rest", "loaded", "each")
        .number("rest", "weight", "0.5 kN");
    const Evaluation evaluation = run(maker.study);
    const Value value = value_of(evaluation, "rest");
    const auto& frame = std::get<BarFrame>(value);
    for (const Member& member : frame.members())
        EXPECT_NEAR(frame.length_of(member), 1.2, 1e-4);
    EXPECT_LT(frame.nodes().point(4).z, -1.5);
    const auto details = details_of(value, {});
    EXPECT_TRUE(details.back().starts_with("force of members: ") && details.back().ends_with(" kN"))
        << details.back();
}

TEST(FormsInBalance, AFilmOverAFlatBorderIsFlat) {
    StudyMaker maker = trellis();
    maker.add("points.move_formula", "waves");
    maker.set("waves", "points", ResultName{"ground"});
    maker.formula("waves",
                  "to_z = if(i == 0 or j == 0 or i == 8 or j == 6, 0 m, sin(x / 1 m) * cos(y / 1 m) * 1 m)");
    maker.add("skin", "skin");
    maker.set("skin", "points", ResultName{"waves"}).word("skin", "surface", "flat");
    maker.add("forces.smallest", "film");
    maker.set("film", "mesh", ResultName{"skin"});
    const Evaluation evaluation = run(maker.study);
    const Value film = value_of(evaluation, "film");
    const auto& mesh = std::get<Mesh>(film);
    EXPECT_NEAR(area(mesh), 48, 1e-9);
    EXPECT_NE(remarks_of(evaluation, "film").find("to 48 m²"), std::string::npos)
        << remarks_of(evaluation, "film");
}

TEST(FormsInBalance, WhatIsHeldNowhereIsRefused) {
    StudyMaker maker = rope();
    maker.set("hung", "net", ResultName{"net"});
    const Error error = error_of(run(maker.study), "hung");
    EXPECT_EQ(error.slot, "net");
    EXPECT_NE(sentence(error).find("held nowhere"), std::string::npos) << sentence(error);
    maker.set("hung", "net", ResultName{"pinned"}).formula("hung", "length");
    EXPECT_EQ(error_of(run(maker.study), "hung").slot, "formula") << "a length is no force a metre";
    maker.formula("hung", "0 kN/m");
    EXPECT_EQ(error_of(run(maker.study), "hung").code, ErrorCode::not_converged);
}

// Every pair of points that are there, by the radius they carry.
void expect_apart(const PointLattice& points) {
    const Field& radius = *points.field("radius");
    for (std::size_t a = 0; a < points.address_count(); ++a)
        for (std::size_t b = a + 1; b < points.address_count(); ++b) {
            if (!points.present(a) || !points.present(b)) continue;
            EXPECT_GE(length(points.point(a) - points.point(b)),
                      (radius.values[a] + radius.values[b]) * (1 - 2e-6))
                << a << ' ' << b;
        }
}

TEST(Apart, PointsKeepToOutlinesAndSurfaces) {
    StudyMaker maker;
    maker.add("outline.shape", "pond");
    maker.word("pond", "shape", "circle").number("pond", "radius", "6 m");
    maker.add("lattice.scatter", "rafts");
    maker.set("rafts", "outline", ResultName{"pond"}).number("rafts", "spacing", "1 m");
    maker.add("forces.apart", "in_pond");
    maker.set("in_pond", "points", ResultName{"rafts"}).formula("in_pond", "30 cm + 25 cm * random(3)");
    maker.word("in_pond", "where", "outline").set("in_pond", "outline", ResultName{"pond"});
    maker.add("surface.fill", "water");
    maker.set("water", "curve", ResultName{"pond"});
    maker.add("forces.apart", "on_water");
    maker.set("on_water", "points", ResultName{"rafts"})
        .formula("on_water", "48 cm")
        .word("on_water", "where", "form");
    maker.set("on_water", "form", ResultName{"water"});
    const Evaluation evaluation = run(maker.study);
    const Value in_pond = value_of(evaluation, "in_pond");
    const PointLattice& points = nodes_of(in_pond);
    expect_apart(points);
    for (std::size_t at = 0; at < points.address_count(); ++at) {
        const Vec3 place = points.point(at);
        EXPECT_LE(std::hypot(place.x, place.y) + points.field("radius")->values[at], 6 + 1e-3) << at;
        EXPECT_NEAR(place.z, 0, 1e-12);
    }
    EXPECT_EQ(remarks_of(evaluation, "in_pond").find("overlap"), std::string::npos)
        << remarks_of(evaluation, "in_pond");
    expect_apart(nodes_of(value_of(evaluation, "on_water")));
}

TEST(Apart, GapsAndWhatIsHeldStay) {
    StudyMaker maker = trellis();
    maker.add("points.keep_inside", "some");
    maker.add("outline.shape", "ring");
    maker.number("ring", "radius", "3 m").word("ring", "shape", "circle");
    maker.study = *move_items(*maker.study, {maker.study->step("ring")->id}, 0);
    maker.set("some", "points", ResultName{"ground"}).set("some", "outline", ResultName{"ring"});
    hold(maker, "pinned", "some", "named").set("pinned", "addresses", Lines{"0,0"});
    maker.add("forces.apart", "apart");
    maker.set("apart", "points", ResultName{"pinned"}).formula("apart", "0.8 m");
    const Value value = value_of(run(maker.study), "apart");
    const PointLattice& points = nodes_of(value);
    EXPECT_EQ(points.point(0), (Vec3{0, 0, 0}));
    EXPECT_FALSE(points.present(62));
    expect_apart(points);
}

TEST(Apart, RefusesSizesThatAreNone) {
    StudyMaker maker = trellis();
    maker.add("forces.apart", "apart");
    maker.set("apart", "points", ResultName{"ground"}).formula("apart", "x - 2 m");
    EXPECT_EQ(error_of(run(maker.study), "apart").slot, "formula");
    maker.formula("apart", "2");
    EXPECT_TRUE(run(maker.study).outcome("apart")->value) << "a plain number counts the study's unit";
    maker.formula("apart", "20 kN");
    EXPECT_EQ(error_of(run(maker.study), "apart").slot, "formula");
}

// Six rails across a pond of 8 m by 6 m with an island, from bank to bank.
StudyMaker rails() {
    StudyMaker maker;
    maker.add("outline.shape", "pond");
    maker.word("pond", "shape", "rectangle").number("pond", "width", "8 m").number("pond", "depth", "6 m");
    maker.add("outline.shape", "island");
    maker.word("island", "shape", "circle").number("island", "radius", "20 cm");
    maker.add("surface.fill", "water");
    maker.set("water", "curve", ResultName{"pond"});
    maker.add("lattice.formula", "ends");
    maker.word("ends", "loops", "two").word("ends", "name_1", "v");
    maker.number("ends", "from_1", "-1 m").number("ends", "to_1", "2 m").number("ends", "count_1", "6");
    maker.word("ends", "name_2", "u").number("ends", "from_2", "-4 m").number("ends", "to_2", "4 m");
    maker.number("ends", "count_2", "2").formula("ends", "x = u\ny = v\nz = 0 m");
    maker.add("curve.join", "drawn");
    maker.set("drawn", "points", ResultName{"ends"}).word("drawn", "route", "columns");
    maker.add("forces.lines", "spread");
    maker.set("spread", "lines", ResultName{"drawn"});
    return maker;
}

TEST(Lines, SpreadAsFarAsTheirPondHasRoom) {
    StudyMaker maker = rails();
    maker.word("spread", "apart", "room").word("spread", "where", "outline").word("spread", "ends", "slide");
    maker.set("spread", "outline", ResultName{"pond"});
    const Evaluation evaluation = run(maker.study);
    const Value value = value_of(evaluation, "spread");
    const CurveSet& set = std::get<CurveSet>(value);
    ASSERT_EQ(set.curves.size(), 6U);
    for (std::size_t line = 0; line < 6; ++line)
        for (const double share : {0.1, 0.5, 0.9}) {
            const SplineCurve& curve = set.curves[line];
            const double at = curve.basis().start() + share * (curve.basis().end() - curve.basis().start());
            EXPECT_NEAR(evaluate(curve, at).position.y, -2.5 + static_cast<double>(line), 0.03) << line;
            EXPECT_NEAR(field_at(curve, "apart", at), 1, 0.02) << line;
        }
    EXPECT_NE(remarks_of(evaluation, "spread").find("Lines are at least"), std::string::npos)
        << remarks_of(evaluation, "spread");
}

TEST(Lines, SayWhatTheyLack) {
    StudyMaker maker = rails();
    maker.number("spread", "gap", "3 m").word("spread", "where", "outline");
    maker.set("spread", "outline", ResultName{"pond"}).number("spread", "rounds", "50");
    std::string said = remarks_of(run(maker.study), "spread");
    EXPECT_NE(said.find("nearer to a line than the 3 m that you asked for"), std::string::npos) << said;
    EXPECT_NE(said.find("They still move after 50 rounds"), std::string::npos) << said;
    maker.number("spread", "gap", "20 cm").word("spread", "lengths", "grow").number("spread", "times", "100");
    said = remarks_of(run(maker.study), "spread");
    EXPECT_NE(said.find("with more rounds they grow on"), std::string::npos) << said;
}

TEST(Lines, RefuseWhatCannotBe) {
    StudyMaker maker = rails();
    maker.word("spread", "ends", "slide");
    EXPECT_EQ(error_of(run(maker.study), "spread").slot, "ends") << "there is no edge to slide on";
    maker.word("spread", "ends", "free").word("spread", "lengths", "short");
    EXPECT_EQ(error_of(run(maker.study), "spread").slot, "ends") << "nothing would be left";
    maker.word("spread", "lengths", "keep").word("spread", "apart", "room");
    EXPECT_EQ(error_of(run(maker.study), "spread").slot, "apart") << "room without end";
    maker.word("spread", "where", "outline").set("spread", "outline", ResultName{"pond"});
    maker.word("spread", "lengths", "grow");
    EXPECT_EQ(error_of(run(maker.study), "spread").slot, "apart") << "both cannot be";
    maker.set("spread", "outline", ResultName{"drawn"});
    EXPECT_EQ(error_of(run(maker.study), "spread").slot, "outline");
}

// Round a ring that stays, and over a form that they keep to.
TEST(Lines, KeepOffWhatStaysAndOnWhatTheyLieOn) {
    StudyMaker maker = rails();
    maker.word("spread", "around", "others").set("spread", "others", ResultName{"island"});
    maker.word("spread", "where", "form").set("spread", "form", ResultName{"water"});
    maker.number("spread", "gap", "50 cm");
    const Value value = value_of(run(maker.study), "spread");
    std::size_t points = 0;
    for (const SplineCurve& curve : std::get<CurveSet>(value).curves)
        for (const double at : curve.basis().nodes) {
            const Vec3 place = evaluate(curve, at).position;
            ++points;
            EXPECT_NEAR(place.z, 0, 1e-9);
            const bool crossed = std::abs(place.y) < 0.25 && std::abs(place.x) < 0.75;
            EXPECT_TRUE(crossed || std::hypot(place.x, place.y) > 0.65) << place.x << ' ' << place.y;
        }
    EXPECT_GT(points, 400U);
}

// Of forces a plain number counts kN; other units are refused.
TEST(FormsInBalance, ForcesHaveUnits) {
    StudyMaker maker = rope();
    maker.number("hung", "weight", "0.5");
    EXPECT_NEAR(nodes_of(value_of(run(maker.study), "hung")).point(4).z, -1, 1e-9);
    maker.number("hung", "weight", "0.5 m");
    EXPECT_EQ(error_of(run(maker.study), "hung").slot, "weight");
    maker.word("hung", "loaded", "length").number("hung", "heavy", "0.5 kN/m");
    EXPECT_NEAR(nodes_of(value_of(run(maker.study), "hung")).point(4).z, -1, 1e-9) << "members are 1 m long";
    maker.number("hung", "heavy", "0.5 kN");
    EXPECT_EQ(error_of(run(maker.study), "hung").slot, "heavy");
    maker.number("hung", "heavy", "0.5 kN/m + 0.1 kN / 2 m");
    EXPECT_NEAR(nodes_of(value_of(run(maker.study), "hung")).point(4).z, -1.1, 1e-9);
    // A control may be a force, too.
    maker.control("weight", 0.25, "kN").word("hung", "loaded", "each").number("hung", "weight", "weight * 2");
    EXPECT_NEAR(nodes_of(value_of(run(maker.study), "hung")).point(4).z, -1, 1e-9);
}

}  // namespace
}  // namespace plume::test
