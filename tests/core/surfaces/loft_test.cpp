// Surfaces over curves: against closed forms, and against the curves themselves.

#include "core/geometry/surfaces/loft.hpp"

#include <numbers>

#include "core/geometry/curves/compatible_curves.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::StudyMaker;
constexpr double pi = std::numbers::pi;

SplineCurve held(std::vector<Vec3> poles, int degree, bool closed = false) {
    return *curve_held_by({std::move(poles), {}, {}, degree, closed});
}

// Every place of a section lies on the surface at its node across, at the same share of its own domain.
void expect_through(const SplinePatch& patch, const std::vector<SplineCurve>& sections) {
    for (std::size_t section = 0; section < sections.size(); ++section) {
        const SplineBasis& along = sections[section].basis();
        for (int at = 0; at <= 40; ++at) {
            const Vec3 on_curve =
                evaluate(sections[section], std::lerp(along.start(), along.end(), at / 40.0)).position;
            const Vec3 on_patch = evaluate(patch, at / 40.0, patch.v().nodes[section]).position;
            EXPECT_NEAR(length(on_curve - on_patch), 0, 1e-11) << section << " at " << at;
        }
    }
}

TEST(Loft, GoesThroughUnlikeCurvesExactly) {
    const std::vector<SplineCurve> sections{
        *line_between({0, 0, 0}, {10, 0, 0}), *arc_through({0, 5, 0}, {5, 5, 3}, {10, 5, 0}),
        held({{0, 9, 0}, {2, 9, 5}, {5, 9, -3}, {8, 9, 2}, {9, 9, 0}, {10, 9, 1}}, 3),
        held({{0, 12, 0}, {3, 12, 1}, {10, 12, 0}}, 2)};
    const auto smooth = lofted({sections, true, false}, plume::Run());
    ASSERT_TRUE(smooth) << sentence(smooth.error());
    EXPECT_EQ(smooth->u().degree, 3);
    EXPECT_TRUE(smooth->rational());
    expect_through(*smooth, sections);
    const auto straight = lofted({sections, false, false}, plume::Run());
    ASSERT_TRUE(straight);
    EXPECT_EQ(straight->v().degree, 1);
    expect_through(*straight, sections);
}

TEST(Loft, ARuledHyperboloid) {
    // Two circles of radius 3, 8 m apart, one turned by 120°: lines between them touch the waist of
    // radius 1.5.
    const SplineCurve low = ellipse_arc({{}, 3, 3, 0, 2 * pi});
    Placement above;
    above.origin = {0, 0, 8};
    const SplineCurve high = ellipse_arc({above, 3, 3, 2 * pi / 3, 2 * pi});
    const auto patch = lofted({{low, high}, false, false}, plume::Run());
    ASSERT_TRUE(patch);
    EXPECT_TRUE(patch->u().closed);
    const double middle = patch->v().nodes.back() / 2;
    for (int at = 0; at < 40; ++at) {
        const Vec3 waist = evaluate(*patch, at / 40.0, middle).position;
        EXPECT_NEAR(std::hypot(waist.x, waist.y), 3 * std::cos(pi / 3), 1e-12);
        EXPECT_NEAR(waist.z, 4, 1e-12);
    }
}

TEST(Loft, RingsAndTips) {
    std::vector<SplineCurve> ring;
    for (int at = 0; at < 8; ++at) {
        const double angle = pi * at / 4;
        const Vec3 out{std::cos(angle), std::sin(angle), 0};
        ring.push_back(ellipse(placement_of(out * 10, {-out.y, out.x, 0}, out), 2, 2));
    }
    const auto torus = lofted({ring, true, true}, plume::Run());
    ASSERT_TRUE(torus) << sentence(torus.error());
    EXPECT_TRUE(torus->v().closed);
    for (int u = 0; u < 12; ++u)
        for (int v = 0; v < 8; ++v) {
            const Vec3 p = evaluate(*torus, u / 12.0, torus->v().nodes[static_cast<std::size_t>(v)]).position;
            EXPECT_NEAR(std::hypot(std::hypot(p.x, p.y) - 10, p.z), 2, 1e-12);
        }
    const auto cone =
        lofted({{ellipse({}, 3, 3), tip_like(ellipse({}, 3, 3), {0, 0, 6})}, false, false}, plume::Run());
    ASSERT_TRUE(cone);
    const Vec3 half = evaluate(*cone, 0.3, cone->v().nodes.back() / 2).position;
    EXPECT_NEAR(std::hypot(half.x, half.y), 1.5, 1e-12);
    EXPECT_EQ(half.z, 3);
}

TEST(Loft, BadInputNamesTheMend) {
    const SplineCurve line = *line_between({0, 0, 0}, {10, 0, 0});
    const auto code = [](Loft loft) {
        const auto made = lofted(loft, plume::Run());
        EXPECT_FALSE(made);
        if (made) return ErrorCode::cancelled;
        EXPECT_FALSE(made.error().mend.empty());
        return made.error().code;
    };
    EXPECT_EQ(code({{}, true, false}), ErrorCode::too_few_points);
    EXPECT_EQ(code({{line}, true, false}), ErrorCode::too_few_points);
    EXPECT_EQ(code({{line, line}, true, false}), ErrorCode::unlike_arrangement) << "a curve and itself";
    EXPECT_EQ(code({{line, ellipse({}, 2, 2)}, true, false}), ErrorCode::unlike_arrangement);
    EXPECT_EQ(code({{line, *line_between({0, 1, 0}, {10, 1, 0})}, true, true}), ErrorCode::too_few_points);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(lofted({{line, *line_between({0, 1, 0}, {10, 1, 0})}, true, false}, cancelled).error().code,
              ErrorCode::cancelled);
}

TEST(Aligned, TurnsAndSeamsFollowTheCurveBefore) {
    const SplineCurve line = *line_between({0, 0, 0}, {10, 0, 0}),
                      back = *line_between({10, 3, 0}, {0, 3, 0});
    const auto lines = aligned({line, back, line}, 0);
    EXPECT_NEAR(evaluate(lines[1], lines[1].basis().start()).position.x, 0, 1e-12) << "turned round";
    EXPECT_EQ(lines[2].pole(0), line.pole(0));
    // A circle begun elsewhere and run the other way comes to lie under the first.
    Placement above;
    above.origin = {1, 0, 5};
    const SplineCurve first = ellipse({}, 4, 3),
                      second = reversed(ellipse_arc({above, 4, 3, pi / 2, 2 * pi}));
    const auto rings = aligned({first, second}, 0);
    for (int at = 0; at < 16; ++at) {
        const double share = at / 16.0;
        const auto place = [&](const SplineCurve& curve) {
            const CurveLength measure(curve);
            return evaluate(curve, measure.parameter_at(share * measure.total())).position;
        };
        EXPECT_NEAR(length(place(rings[1]) - place(rings[0]) - Vec3{1, 0, 5}), 0, 1e-6) << at;
    }
    const auto turned = aligned({first, first}, 0.25);
    EXPECT_NEAR(length(evaluate(turned[1], turned[1].basis().start()).position - Vec3{0, 3, 0}), 0, 1e-9);
    EXPECT_EQ(aligned({first, first}, 0)[1].pole(0), first.pole(0))
        << "what lies well stays to the last digit";
}

TEST(Extruded, CylindersAndWalls) {
    const auto cylinder = extruded(ellipse({}, 3, 3), {0, 0, 5});
    ASSERT_TRUE(cylinder);
    for (int u = 0; u < 20; ++u)
        for (const double v : {0.0, 2.5, 5.0}) {
            const Vec3 p = evaluate(*cylinder, cylinder->u().end() * u / 20, v).position;
            EXPECT_NEAR(std::hypot(p.x, p.y), 3, 1e-14 * 10);
            EXPECT_NEAR(p.z, v, 1e-14);
        }
    EXPECT_FALSE(extruded(ellipse({}, 3, 3), {0, 0, 0}));
}

TEST(Revolved, SphereTorusAndConeAreExact) {
    // Half a circle in the XZ plane, from pole to pole, about Z.
    const Placement upright{{}, {1, 0, 0}, {0, 0, 1}, {0, -1, 0}};
    const SplineCurve half = ellipse_arc({upright, 4, 4, -pi / 2, pi});
    const auto sphere = revolved(half, {}, 2 * pi);
    ASSERT_TRUE(sphere);
    EXPECT_TRUE(sphere->v().closed);
    for (int u = 0; u <= 20; ++u)
        for (int v = 0; v < 20; ++v)
            EXPECT_NEAR(
                length(evaluate(*sphere, half.basis().end() * u / 20, sphere->v().end() * v / 20).position),
                4, 1e-13);
    Placement aside = upright;
    aside.origin = {10, 0, 0};
    const auto torus = revolved(ellipse(aside, 2, 2), {}, 2 * pi);
    for (int u = 0; u <= 20; ++u)
        for (int v = 0; v < 20; ++v) {
            const Vec3 p = evaluate(*torus, torus->u().end() * u / 20, torus->v().end() * v / 20).position;
            EXPECT_NEAR(std::hypot(std::hypot(p.x, p.y) - 10, p.z), 2, 1e-13);
        }
    const auto quarter = revolved(*line_between({0, 0, 4}, {3, 0, 0}), {}, pi / 2);
    const Vec3 end = evaluate(*quarter, quarter->u().end(), quarter->v().end()).position;
    EXPECT_NEAR(length(end - Vec3{0, 3, 0}), 0, 1e-14);
    EXPECT_FALSE(revolved(half, {}, 0));
    // About a slanting axis aside of the origin: every place keeps its distance from it.
    const Placement axis = placement_of({1, 2, 3}, {1, 1, 2}, {1, 0, 0});
    const auto slanting = revolved(half, axis, 1.3);
    const auto away = [&](Vec3 p) { return std::hypot(axis.to_local(p).x, axis.to_local(p).y); };
    for (int u = 0; u <= 10; ++u)
        EXPECT_NEAR(
            away(evaluate(*slanting, half.basis().end() * u / 10, slanting->v().end() * 0.37).position),
            away(evaluate(half, half.basis().end() * u / 10).position), 1e-12);
}

TEST(SurfaceSteps, ARoofBetweenTwoCurves) {
    StudyMaker maker;
    maker.add("curve.drawn", "front");
    maker.add("curve.drawn", "back");
    Places places = std::get<Places>(standard_catalogue().find("curve.drawn")->slot("poles")->preset_value());
    for (Place& place : places)
        place.y = "8 m";
    maker.set("back", "poles", places);
    maker.add("surface.loft", "roof");
    maker.set("roof", "curve", ResultName{"front"}).set("roof", "last", ResultName{"back"});
    const Value roof = test::value_of(test::run(maker.study), "roof");
    const SplinePatch& patch = std::get<SurfaceSet>(roof).patches.front();
    EXPECT_EQ(patch.x().size(), 10U);
    EXPECT_NEAR(patch.v().end(), 8, 1e-12);
    maker.word("roof", "from", "over");
    EXPECT_EQ(test::error_of(test::run(maker.study), "roof").slot, "curve");
    maker.word("roof", "ends", "to_tip");
    maker.set("roof", "last_tip", Places{{"tip", "0 m", "12 m", "3 m", "1"}});
    EXPECT_EQ(std::get<SurfaceSet>(test::value_of(test::run(maker.study), "roof")).patches.size(), 1U);
}

StudyMaker round_wall() {
    StudyMaker maker;
    maker.add("outline.shape", "rim");
    maker.word("rim", "shape", "circle").number("rim", "radius", "2 m");
    maker.add("surface.extrude", "wall");
    maker.set("wall", "curve", ResultName{"rim"}).number("wall", "by", "3 m");
    return maker;
}

TEST(SurfaceSteps, OffsetPartsFlippedAndMeasured) {
    StudyMaker maker = round_wall();
    maker.add("surface.offset", "off");
    maker.set("off", "surface", ResultName{"wall"}).number("off", "by", "500 mm");
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"off"});
    const auto figure = [&] {
        return std::get<Quantity>(*test::run(maker.study).outcome("area")->value).value;
    };
    EXPECT_NEAR(figure(), 2 * pi * 2.5 * 3, 1e-9) << "its normals point outwards";
    maker.number("off", "by", "-500 mm");
    EXPECT_NEAR(figure(), 2 * pi * 1.5 * 3, 1e-9);
    maker.add("surface.flip", "flipped");
    maker.set("flipped", "surface", ResultName{"wall"});
    for (const char* way : {"u", "v", "swapped"}) {
        maker.word("flipped", "way", way).set("off", "surface", ResultName{"flipped"});
        StudyMaker above = round_wall();
        above.add("surface.flip", "flipped");
        above.set("flipped", "surface", ResultName{"wall"}).word("flipped", "way", way);
        above.add("surface.offset", "off");
        above.set("off", "surface", ResultName{"flipped"}).number("off", "by", "500 mm");
        above.add("number.surface", "area");
        above.set("area", "surface", ResultName{"off"});
        EXPECT_NEAR(std::get<Quantity>(*test::run(above.study).outcome("area")->value).value,
                    2 * pi * 1.5 * 3, 1e-9)
            << way << " turns the normals over";
    }
    StudyMaker parts = round_wall();
    parts.add("surface.part", "part");
    parts.set("part", "surface", ResultName{"wall"})
        .number("part", "from_u", "0.2")
        .number("part", "to_u", "0.45");
    parts.number("part", "from_v", "0.5");
    parts.add("number.surface", "area");
    parts.set("area", "surface", ResultName{"part"});
    const auto part = std::get<Quantity>(*test::run(parts.study).outcome("area")->value).value;
    EXPECT_NEAR(part, 2 * pi * 2 * 1.5 / 4, 0.05) << "parameters of an arc are nearly even";
    const Evaluation refused = test::run(parts.number("part", "to_u", "0.1").study);
    EXPECT_EQ(refused.outcome("part")->error->slot, "to_u");
}

TEST(SurfaceSteps, RimsOfAMeshAreItsOpenEdgesJoined) {
    // A plate of facets with a gap in it: the border outside and that of the hole.
    StudyMaker maker;
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "6").number("grid", "rows", "6");
    maker.word("grid", "sizing", "over").number("grid", "width", "6 m").number("grid", "depth", "6 m");
    maker.add("points.keep_where", "holed");
    maker.set("holed", "points", ResultName{"grid"}).formula("holed", "abs(i - 3) + abs(j - 3) > 0");
    maker.add("skin", "facets");
    maker.set("facets", "points", ResultName{"holed"}).word("facets", "surface", "flat");
    maker.add("curve.on_surface", "rims");
    maker.set("rims", "surface", ResultName{"facets"});
    const auto rims = std::get<CurveSet>(test::value_of(test::run(maker.study), "rims"));
    ASSERT_EQ(rims.curves.size(), 2U);
    double total = 0;
    for (const SplineCurve& rim : rims.curves) {
        EXPECT_TRUE(rim.closed());
        total += length_of(rim);
    }
    EXPECT_NEAR(total, 24 + 8, 1e-9);
    maker.word("rims", "which", "along_u");
    EXPECT_EQ(test::error_of(test::run(maker.study), "rims").slot, "which");
}

TEST(SurfaceSteps, OffsetByAFormulaOfThePlace) {
    // A wall round to 2 m, half a metre out at its foot and one and a half at its top: a frustum.
    StudyMaker maker = round_wall();
    maker.add("surface.offset", "off");
    maker.set("off", "surface", ResultName{"wall"}).word("off", "rule", "formula");
    maker.formula("off", "500 mm + z / 3");
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"off"});
    const auto area = [&] {
        const Evaluation made = test::run(maker.study);
        EXPECT_TRUE(made.outcome("off")->value) << sentence(*made.outcome("off")->error);
        return std::get<Quantity>(*made.outcome("area")->value).value;
    };
    EXPECT_NEAR(area(), pi * (2.5 + 3.5) * std::hypot(3, 1), 2e-2);
    maker.formula("off", "-500 mm");
    EXPECT_NEAR(area(), 2 * pi * 1.5 * 3, 1e-9);
    maker.formula("off", "1 m / (z - 1.5 m) * 1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "off").slot, "formula");
    maker.formula("off", "30°");
    EXPECT_EQ(test::error_of(test::run(maker.study), "off").slot, "formula");
}

TEST(SurfaceSteps, RimsAndCurvesOfASurface) {
    StudyMaker maker = round_wall();
    maker.add("curve.on_surface", "ribs");
    maker.set("ribs", "surface", ResultName{"wall"});
    const auto curves = [&] {
        return std::get<CurveSet>(*test::run(maker.study).outcome("ribs")->value).curves;
    };
    ASSERT_EQ(curves().size(), 2U);
    EXPECT_NEAR(length_of(curves()[1]), 4 * pi, 1e-9);
    EXPECT_TRUE(curves()[1].closed());
    maker.word("ribs", "which", "along_v").number("ribs", "count", "5");
    ASSERT_EQ(curves().size(), 5U);
    for (const SplineCurve& rib : curves())
        EXPECT_NEAR(length_of(rib), 3, 1e-12);
    maker.word("ribs", "which", "along_u").number("ribs", "count", "1");
    ASSERT_EQ(curves().size(), 1U);
    EXPECT_NEAR(curves()[0].z()[0], 1.5, 1e-12) << "a single one is in the middle";
}

StudyMaker swept(const char* plane = "xy") {
    StudyMaker maker;
    maker.add("outline.shape", "pipe");
    maker.word("pipe", "shape", "circle").number("pipe", "radius", "200 mm");
    maker.add("outline.shape", "pool");
    maker.word("pool", "shape", "circle").word("pool", "plane", plane).number("pool", "radius", "3 m");
    maker.add("surface.sweep", "swept");
    maker.set("swept", "curve", ResultName{"pipe"}).set("swept", "rail", ResultName{"pool"});
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"swept"});
    return maker;
}

double area_of_swept(const StudyMaker& maker) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome("area");
    EXPECT_TRUE(outcome.value) << (made.outcome("swept")->error ? made.outcome("swept")->error->message : "");
    return outcome.value ? std::get<Quantity>(*outcome.value).value : 0;
}

TEST(SurfaceSteps, AProfileCarriedRoundIsATorus) {
    StudyMaker maker = swept();
    for (const char* turning : {"least", "upright"}) {
        EXPECT_NEAR(area_of_swept(maker.word("swept", "turning", turning)), 4 * pi * pi * 0.6, 2e-4)
            << turning;
        const SplinePatch patch =
            std::get<SurfaceSet>(*test::run(maker.study).outcome("swept")->value).patches.front();
        EXPECT_TRUE(patch.u().closed && patch.v().closed);
    }
    // Half as large everywhere.
    maker.word("swept", "change", "formula").set("swept", "formula", FormulaText{"scale = 0.5", {}, {}});
    EXPECT_NEAR(area_of_swept(maker), 4 * pi * pi * 0.3, 2e-4);
    maker.set("swept", "formula", FormulaText{"scale = u - 0.5", {}, {}});
    EXPECT_EQ(test::run(maker.study).outcome("swept")->error->slot, "formula");
}

// A circle that reaches from one straight rail to another that runs away from it: a cone.
TEST(SurfaceSteps, ASecondRailMakesTheProfileGrow) {
    StudyMaker maker;
    const auto line = [&](const char* name, Places ends) {
        maker.add("curve.arc", name);
        maker.word(name, "shape", "line").set(name, "ends", std::move(ends));
    };
    maker.add("outline.shape", "hoop");
    maker.word("hoop", "shape", "circle").number("hoop", "radius", "1 m");
    line("axis", {{"a", "0 m", "0 m", "0 m", "1"}, {"b", "0 m", "0 m", "4 m", "1"}});
    line("edge", {{"a", "1 m", "0 m", "0 m", "1"}, {"b", "3 m", "0 m", "4 m", "1"}});
    maker.add("surface.sweep", "swept");
    maker.set("swept", "curve", ResultName{"hoop"}).set("swept", "rail", ResultName{"axis"});
    maker.word("swept", "turning", "second").set("swept", "second", ResultName{"edge"});
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"swept"});
    EXPECT_NEAR(area_of_swept(maker), pi * (1 + 3) * std::sqrt(20.0), 1e-6);
}

TEST(SurfaceSteps, ARailWithACornerIsRefused) {
    StudyMaker maker = swept();
    maker.word("pool", "shape", "rectangle").number("pool", "width", "4 m").number("pool", "depth", "3 m");
    const Evaluation made = test::run(maker.study);
    ASSERT_FALSE(made.outcome("swept")->value);
    EXPECT_EQ(made.outcome("swept")->error->slot, "rail");
    EXPECT_NE(made.outcome("swept")->error->mend.find("Round"), std::string::npos);
}

}  // namespace
}  // namespace plume
