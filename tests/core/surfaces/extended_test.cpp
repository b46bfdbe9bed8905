// Surfaces that go on beyond their rims, and surfaces rebuilt at even lengths.

#include <numbers>

#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/surfaces/extended_surface.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/rebuilt_surface.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::at_origin;
using test::StudyMaker;

double area(const SplinePatch& patch) {
    return *area_of(SurfaceSet{{patch}}, plume::Run());
}

// z = x * x / 4 over -2..2 by 0..3, exactly, with a field that is x.
SplinePatch trough() {
    const SplineBasis u{2, false, {0, 0, 0, 1, 1, 1}, {}}, v{1, false, {0, 0, 1, 1}, {}};
    return *SplinePatch::make({u,
                               v,
                               Doubles{-2, 0, 2, -2, 0, 2},
                               Doubles{0, 0, 0, 3, 3, 3},
                               Doubles{1, -1, 1, 1, -1, 1},
                               {},
                               {{"across", Doubles{-2, 0, 2, -2, 0, 2}, a_length}}});
}

// From the equator of a sphere up to a latitude; u goes up, v round.
SplinePatch zone(double radius, double latitude) {
    const SplineCurve arc =
        ellipse_arc({placement_of({0, 0, 0}, {0, -1, 0}, {1, 0, 0}), radius, radius, 0, latitude});
    return *revolved(arc, at_origin(), 2 * pi);
}

TEST(ExtendedSurface, StraightRimsLeaveAlongTheTangent) {
    const auto made = extended(trough(), {0, true, 0.5, SurfaceExtension::straight}, plume::Run());
    ASSERT_TRUE(made);
    const SplinePatch& longer = made->patch;
    // At x = 2 it rises by 1 in 1.
    const Vec3 rim = evaluate(longer, longer.u().end(), 1).position;
    EXPECT_LT(length(rim - Vec3{2 + 0.5 * std::sqrt(0.5), 3, 1 + 0.5 * std::sqrt(0.5)}), 1e-12);
    EXPECT_NEAR(area(longer), area(trough()) + 3 * 0.5, 1e-9);
    // What was there is what it was, its numbers stay what they were at the rim.
    const PatchEvaluator evaluator(longer);
    for (const double u : {0.0, 0.3, 0.8, 1.0})
        EXPECT_LT(length(evaluator.at(u, 0.4).position - evaluate(trough(), u, 0.4).position), 1e-12);
    EXPECT_NEAR(evaluator.field_at(0, longer.u().end(), 0.5), 2, 1e-12);
    // No crease: the normals on both sides of where it began are one.
    const Vec3 before = normal_at(evaluator, longer.u(), longer.v(), 1 - 1e-9, 0.5),
               behind = normal_at(evaluator, longer.u(), longer.v(), 1 + 1e-9, 0.5);
    EXPECT_LT(length(before - behind), 1e-7);
}

TEST(ExtendedSurface, EachRimByItself) {
    for (const int direction : {0, 1})
        for (const bool at_end : {false, true}) {
            const auto made =
                extended(trough(), {direction, at_end, 1, SurfaceExtension::straight}, plume::Run());
            ASSERT_TRUE(made);
            const Box box = bounds_of(made->patch), was = bounds_of(trough());
            EXPECT_NEAR(box.high.x - was.high.x, direction == 0 && at_end ? std::sqrt(0.5) : 0, 1e-9);
            EXPECT_NEAR(was.low.x - box.low.x, direction == 0 && !at_end ? std::sqrt(0.5) : 0, 1e-9);
            EXPECT_NEAR(box.high.y - was.high.y, direction == 1 && at_end ? 1 : 0, 1e-9);
            EXPECT_NEAR(was.low.y - box.low.y, direction == 1 && !at_end ? 1 : 0, 1e-9);
        }
}

TEST(ExtendedSurface, RoundOnesStayRound) {
    // The zone's upper rim goes on as a cone: the frustum between both radii.
    const double radius = 3, latitude = pi / 4, by = 0.8;
    const auto made =
        extended(zone(radius, latitude), {0, true, by, SurfaceExtension::straight}, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_TRUE(made->patch.v().closed);
    const double lower = radius * std::cos(latitude), upper = lower - by * std::sin(latitude);
    EXPECT_NEAR(area(made->patch), 2 * pi * radius * radius * std::sin(latitude) + pi * (lower + upper) * by,
                1e-6);
    EXPECT_LT(made->deviation, 1e-7 * 10);
    const Vec3 rim = evaluate(made->patch, made->patch.u().end(), 0.3).position;
    EXPECT_NEAR(std::hypot(rim.x, rim.y), upper, 1e-6);
    EXPECT_NEAR(rim.z, radius * std::sin(latitude) + by * std::cos(latitude), 1e-6);
}

TEST(ExtendedSurface, SplinesGoOnAsTheyBend) {
    const auto made = extended(trough(), {0, true, 0.7, SurfaceExtension::onwards}, plume::Run());
    ASSERT_TRUE(made);
    const SplinePatch& longer = made->patch;
    for (const double share : {0.2, 0.9, 1.0}) {
        const Vec3 place = evaluate(longer, share * longer.u().end(), 0.5).position;
        EXPECT_NEAR(place.z, place.x * place.x / 4, 1e-12) << "it is the parabola still";
    }
    // The length of z = x * x / 4 from 2 on: with t = x / 2 it is t sqrt(1 + t t) + asinh t.
    const auto length_to = [](double x) {
        const double t = x / 2;
        return t * std::sqrt(1 + t * t) + std::asinh(t);
    };
    const double end = evaluate(longer, longer.u().end(), 0.5).position.x;
    EXPECT_NEAR(length_to(end) - length_to(2), 0.7, 1e-9);
    EXPECT_NEAR(made->shortest, 0.7, 1e-9);
    EXPECT_NEAR(made->longest, 0.7, 1e-9);
}

TEST(ExtendedSurface, TipsAndClosedDirectionsAreRefused) {
    const SplinePatch ball = test::sphere(2);
    EXPECT_FALSE(has_rim(ball, 0, true));
    EXPECT_FALSE(has_rim(ball, 1, true));
    const auto tip = extended(ball, {0, true, 1, SurfaceExtension::straight}, plume::Run());
    ASSERT_FALSE(tip);
    EXPECT_EQ(tip.error().code, ErrorCode::unlike_arrangement);
    const auto seam = extended(ball, {1, true, 1, SurfaceExtension::straight}, plume::Run());
    ASSERT_FALSE(seam);
    EXPECT_EQ(seam.error().code, ErrorCode::has_gaps);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(extended(zone(1, 1), {0, true, 1, SurfaceExtension::straight}, cancelled).error().code,
              ErrorCode::cancelled);
}

StudyMaker plate() {
    StudyMaker maker;
    maker.add("outline.shape", "edge");
    maker.word("edge", "shape", "rectangle").number("edge", "width", "6 m").number("edge", "depth", "4 m");
    maker.add("surface.fill", "whole");
    maker.set("whole", "curve", ResultName{"edge"});
    maker.add("lattice.rectangular", "grid");
    maker.number("grid", "columns", "6").number("grid", "rows", "4");
    maker.word("grid", "sizing", "over").number("grid", "width", "6 m").number("grid", "depth", "4 m");
    maker.add("skin", "plate");
    maker.set("plate", "points", ResultName{"grid"});
    maker.add("surface.extend", "larger");
    maker.set("larger", "surface", ResultName{"plate"}).number("larger", "by", "500 mm");
    maker.add("number.surface", "area");
    maker.set("area", "surface", ResultName{"larger"});
    return maker;
}

double figure(const StudyMaker& maker, const std::string& name) {
    const Evaluation made = test::run(maker.study);
    const Outcome& outcome = *made.outcome(name);
    EXPECT_TRUE(outcome.value) << sentence(*outcome.error);
    return outcome.value ? std::get<Quantity>(*outcome.value).value : 0;
}

TEST(ExtendSteps, AllRimsWithTheirCornersOrOnlySome) {
    StudyMaker maker = plate();
    EXPECT_NEAR(figure(maker, "area"), 7 * 5, 1e-9);
    EXPECT_NEAR(figure(maker.word("larger", "shape", "onwards"), "area"), 7 * 5, 1e-9);
    EXPECT_NEAR(figure(maker.word("larger", "rim", "u"), "area"), 7 * 4, 1e-9);
    EXPECT_NEAR(figure(maker.word("larger", "rim", "v_start"), "area"), 6 * 4.5, 1e-9);
    maker.set("larger", "surface", ResultName{"whole"});
    const Error trimmed = test::error_of(test::run(maker.word("edge", "shape", "circle").study), "larger");
    EXPECT_EQ(trimmed.slot, "surface");
    EXPECT_NE(trimmed.message.find("is trimmed"), std::string::npos) << trimmed.message;
    maker.number("larger", "by", "0 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "larger").slot, "by");
}

TEST(RebuiltSurface, EvenParametersAreEvenLengths) {
    // A plane whose lines stand more and more apart.
    const SplineBasis u{1, false, {0, 0, 1, 2, 3, 3}, {}}, v{1, false, {0, 0, 1, 1}, {}};
    const SplinePatch uneven = *SplinePatch::make(
        {u, v, Doubles{0, 1, 4, 9, 0, 1, 4, 9}, Doubles{0, 0, 0, 0, 2, 2, 2, 2}, Doubles(8, 0.0), {}, {}});
    const auto made = rebuilt_evenly(uneven, 9, 2, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_LT(made->deviation, 1e-9);
    const SplineBasis& along = made->patch.u();
    for (const double share : {0.1, 0.25, 0.5, 0.77}) {
        const Vec3 place = evaluate(made->patch, std::lerp(along.start(), along.end(), share), 0.5).position;
        EXPECT_NEAR(place.x, 9 * share, 1e-9);
    }
}

TEST(RebuiltSurface, HowFarItIsApartIsMeasured) {
    const SplinePatch ring = test::torus(3, 1);
    double before = 1;
    for (const std::size_t bays : {8U, 16U, 32U}) {
        const auto made = rebuilt_evenly(ring, bays, 2 * bays, plume::Run());
        ASSERT_TRUE(made);
        EXPECT_TRUE(made->patch.u().closed && made->patch.v().closed);
        double worst = 0;
        for (int row = 0; row < 200; ++row)
            for (int column = 0; column < 200; ++column) {
                const auto at = [](const SplineBasis& basis, int step) {
                    return std::lerp(basis.start(), basis.end(), step / 200.0);
                };
                const Vec3 p =
                    evaluate(made->patch, at(made->patch.u(), column), at(made->patch.v(), row)).position;
                worst = std::max(worst, std::abs(std::hypot(std::hypot(p.x, p.y) - 3, p.z) - 1));
            }
        EXPECT_NEAR(made->deviation, worst, 0.05 * worst);
        EXPECT_LT(made->deviation, before / 8) << "of the fourth order";
        before = made->deviation;
    }
}

TEST(RebuiltSurface, FieldsGoAlongAndWhatCannotBeIsSaid) {
    const auto made = rebuilt_evenly(trough(), 12, 3, plume::Run());
    ASSERT_TRUE(made);
    const PatchEvaluator evaluator(made->patch);
    const double u = std::lerp(made->patch.u().start(), made->patch.u().end(), 0.5);
    EXPECT_NEAR(evaluator.field_at(0, u, made->patch.v().start()), evaluator.at(u, 0).position.x, 1e-9);
    EXPECT_EQ(rebuilt_evenly(test::torus(3, 1), 2, 8, plume::Run()).error().code, ErrorCode::too_few_points);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(rebuilt_evenly(trough(), 12, 3, cancelled).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
