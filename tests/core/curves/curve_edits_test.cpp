// Curves measured, cut, rounded, rebuilt, put end to end: against closed forms.

#include <numbers>

#include "core/geometry/curves/base_line.hpp"
#include "core/geometry/curves/curve_chains.hpp"
#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_figures.hpp"
#include "core/geometry/curves/curve_rebuild.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"
#include "core/geometry/curves/spline_roots.hpp"
#include "core/made_forms.hpp"

namespace plume {
namespace {

using test::StudyMaker;
constexpr double pi = std::numbers::pi;

using test::polyline;

SplineCurve wave() {
    HeldCurve held;
    held.poles = {{0, 0, 0}, {2, 5, 0}, {5, -4, 1}, {8, 6, 3}, {12, 0, 0}, {14, 1, -2}};
    return *curve_held_by(held);
}

// Figures
// ----------------------------------------------------------------------------------------------------

TEST(CurveFigures, AreasAndCentroidsOfKnownShapes) {
    const Placement plane = placement_of({3, -2, 5}, {1, 2, 2}, {2, -1, 0});
    const Vec3 circle = area_vector(ellipse(plane, 4, 4));
    EXPECT_NEAR(length(circle - plane.up * (16 * pi)), 0, 1e-9);
    EXPECT_NEAR(length(area_vector(ellipse(plane, 5, 2))), 10 * pi, 1e-9);
    EXPECT_NEAR(length(area_vector(rectangle(plane, 10, 6, 1.5))), 60 - (4 - pi) * 1.5 * 1.5, 1e-9);
    EXPECT_NEAR(length(area_vector(polyline({{0, 0, 0}, {4, 0, 0}, {0, 3, 0}}, true))), 6, 1e-12);
    // Half a disc: its centroid lies 4 r / 3 pi above its straight side, its arc's 2 r / pi.
    const SplineCurve bow = ellipse_arc({{}, 6, 6, 0, pi});
    EXPECT_NEAR(centroid_of_line(bow).y, 12 / pi, 1e-9);
    const std::array<SplineCurve, 2> pieces{bow, *line_between({-6, 0, 0}, {6, 0, 0})};
    const SplineCurve disc = closed_up(end_to_end(pieces));
    EXPECT_NEAR(length(*centroid_of_area(disc) - Vec3{0, 24 / (3 * pi), 0}), 0, 1e-9);
    EXPECT_NEAR(length(area_vector(disc)), 18 * pi, 1e-9);
    const Vec3 corner = *centroid_of_area(polyline({{0, 0, 0}, {4, 0, 0}, {0, 3, 0}}, true));
    EXPECT_NEAR(length(corner - Vec3{4.0 / 3, 1, 0}), 0, 1e-12);
    EXPECT_FALSE(centroid_of_area(polyline({{0, 0, 0}, {4, 0, 0}, {8, 0, 0}}, true)));
    for (const double size : {1e-9, 1e9})
        EXPECT_NEAR(length(area_vector(ellipse({}, size, size))) / (size * size), pi, 1e-9);
}

TEST(CurveFigures, TheTightestBend) {
    EXPECT_NEAR(tightest_bend(ellipse({}, 7, 7))->radius, 7, 1e-9);
    // An ellipse bends most at the ends of its long axis: b² / a.
    const auto end = tightest_bend(ellipse({}, 5, 2));
    EXPECT_NEAR(end->radius, 4.0 / 5, 1e-9);
    EXPECT_NEAR(std::abs(end->place.x), 5, 1e-4);
    // A parabola y = x²: 1/2 at its summit.
    HeldCurve held;
    held.degree = 2;
    held.poles = {{-1, 1, 0}, {0.5, -2, 0}, {2, 4, 0}};  // x from -1 to 2
    EXPECT_NEAR(tightest_bend(*curve_held_by(held))->radius, 0.5, 1e-9);
    EXPECT_FALSE(tightest_bend(polyline({{0, 0, 0}, {4, 0, 0}, {0, 3, 0}})));
}

// Roots and crossings
// ----------------------------------------------------------------------------------------

TEST(SplineRoots, OfKnownPolynomials) {
    // (t - 0.2)(t - 0.5)(t - 0.9) in Bernstein form over 0..1.
    const auto poly = [](double t) { return (t - 0.2) * (t - 0.5) * (t - 0.9); };
    const double a0 = poly(0), d0 = 0.2 * 0.5 + 0.2 * 0.9 + 0.5 * 0.9, a3 = poly(1),
                 d1 = 0.5 * 0.1 + 0.8 * 0.1 + 0.8 * 0.5;
    SplineBasis cubic;
    cubic.knots = {0, 0, 0, 0, 1, 1, 1, 1};
    const std::vector<double> roots = roots_of(cubic, {a0, a0 + d0 / 3, a3 - d1 / 3, a3});
    ASSERT_EQ(roots.size(), 3U);
    EXPECT_NEAR(roots[0], 0.2, 1e-12);
    EXPECT_NEAR(roots[1], 0.5, 1e-12);
    EXPECT_NEAR(roots[2], 0.9, 1e-12);
    SplineBasis square;
    square.degree = 2;
    square.knots = {0, 0, 0, 1, 1, 1};
    const std::vector<double> touch = roots_of(square, {0.25, -0.25, 0.25});  // (t - 1/2)²
    ASSERT_FALSE(touch.empty());
    for (const double root : touch)
        EXPECT_NEAR(root, 0.5, 1e-6);
    EXPECT_TRUE(roots_of(square, {1, 0.5, 1}).empty());
    SplineBasis line;
    line.degree = 1;
    line.knots = {0, 0, 1, 2, 2};
    EXPECT_EQ(roots_of(line, {-1, 0, 1}), std::vector<double>{1}) << "at a knot, once";
    EXPECT_EQ(roots_of(line, {0, 0, 1}), (std::vector<double>{0, 1})) << "a stretch: its ends";
}

TEST(Crossings, OfACircleWithPlanesAndCurves) {
    const SplineCurve circle = ellipse({}, 5, 5);
    Placement plane = placement_of({3, 0, 0}, {1, 0, 0}, {0, 1, 0});
    const std::vector<double> at = crossings_with_plane(circle, plane);
    ASSERT_EQ(at.size(), 2U);
    for (const double t : at)
        EXPECT_NEAR(std::abs(evaluate(circle, t).position.y), 4, 1e-12);
    const auto pieces = split_at(circle, at);
    ASSERT_EQ(pieces.size(), 2U);
    const double cap = 2 * 5 * std::acos(3.0 / 5);
    EXPECT_NEAR(std::min(length_of(pieces[0]), length_of(pieces[1])), cap, 1e-9);
    EXPECT_NEAR(length_of(pieces[0]) + length_of(pieces[1]), 10 * pi, 1e-9);

    const SplineCurve line = *line_between({-9, 3, 0}, {9, 3, 0});
    const auto with_line = crossings_with_curve(circle, line, 1e-6, plume::Run());
    ASSERT_TRUE(with_line);
    ASSERT_EQ(with_line->size(), 2U);
    for (const double t : *with_line)
        EXPECT_NEAR(std::abs(evaluate(circle, t).position.x), 4, 1e-10);
    const SplineCurve above = *line_between({-9, 3, 0.5}, {9, 3, 0.5});
    EXPECT_TRUE(crossings_with_curve(circle, above, 0.1, plume::Run())->empty());
    EXPECT_EQ(crossings_with_curve(circle, above, 0.6, plume::Run())->size(), 2U)
        << "within half a metre they meet";
    const auto same = crossings_with_curve(circle, circle, 1e-3, plume::Run());
    ASSERT_FALSE(same);
    EXPECT_EQ(same.error().code, ErrorCode::unlike_arrangement);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(crossings_with_curve(circle, line, 1e-6, cancelled).error().code, ErrorCode::cancelled);
}

TEST(Crossings, SplitAtEndsAndTwiceAtOnePlaceCutsOnce) {
    const SplineCurve open = wave();
    EXPECT_EQ(split_at(open, {open.basis().start(), open.basis().end()}).size(), 1U);
    EXPECT_EQ(split_at(open, {1, 1, 2}).size(), 3U);
    const SplineCurve circle = ellipse({}, 5, 5);
    const auto once = split_at(circle, {circle.basis().end()});
    ASSERT_EQ(once.size(), 1U);
    EXPECT_FALSE(once.front().closed());
    EXPECT_NEAR(length_of(once.front()), 10 * pi, 1e-9);
}

TEST(NearestOnCurve, AgainstManySamples) {
    const SplineCurve curve = wave();
    const NearestOnCurve nearest(curve);
    for (int x = -2; x <= 16; x += 2)
        for (int y = -5; y <= 6; y += 2) {
            const Vec3 point{x + 0.1, y + 0.2, 0.5};
            double least = 1e9;
            for (int at = 0; at <= 30000; ++at)
                least = std::min(least, length(evaluate(curve, std::lerp(curve.basis().start(),
                                                                         curve.basis().end(), at / 30000.0))
                                                   .position -
                                               point));
            EXPECT_NEAR(nearest.nearest(point).distance, least, 1e-6) << x << ", " << y;
        }
    const PlaceOnCurve on_circle = NearestOnCurve(ellipse({}, 5, 5)).nearest({3, 4, 7});
    EXPECT_NEAR(on_circle.distance, 7, 1e-12);
    EXPECT_NEAR(length(on_circle.place - Vec3{3, 4, 0}), 0, 1e-9);
}

// Corners
// ----------------------------------------------------------------------------------------------------

TEST(Corners, AreFoundWhereTheDirectionJumps) {
    const auto square = corners_of(rectangle({}, 10, 6, 0), 0.1);
    ASSERT_EQ(square.size(), 4U);
    for (const CurveCorner& corner : square)
        EXPECT_NEAR(corner.turn_rad, pi / 2, 1e-12);
    EXPECT_TRUE(corners_of(rectangle({}, 10, 6, 1), 0.01).empty()) << "its arcs touch";
    EXPECT_TRUE(corners_of(ellipse({}, 10, 6), 1e-6).empty());
    EXPECT_EQ(corners_of(polyline({{0, 0, 0}, {5, 0, 0}, {10, 1, 0}, {10, 9, 0}}), 0.5).size(), 1U)
        << "the first turns by 0.2 only";
    const auto bow = std::array{ellipse_arc({{}, 6, 6, 0, pi}), *line_between({-6, 0, 0}, {6, 0, 0})};
    EXPECT_EQ(corners_of(closed_up(end_to_end(bow)), 0.1).size(), 2U);
}

TEST(Corners, RoundedTheyAreShorterByTheRule) {
    // Each right angle loses 2 r and gains a quarter of a circle.
    const RoundedCurve round = with_round_corners(rectangle({}, 10, 6, 0), 1.5, 0.1);
    EXPECT_EQ(round.rounded, 4U);
    EXPECT_EQ(round.left, 0U);
    EXPECT_TRUE(round.curve.closed());
    EXPECT_NEAR(length_of(round.curve), 32 - 4 * (3 - 1.5 * pi / 2), 1e-9);
    EXPECT_NEAR(length(area_vector(round.curve)), 60 - (4 - pi) * 2.25, 1e-9);
    EXPECT_TRUE(corners_of(round.curve, 1e-6).empty());
    EXPECT_NEAR(tightest_bend(round.curve)->radius, 1.5, 1e-9);

    const SplineCurve bent = polyline({{0, 0, 0}, {8, 0, 0}, {8, 0, 6}});
    const RoundedCurve open = with_round_corners(bent, 2, 0.1);
    EXPECT_FALSE(open.curve.closed());
    EXPECT_NEAR(length_of(open.curve), 14 - 4 + pi, 1e-9);
    EXPECT_EQ(start_of(open.curve), (Vec3{0, 0, 0}));
    EXPECT_NEAR(length(end_of(open.curve) - Vec3{8, 0, 6}), 0, 1e-12);

    const RoundedCurve too_large = with_round_corners(rectangle({}, 10, 6, 0), 4, 0.1);
    EXPECT_GT(too_large.left, 0U) << "6 m have no room for two arcs of 4 m";
    EXPECT_EQ(too_large.left + too_large.rounded, 4U);
    const RoundedCurve all = with_round_corners(rectangle({}, 6, 6, 0), 3, 0.1);
    EXPECT_EQ(all.rounded, 4U) << "just enough room";
    EXPECT_NEAR(length_of(all.curve), 6 * pi, 1e-8);
}

// A half disc: between its arc of radius R and its chord an arc of radius r touches both; its centre lies r
// above the chord and R - r from the middle.
TEST(Corners, BesideABendTheArcTouchesBoth) {
    const auto bow = std::array{ellipse_arc({{}, 6, 6, 0, pi}), *line_between({-6, 0, 0}, {6, 0, 0})};
    const RoundedCurve round = with_round_corners(closed_up(end_to_end(bow)), 1, 0.1);
    EXPECT_EQ(round.rounded, 2U);
    EXPECT_TRUE(corners_of(round.curve, 1e-6).empty()) << "tangent at both ends";
    const double x = std::sqrt(5.0 * 5 - 1), angle = std::atan2(1, x);
    EXPECT_NEAR(length_of(round.curve), 6 * (pi - 2 * angle) + 2 * x + 2 * (pi / 2 + angle), 1e-8);
}

// Rebuilt
// ----------------------------------------------------------------------------------------------------

TEST(Rebuilt, EvenPointsAndTheirDeviation) {
    const SplineCurve circle = ellipse({}, 5, 5);
    const auto hexagon =
        rebuilt_evenly(circle, CurveLength(circle), 6, CurveShape::straight, 0.5, plume::Run());
    ASSERT_TRUE(hexagon);
    EXPECT_TRUE(hexagon->curve.closed());
    EXPECT_NEAR(length_of(hexagon->curve), 30, 1e-9);
    EXPECT_NEAR(hexagon->deviation, 5 - 5 * std::cos(pi / 6), 1e-9) << "the height of its arcs";
    const auto smooth =
        rebuilt_evenly(circle, CurveLength(circle), 24, CurveShape::smooth, 0.5, plume::Run());
    EXPECT_LT(smooth->deviation, 1e-4);
    EXPECT_GT(smooth->deviation, 1e-7) << "it is no circle";
    EXPECT_EQ(smooth->curve.basis().nodes.size(), 24U);
}

TEST(Rebuilt, SimplerWithinTheTolerance) {
    std::vector<Vec3> corners;
    for (int at = 0; at <= 1000; ++at)
        corners.push_back({at * 0.01, at < 500 ? 0.0 : (at - 500) * 0.01, 0.0005 * (at % 2)});
    const auto line = simplified(polyline(corners), 0.01, plume::Run());
    ASSERT_TRUE(line);
    EXPECT_LE(line->curve.x().size(), 5U) << "one bend, and what noise there is";
    EXPECT_LE(line->deviation, 0.01);
    // A finely interpolated wave needs few points.
    const auto fine = rebuilt_evenly(wave(), CurveLength(wave()), 400, CurveShape::smooth, 0.5, plume::Run());
    const auto simple = simplified(fine->curve, 0.01, plume::Run());
    ASSERT_TRUE(simple);
    EXPECT_LE(simple->deviation, 0.01);
    EXPECT_LT(simple->curve.x().size(), 60U);
    // Corners stay.
    const SplineCurve round = raised(rectangle({}, 10, 6, 0), 3);
    const auto kept = simplified(round, 0.01, plume::Run());
    EXPECT_EQ(corners_of(kept->curve, 0.5).size(), 4U);
    EXPECT_NEAR(length_of(kept->curve), 32, 1e-6);
}

TEST(Rebuilt, SofteningHoldsTheEnds) {
    const SplineCurve curve = wave();
    const SplineCurve soft = *softened(curve, 1, 1, plume::Run());
    EXPECT_EQ(start_of(soft), start_of(curve));
    EXPECT_EQ(soft.pole(1), (curve.pole(0) + curve.pole(2)) * 0.5);
    const SplineCurve flat = *softened(curve, 0.5, 5000, plume::Run());
    EXPECT_NEAR(length_of(flat), length(end_of(curve) - start_of(curve)), 1e-9) << "in the end it is a line";
    EXPECT_EQ((*softened(curve, 0, 10, plume::Run())).pole(2), curve.pole(2));
    const SplineCurve ring = *softened(ellipse({}, 5, 5), 0.5, 3, plume::Run());
    EXPECT_TRUE(ring.closed());
    EXPECT_LT(length_of(ring), 10 * pi);
}

// End to end
// -------------------------------------------------------------------------------------------------

TEST(Chains, PiecesInAnyOrderComeRound) {
    CurveSet pieces;
    pieces.curves = {*line_between({0, 0, 0}, {4, 0, 0}), *line_between({4, 3, 0}, {0, 3, 0}),
                     *line_between({4, 3, 0}, {4, 0, 0}), *line_between({0, 0, 0}, {0, 3, 0})};
    const auto square = chained_end_to_end(pieces, 1e-6, plume::Run());
    ASSERT_TRUE(square);
    ASSERT_EQ(square->set.curves.size(), 1U);
    EXPECT_TRUE(square->set.curves.front().closed());
    EXPECT_EQ(square->joints, 4U);
    EXPECT_NEAR(length(area_vector(square->set.curves.front())), 12, 1e-12);
    pieces.curves[3] = *line_between({0, 0, 0}, {0, 2.5, 0});
    const auto open = chained_end_to_end(pieces, 1e-6, plume::Run());
    ASSERT_EQ(open->set.curves.size(), 1U);
    EXPECT_FALSE(open->set.curves.front().closed());
    EXPECT_EQ(open->joints, 3U);
    const auto wide = chained_end_to_end(pieces, 0.6, plume::Run());
    EXPECT_TRUE(wide->set.curves.front().closed());
    EXPECT_NEAR(wide->largest_gap, 0.5, 1e-12);
    pieces.curves.push_back(*line_between({10, 0, 0}, {12, 0, 0}));
    EXPECT_EQ(chained_end_to_end(pieces, 1e-6, plume::Run())->set.curves.size(), 2U);
    EXPECT_TRUE(chained_end_to_end({}, 1, plume::Run())->set.curves.empty());
}

TEST(Chains, LongerAtTheEnd) {
    const SplineCurve bow = ellipse_arc({{}, 6, 6, 0, 1});
    const SplineCurve straight = *extended(bow, 2, Extension::straight);
    EXPECT_NEAR(length_of(straight), 8, 1e-9);
    EXPECT_NEAR(length(end_of(straight) - (end_of(bow) + Vec3{-std::sin(1.0), std::cos(1.0), 0} * 2)), 0,
                1e-12);
    const SplineCurve round = *extended(bow, 3, Extension::arc);
    EXPECT_NEAR(length(end_of(round) - Vec3{6 * std::cos(1.5), 6 * std::sin(1.5), 0}), 0, 1e-11);
    // A circle that goes on as it runs stays one, as long as its weights allow.
    const SplineCurve onwards = *extended(bow, 0.5, Extension::onwards);
    EXPECT_NEAR(length(end_of(onwards)), 6, 1e-10);
    EXPECT_NEAR(length_of(onwards), 6.5, 1e-9);
    EXPECT_FALSE(extended(bow, 500, Extension::onwards));
    EXPECT_FALSE(extended(bow, 50, Extension::arc));
    EXPECT_FALSE(extended(ellipse({}, 3, 3), 1, Extension::straight));
    const SplineCurve line = *line_between({0, 0, 0}, {4, 0, 0});
    for (const Extension shape : {Extension::straight, Extension::arc, Extension::onwards})
        EXPECT_NEAR(length(end_of(*extended(line, 1e3, shape)) - Vec3{1004, 0, 0}), 0, 1e-9);
    const SplineCurve further = *extended(wave(), 0.7, Extension::onwards);
    EXPECT_NEAR(length_of(further), length_of(wave()) + 0.7, 1e-8);
    EXPECT_NEAR(length(evaluate(further, 2.5).position - evaluate(wave(), 2.5).position), 0, 1e-12);
}

TEST(Chains, BlendedPoleByPoleOrByLength) {
    const SplineCurve low = *line_between({0, 0, 0}, {4, 0, 0}), high = *line_between({0, 0, 3}, {4, 8, 3});
    const auto lines = blended(low, high, 2, plume::Run());
    ASSERT_TRUE(lines);
    ASSERT_EQ(lines->curves.size(), 4U);
    EXPECT_NEAR(length(end_of(lines->curves[1]) - Vec3{4, 8.0 / 3, 1}), 0, 1e-12);
    // Circles of 2 and 4: those between are circles.
    const auto rings = blended(ellipse({}, 2, 2), ellipse({}, 4, 4), 1, plume::Run());
    EXPECT_NEAR(length_of(rings->curves[1]), 6 * pi, 1e-9);
    // Unlike ones by length: half way between a line and a line of two pieces.
    const auto unlike = blended(low, polyline({{0, 0, 2}, {1, 0, 2}, {4, 0, 2}}), 1, plume::Run());
    ASSERT_TRUE(unlike);
    EXPECT_NEAR(length(evaluate(unlike->curves[1],
                                (unlike->curves[1].basis().start() + unlike->curves[1].basis().end()) / 2)
                           .position -
                       Vec3{2, 0, 1}),
                0, 1e-9);
    EXPECT_FALSE(blended(low, ellipse({}, 3, 3), 1, plume::Run()));
}

// Told by a curve
// --------------------------------------------------------------------------------------------

TEST(BaseLine, ToldAndPlacedAreInverse) {
    const std::array<SplineCurve, 4> bases{*line_between({0, 0, 0}, {9, 3, 2}), wave(), ellipse({}, 8, 5),
                                           *line_between({0, 0, 0}, {0, 0, 4})};
    for (const SplineCurve& curve : bases)
        for (const LiftAxis lift : {LiftAxis::up, LiftAxis::square, LiftAxis::x, LiftAxis::y}) {
            const BaseLine base(curve, lift);
            for (const double share : {0.13, 0.5, 0.77}) {
                const Vec3 told{share, 0.2, 0.1}, place = base.place(told);
                const Placement frame = base.frame(share);
                EXPECT_NEAR(length(place - frame.origin), std::hypot(0.2, 0.1), 1e-12);
                // Along an upright curve straight up is no way off it, and so with X and Y.
                const CurvePoint at = evaluate(curve, curve.basis().start());
                const bool leads_off = length(cross(frame.up, unit_or_zero(at.along))) > 0.5;
                if (!leads_off) continue;
                EXPECT_NEAR(length(base.told(place) - told), 0, 1e-8)
                    << static_cast<int>(lift) << " at " << share;
            }
        }
    const BaseLine level(*line_between({0, 0, 0}, {10, 0, 0}), LiftAxis::up);
    EXPECT_NEAR(length(level.place({0.3, 2, 5}) - Vec3{3, 2, 5}), 0, 1e-14);
    EXPECT_NEAR(length(level.told({3, 2, 5}) - Vec3{0.3, 2, 5}), 0, 1e-14);
    const BaseLine slope(*line_between({0, 0, 0}, {3, 0, 4}), LiftAxis::square);
    EXPECT_NEAR(length(slope.place({0, 0, 5}) - Vec3{-4, 0, 3}), 0, 1e-12);
}

// As steps
// ---------------------------------------------------------------------------------------------------

double number_of_step(StudyMaker& maker, const char* name) {
    return std::get<Quantity>(test::value_of(test::run(maker.study), name)).value;
}

double number_of_length(const StudyMaker& maker, const char* name) {
    const Value curves = test::value_of(test::run(maker.study), name);
    return length_of(std::get<CurveSet>(curves).curves.front());
}

TEST(CurveSteps, ACircleMeasuredCutAndRounded) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "3 m");
    maker.add("number.curve", "area");
    maker.word("area", "figure", "area");
    EXPECT_NEAR(number_of_step(maker, "area"), 9 * pi, 1e-9);
    maker.word("area", "figure", "radius");
    EXPECT_NEAR(number_of_step(maker, "area"), 3, 1e-9);
    maker.add("curve.part", "half");
    maker.set("half", "curve", ResultName{"ring"});
    maker.number("half", "from_share", "0.75").number("half", "to_share", "0.25");
    maker.add("number.curve", "around");
    maker.set("around", "curve", ResultName{"half"});
    EXPECT_NEAR(number_of_step(maker, "around"), 3 * pi, 1e-9) << "across the seam";
    maker.word("half", "rule", "lengths")
        .number("half", "from_length", "1 m")
        .number("half", "to_length", "2.5 m");
    EXPECT_NEAR(number_of_step(maker, "around"), 1.5, 1e-9);
    maker.number("half", "to_length", "25 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "half").slot, "to_length");
}

TEST(CurveSteps, PartsOnOneSideOfAPlane) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "5 m");
    maker.add("placement.frame", "cut");
    maker.word("cut", "up", "x");
    maker.set("cut", "place", Places{{"cut", "3 m", "0 m", "0 m", "1"}});
    maker.add("curve.part", "cap");
    maker.set("cap", "curve", ResultName{"ring"}).set("cap", "plane", ResultName{"cut"});
    maker.word("cap", "rule", "plane").word("cap", "side", "above");
    maker.add("number.curve", "bow");
    maker.set("bow", "curve", ResultName{"cap"});
    EXPECT_NEAR(number_of_step(maker, "bow"), 10 * std::acos(0.6), 1e-9);
    maker.word("cap", "side", "below");
    EXPECT_NEAR(number_of_step(maker, "bow"), 10 * pi - 10 * std::acos(0.6), 1e-9);
}

TEST(CurveSteps, CornersBecomeARowEach) {
    StudyMaker maker;
    maker.add("outline.shape", "block");
    maker.number("block", "width", "10 m").number("block", "depth", "6 m");
    maker.add("points.corners", "corners");
    const Value corners = test::value_of(test::run(maker.study), "corners");
    const PointLattice& row = std::get<PointLattice>(corners);
    EXPECT_EQ(row.point_count(), 4U);
    EXPECT_TRUE(row.closed(0));
    EXPECT_NEAR(row.fields().front().values[2], pi / 2, 1e-12);
    maker.word("block", "corners", "round").number("block", "corner", "1 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "corners").code, ErrorCode::too_few_points);
    maker.number("block", "corner", "4 m");
    EXPECT_EQ(test::error_of(test::run(maker.study), "block").slot, "corner");
}

TEST(CurveSteps, ACurveHeldByTheRowsOfALattice) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "points");
    maker.add("curve.join", "held");
    maker.word("held", "shape", "held").word("held", "route", "rows").number("held", "degree", "5");
    const Value held = test::value_of(test::run(maker.study), "held");
    EXPECT_EQ(std::get<CurveSet>(held).curves.size(), 17U);
    EXPECT_EQ(std::get<CurveSet>(held).curves.front().basis().degree, 5);
    maker.number("points", "columns", "3");
    const Error error = test::error_of(test::run(maker.study), "held");
    EXPECT_EQ(error.code, ErrorCode::too_few_points) << "four points do not hold degree 5";
    EXPECT_NE(error.message.find("needs 6 poles"), std::string::npos) << error.message;
}

TEST(CurveSteps, ArcsOnUprightPlanes) {
    StudyMaker maker;
    maker.add("curve.arc", "arc");
    maker.word("arc", "shape", "centre").word("arc", "plane", "xz").number("arc", "radius", "2 m");
    maker.number("arc", "from", "0°").number("arc", "sweep", "90°");
    const auto end = [&] {
        const Value arc = test::value_of(test::run(maker.study), "arc");
        return end_of(std::get<CurveSet>(arc).curves.front());
    };
    EXPECT_NEAR(length(end() - Vec3{0, 0, 2}), 0, 1e-14);
    EXPECT_NEAR(number_of_length(maker, "arc"), pi, 1e-10);
    maker.number("arc", "sweep", "30°");
    EXPECT_NEAR(end().x, 2 * std::cos(pi / 6), 1e-14);
    maker.word("arc", "facing", "back");
    EXPECT_NEAR(end().x, -2 * std::cos(pi / 6), 1e-14) << "turned about its upright middle";
    maker.word("arc", "shape", "line");
    maker.set("arc", "ends", Places{{"only", "0 m", "0 m", "0 m", "1"}});
    EXPECT_EQ(test::error_of(test::run(maker.study), "arc").slot, "ends");
}

TEST(CurveSteps, CentroidsOfTheAreaAndOfTheLine) {
    StudyMaker maker;
    maker.add("outline.drawn", "block");
    maker.set("block", "corners",
              Places{{"a", "0 m", "0 m", "0 m", "1"},
                     {"b", "4 m", "0 m", "0 m", "1"},
                     {"c", "0 m", "3 m", "0 m", "1"}});
    maker.add("points.centroids", "middle");
    const auto middle = [&] {
        const Value points = test::value_of(test::run(maker.study), "middle");
        return std::get<PointLattice>(points).point(0);
    };
    EXPECT_NEAR(length(middle() - Vec3{4.0 / 3, 1, 0}), 0, 1e-12);
    maker.word("middle", "of", "line");
    // Sides of 4, 3 and 5, each at its own middle.
    EXPECT_NEAR(length(middle() - Vec3{(4 * 2 + 5 * 2) / 12.0, (3 * 1.5 + 5 * 1.5) / 12.0, 0}), 0, 1e-12);
    maker.word("block", "ends", "open").word("middle", "of", "area");
    EXPECT_EQ(test::error_of(test::run(maker.study), "middle").code, ErrorCode::has_gaps);
}

TEST(CurveSteps, ACombIsAsLongAsTheBendSays) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").number("ring", "radius", "4 m");
    maker.add("curve.comb", "comb");
    maker.number("comb", "scale", "2 m").number("comb", "teeth", "12");
    const CurveSet comb = std::get<CurveSet>(test::value_of(test::run(maker.study), "comb"));
    ASSERT_EQ(comb.curves.size(), 13U);
    EXPECT_NEAR(length_of(comb.curves.front()), 1, 1e-9) << "2² / 4";
    EXPECT_NEAR(length(end_of(comb.curves.front())), 5, 1e-9) << "away from the centre";
}

}  // namespace
}  // namespace plume
