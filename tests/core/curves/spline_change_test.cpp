// Bases changed without the curve: against the recursion of Cox and de Boor, written out plainly.

#include <numbers>
#include <random>

#include "core/base/noise.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

double basis_function(const std::vector<double>& knots, std::size_t index, int degree, double t, double end) {
    if (degree == 0) {
        const bool last = t == end && knots[index + 1] == end && knots[index] < end;
        return (knots[index] <= t && t < knots[index + 1]) || last ? 1 : 0;
    }
    const auto p = static_cast<std::size_t>(degree);
    const double left = knots[index + p] - knots[index], right = knots[index + p + 1] - knots[index + 1];
    double sum = 0;
    if (left > 0) sum += (t - knots[index]) / left * basis_function(knots, index, degree - 1, t, end);
    if (right > 0)
        sum += (knots[index + p + 1] - t) / right * basis_function(knots, index + 1, degree - 1, t, end);
    return sum;
}

Vec3 plainly(const SplineCurve& curve, double t) {
    const SplineBasis& basis = curve.basis();
    Vec3 sum;
    double weights = 0;
    for (std::size_t pole = 0; pole < basis.pole_count(); ++pole) {
        const double share =
            curve.weight(pole) * basis_function(basis.knots, pole, basis.degree, t, basis.end());
        sum = sum + curve.pole(pole) * share;
        weights += share;
    }
    return sum * (1 / weights);
}

double plain_field(const SplineCurve& curve, double t) {
    const SplineBasis& basis = curve.basis();
    double sum = 0, weights = 0;
    for (std::size_t pole = 0; pole < basis.pole_count(); ++pole) {
        const double share =
            curve.weight(pole) * basis_function(basis.knots, pole, basis.degree, t, basis.end());
        sum += curve.fields().front().values[pole] * share;
        weights += share;
    }
    return sum / weights;
}

// A curve of random poles, open or closed, with weights or without, over uneven knots, one of them twice.
SplineCurve random_curve(int degree, bool closed, bool rational, unsigned seed) {
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> number(-5, 5), weight(0.3, 3), step(0.2, 1.5);
    HeldCurve held;
    held.degree = degree;
    held.closed = closed;
    Doubles along;
    for (int pole = 0; pole < 9; ++pole) {
        held.poles.push_back({number(random), number(random), number(random)});
        if (rational) held.weights.push_back(weight(random));
        along.push_back(number(random));
    }
    held.fields.push_back({"load", std::move(along), {}});
    const SplineCurve even = *curve_held_by(held);
    SplineCurve::Parts parts{even.basis(), even.x(), even.y(), even.z(), even.weights(), even.fields()};
    if (!closed) {
        std::vector<double>& knots = parts.basis.knots;
        for (std::size_t knot = static_cast<std::size_t>(degree) + 1; knot < knots.size(); ++knot)
            knots[knot] = knot < parts.basis.pole_count() ? knots[knot - 1] + step(random) : 0;
        if (degree > 1)
            knots[static_cast<std::size_t>(degree) + 2] = knots[static_cast<std::size_t>(degree) + 1];
        const double end = knots[parts.basis.pole_count() - 1] + 1;
        std::fill(knots.begin() + static_cast<std::ptrdiff_t>(parts.basis.pole_count()), knots.end(), end);
    }
    return *SplineCurve::make(std::move(parts));
}

std::vector<SplineCurve> all_sorts() {
    std::vector<SplineCurve> curves;
    unsigned seed = 1;
    for (int degree = 1; degree <= 5; ++degree)
        for (const bool closed : {false, true})
            for (const bool rational : {false, true})
                curves.push_back(random_curve(degree, closed, rational, seed++));
    return curves;
}

std::string told(const SplineCurve& curve) {
    return "degree " + std::to_string(curve.basis().degree) + (curve.closed() ? " closed" : " open") +
           (curve.rational() ? " rational" : "");
}

// `place(t)` is where the changed curve's parameter lies in the old one.
template <class Place>
void expect_same(const SplineCurve& made, const SplineCurve& old, Place place, const std::string& what) {
    for (int at = 0; at <= 60; ++at) {
        const double t = std::lerp(made.basis().start(), made.basis().end(), at / 60.0);
        double there = place(t);
        const double period = old.basis().end() - old.basis().start();
        if (there > old.basis().end() && old.closed()) there -= period;
        there = std::clamp(there, old.basis().start(), old.basis().end());
        EXPECT_NEAR(length(evaluate(made, t).position - plainly(old, there)), 0, 2e-11)
            << what << ", " << told(old) << " at " << t;
        if (made.fields().empty()) continue;
        EXPECT_NEAR(field_at(made, "load", t), plain_field(old, there), 2e-11) << what << ", " << told(old);
    }
}
const auto same_place = [](double t) { return t; };

TEST(SplineChange, EvaluatesAsTheRecursionDoes) {
    for (const SplineCurve& curve : all_sorts())
        expect_same(curve, curve, same_place, "unchanged");
}

TEST(SplineChange, MoreKnotsLeaveTheCurve) {
    for (const SplineCurve& curve : all_sorts()) {
        const double start = curve.basis().start(), end = curve.basis().end();
        const std::vector<double> more{std::lerp(start, end, 0.13), std::lerp(start, end, 0.13),
                                       std::lerp(start, end, 0.5), std::lerp(start, end, 0.97)};
        const SplineCurve finer = changed(curve, refined(curve.basis(), more));
        EXPECT_GE(finer.basis().pole_count(),
                  curve.basis().pole_count() + (curve.basis().degree > 1 ? 4 : 3));
        EXPECT_EQ(finer.closed(), curve.closed());
        expect_same(finer, curve, same_place, "refined");
        // No knot stands more often than the degree, however often it is asked for.
        const SplineCurve corner =
            changed(curve, refined(curve.basis(), std::vector<double>(20, std::lerp(start, end, 0.13))));
        EXPECT_EQ(multiplicity_at(corner.basis(), std::lerp(start, end, 0.13)), curve.basis().degree);
        expect_same(corner, curve, same_place, "cornered");
    }
}

TEST(SplineChange, KnotsAtASeamAreItsCorner) {
    for (const SplineCurve& curve : all_sorts()) {
        if (!curve.closed()) continue;
        const SplineCurve corner =
            changed(curve, refined(curve.basis(), std::vector<double>(9, curve.basis().start())));
        expect_same(corner, curve, same_place, "corner at the seam");
        EXPECT_NEAR(length(corner.pole(static_cast<std::size_t>(0)) - plainly(curve, curve.basis().start())),
                    0, 1e-11)
            << "its first pole lies on it";
    }
}

TEST(SplineChange, RaisingTheDegreeLeavesTheCurve) {
    for (const SplineCurve& curve : all_sorts())
        for (int degree = curve.basis().degree; degree <= 7; ++degree) {
            const SplineCurve higher = raised(curve, degree);
            EXPECT_EQ(higher.basis().degree, degree);
            expect_same(higher, curve, same_place, "raised to " + std::to_string(degree));
        }
}

TEST(SplineChange, PartsLieOnTheirCurveAcrossTheSeamToo) {
    for (const SplineCurve& curve : all_sorts()) {
        const double start = curve.basis().start(), end = curve.basis().end(), size = end - start;
        const auto part = [&](double from, double to) {
            const SplineCurve cut = part_of(curve, start + from * size, start + to * size);
            EXPECT_FALSE(cut.closed());
            expect_same(cut, curve, same_place, "part");
            EXPECT_NEAR(length(cut.pole(0) - evaluate(cut, cut.basis().start()).position), 0, 1e-12);
        };
        part(0.2, 0.7);
        part(0, 1);
        part(0, 0.001);
        part(1.0 / 9, 2.0 / 9);
        if (!curve.closed()) continue;
        part(0.8, 1.3);
        part(0.5, 1.5);
        part(1.0 / 9, 10.0 / 9);
    }
}

TEST(SplineChange, ReversedAndWithAnotherSeam) {
    for (const SplineCurve& curve : all_sorts()) {
        const double mirror = curve.basis().start() + curve.basis().end();
        expect_same(
            reversed(curve), curve, [&](double t) { return mirror - t; }, "reversed");
        if (!curve.closed()) continue;
        const SplineCurve turned =
            with_seam_at(curve, std::lerp(curve.basis().start(), curve.basis().end(), 0.4));
        EXPECT_TRUE(turned.closed());
        // Weights may ask for another speed behind the seam: the places are what counts.
        for (int at = 0; at <= 40; ++at) {
            const Vec3 place =
                plainly(curve, std::lerp(curve.basis().start(), curve.basis().end(), at / 40.0));
            double nearest = 1e9;
            for (int fine = 0; fine <= 4000; ++fine)
                nearest =
                    std::min(nearest, length(evaluate(turned, std::lerp(turned.basis().start(),
                                                                        turned.basis().end(), fine / 4000.0))
                                                 .position -
                                             place));
            EXPECT_LT(nearest, 0.05) << told(curve);
        }
        EXPECT_NEAR(length_of(turned), length_of(curve), 1e-8 * length_of(curve)) << told(curve);
    }
}

TEST(SplineChange, SeamsAnywhereOnACircle) {
    const SplineCurve circle = ellipse({}, 9, 9);
    const CurveLength measure(circle);
    for (int at = 0; at <= 96; ++at) {
        const double parameter = measure.parameter_at(measure.total() * at / 96);
        const SplineCurve moved = with_seam_at(circle, parameter);
        EXPECT_TRUE(moved.closed());
        EXPECT_NEAR(
            length(evaluate(moved, moved.basis().start()).position - evaluate(circle, parameter).position), 0,
            1e-8);
        EXPECT_NEAR(length_of(reversed(moved)), 18 * std::numbers::pi, 1e-8);
    }
}

TEST(SplineChange, SlopesAndBendsAreThoseOfDifferences) {
    for (const SplineCurve& curve : all_sorts()) {
        if (curve.basis().degree < 2) continue;
        for (int at = 1; at < 20; ++at) {
            const double t = std::lerp(curve.basis().start(), curve.basis().end(), (at + 0.37) / 21),
                         h = 1e-4;
            const Vec3 here = plainly(curve, t), before = plainly(curve, t - h),
                       behind = plainly(curve, t + h);
            const CurveBend bend = evaluate_bend(curve, t);
            const double size = 1 + length(bend.along) + length(bend.bend);
            EXPECT_NEAR(length(bend.along - (behind - before) * (0.5 / h)), 0, 1e-4 * size) << told(curve);
            EXPECT_NEAR(length(evaluate(curve, t).along - bend.along), 0, 1e-11 * size);
            // Across a knot of a curve of degree 2 the second derivative jumps.
            if (curve.basis().degree == 2 || curve.rational()) continue;
            EXPECT_NEAR(length(bend.bend - (behind + before - here * 2) * (1 / (h * h))), 0, 2e-3 * size)
                << told(curve);
        }
    }
}

// End to end
// -------------------------------------------------------------------------------------------------

TEST(EndToEnd, UnlikeCurvesKeepTheirShape) {
    const SplineCurve line = *line_between({0, 0, 0}, {4, 0, 0});
    const SplineCurve arc = *arc_from({4, 0, 0}, {1, 0, 0}, {4, 6, 0});
    HeldCurve held;
    held.poles = {{4, 6, 0}, {2, 7, 1}, {1, 5, 3}, {0, 0, 2}};
    held.weights = {2, 1, 3, 0.5};
    const SplineCurve free = *curve_held_by(held);
    const std::array<SplineCurve, 3> curves{line, arc, free};
    const SplineCurve all = end_to_end(curves);
    EXPECT_EQ(all.basis().degree, 3);
    EXPECT_NEAR(length_of(all), 4 + 3 * std::numbers::pi + length_of(free), 1e-8);
    double at = 0;
    for (const SplineCurve& curve : curves) {
        const double size = curve.basis().end() - curve.basis().start();
        for (int step = 0; step <= 20; ++step)
            EXPECT_NEAR(length(evaluate(all, at + size * step / 20).position -
                               plainly(curve, curve.basis().start() + size * step / 20)),
                        0, 1e-11);
        at += size;
    }
    EXPECT_EQ(all.basis().nodes.size(), 2U + 2 + 1)
        << "both ends and every joint, the middle of a half circle too";
}

TEST(EndToEnd, ClosedUpKeepsUnequalEndWeights) {
    HeldCurve held;
    held.poles = {{0, 0, 0}, {6, 1, 0}, {7, 5, 0}, {1, 6, 1}, {-2, 3, 0}, {0, 0, 0}};
    held.weights = {1, 2, 1, 0.5, 3, 4};
    const SplineCurve open = *curve_held_by(held), closed = closed_up(open);
    EXPECT_TRUE(closed.closed());
    EXPECT_NEAR(length_of(closed), length_of(open), 1e-9);
    const Box box = bounds_of(closed), other = bounds_of(open);
    EXPECT_NEAR(length(box.high - other.high) + length(box.low - other.low), 0, 1e-9);
    expect_same(reversed(reversed(closed)), closed, same_place, "twice reversed");
}

// Exact curves
// -----------------------------------------------------------------------------------------------

TEST(ExactCurves, CirclesAreRoundToTheLastDigits) {
    Placement plane = placement_of({3, -2, 5}, {1, 2, 2}, {2, -1, 0});
    for (const double sweep :
         {0.1, 1.0, std::numbers::pi, 5.5, -2.0, 2 * std::numbers::pi, -2 * std::numbers::pi}) {
        const SplineCurve arc = ellipse_arc({plane, 7, 7, 0.4, sweep});
        EXPECT_EQ(arc.closed(), std::abs(sweep) > 6);
        for (int at = 0; at <= 100; ++at) {
            const double t = std::lerp(arc.basis().start(), arc.basis().end(), at / 100.0);
            const CurveBend bend = evaluate_bend(arc, t);
            const Vec3 local = plane.to_local(bend.position);
            EXPECT_NEAR(std::hypot(local.x, local.y), 7, 2e-14 * 50);
            EXPECT_NEAR(local.z, 0, 1e-13);
            EXPECT_NEAR(curvature_of(bend), 1.0 / 7, 1e-12);
        }
        EXPECT_NEAR(length_of(arc), 7 * std::abs(sweep), 1e-9);
        const Vec3 start = plane.to_local(evaluate(arc, arc.basis().start()).position);
        EXPECT_NEAR(std::atan2(start.y, start.x), 0.4, 1e-13);
    }
}

TEST(ExactCurves, AnEllipseAndItsBounds) {
    const SplineCurve curve = ellipse({}, 5, 2);
    for (int at = 0; at < 64; ++at) {
        const Vec3 p =
            evaluate(curve, std::lerp(curve.basis().start(), curve.basis().end(), at / 64.0)).position;
        EXPECT_NEAR(p.x * p.x / 25 + p.y * p.y / 4, 1, 1e-14);
    }
    const Box box = bounds_of(curve);
    EXPECT_NEAR(box.high.x, 5, 1e-12);
    EXPECT_NEAR(box.low.y, -2, 1e-12);
    // Half axes 5 and 2: 4 a E(e), by the arithmetic-geometric mean.
    double a = 1, b = 2.0 / 5, sum = 0.5 * (1 - 4.0 / 25), power = 1;
    for (int round = 0; round < 8; ++round) {
        const double next = (a + b) / 2, difference = (a - b) / 2;
        sum += power * difference * difference;
        power *= 2;
        b = std::sqrt(a * b);
        a = next;
    }
    EXPECT_NEAR(length_of(curve), 4 * 5 * std::numbers::pi / (2 * a) * (1 - sum), 1e-9);
}

TEST(ExactCurves, ArcsThroughPlaces) {
    const SplineCurve arc = *arc_through({1, 0, 2}, {0, 1, 2}, {-1, 0, 2});
    EXPECT_NEAR(length_of(arc), std::numbers::pi, 1e-10);
    const SplineCurve long_way = *arc_through({1, 0, 0}, {0, -1, 0}, {0, 1, 0});
    EXPECT_NEAR(length_of(long_way), 1.5 * std::numbers::pi, 1e-10);
    EXPECT_NEAR(length(evaluate(long_way, long_way.basis().end()).position - Vec3{0, 1, 0}), 0, 1e-14);
    const auto line = arc_through({0, 0, 0}, {1, 1, 1}, {2, 2, 2});
    ASSERT_FALSE(line);
    EXPECT_EQ(line.error().code, ErrorCode::unlike_arrangement);
    EXPECT_FALSE(arc_through({0, 0, 0}, {0, 0, 0}, {2, 2, 2}));
    EXPECT_FALSE(arc_through({0, 0, 0}, {1, 2, 0}, {0, 0, 0}));
    const SplineCurve from = *arc_from({0, 0, 0}, {0, 0, 3}, {2, 0, 0});
    EXPECT_NEAR(length_of(from), std::numbers::pi, 1e-10);
    EXPECT_NEAR(evaluate(from, 0).along.x, 0, 1e-12);
    EXPECT_GT(evaluate(from, 0).along.z, 0);
    EXPECT_EQ(arc_from({0, 0, 0}, {1, 0, 0}, {2, 0, 0})->basis().degree, 1);
    EXPECT_FALSE(arc_from({0, 0, 0}, {1, 0, 0}, {-2, 0, 0}));
    for (const double size : {1e-9, 1e9})
        EXPECT_NEAR(length_of(*arc_through({size, 0, 0}, {0, size, 0}, {-size, 0, 0})) / size,
                    std::numbers::pi, 1e-10);
}

TEST(ExactCurves, RectanglesWithRoundedCorners) {
    const SplineCurve round = rectangle({}, 10, 6, 1.5);
    EXPECT_TRUE(round.closed());
    EXPECT_NEAR(length_of(round), 2 * 7 + 2 * 3 + 2 * std::numbers::pi * 1.5, 1e-9);
    const Box box = bounds_of(round);
    EXPECT_NEAR(box.high.x, 5, 1e-12);
    EXPECT_NEAR(box.high.y, 3, 1e-12);
    const SplineCurve stadium = rectangle({}, 10, 6, 3);
    EXPECT_NEAR(length_of(stadium), 2 * 4 + 6 * std::numbers::pi, 1e-9);
    const SplineCurve sharp = rectangle({}, 10, 6, 0);
    EXPECT_EQ(sharp.basis().degree, 1);
    EXPECT_NEAR(length_of(sharp), 32, 1e-12);
}

// Held by poles
// ----------------------------------------------------------------------------------------------

TEST(HeldCurve, TouchesItsEndsAndLiesWithinItsPoles) {
    HeldCurve held;
    held.poles = {{0, 0, 0}, {1, 4, 0}, {5, 4, 1}, {9, 0, 2}, {12, 3, 0}};
    for (int degree = 1; degree <= 4; ++degree) {
        held.degree = degree;
        const SplineCurve curve = *curve_held_by(held);
        EXPECT_EQ(evaluate(curve, curve.basis().start()).position, held.poles.front());
        EXPECT_NEAR(length(evaluate(curve, curve.basis().end()).position - held.poles.back()), 0, 1e-15);
        const Vec3 along = evaluate(curve, curve.basis().start()).along;
        EXPECT_NEAR(length(cross(along, held.poles[1])), 0, 1e-12) << "it leaves towards its second pole";
    }
    // Four poles of degree 3 are one Bézier curve: its middle is (a + 3 b + 3 c + d) / 8.
    held.poles.pop_back();
    held.degree = 3;
    const SplineCurve bezier = *curve_held_by(held);
    EXPECT_NEAR(length(evaluate(bezier, 0.5).position - Vec3{(3 + 15 + 9) / 8.0, 24 / 8.0, (3 + 2) / 8.0}), 0,
                1e-14);
}

TEST(HeldCurve, WeightsPullAndMakeCircles) {
    HeldCurve held;
    held.degree = 2;
    held.poles = {{1, 0, 0}, {1, 1, 0}, {0, 1, 0}};
    held.weights = {1, std::sqrt(0.5), 1};
    const SplineCurve quarter = *curve_held_by(held);
    for (int at = 0; at <= 10; ++at)
        EXPECT_NEAR(length(evaluate(quarter, at / 10.0).position), 1, 1e-15);
    held.weights = {1, 100, 1};
    EXPECT_GT(length(evaluate(*curve_held_by(held), 0.5).position), 1.39) << "nearly at the pole, at √2";
    held.weights = {3, 3, 3};
    EXPECT_FALSE(curve_held_by(held)->rational()) << "alike they change nothing";
}

TEST(HeldCurve, ClosedOnesAreSmoothAtTheSeam) {
    HeldCurve held;
    held.closed = true;
    held.poles = {{0, 0, 0}, {10, 0, 0}, {10, 10, 0}, {0, 10, 0}};
    const SplineCurve curve = *curve_held_by(held);
    const Vec3 start = evaluate(curve, curve.basis().start()).along,
               end = evaluate(curve, curve.basis().end()).along;
    EXPECT_NEAR(length(start - end), 0, 1e-12);
    // Half way along a bay a cubic stands at (a + 23 b + 23 c + d) / 48.
    EXPECT_NEAR(bounds_of(curve).low.x, 20.0 / 48, 1e-9);
}

TEST(HeldCurve, BadInputNamesTheMend) {
    HeldCurve held;
    held.poles = {{0, 0, 0}, {1, 0, 0}, {2, 1, 0}};
    const auto code = [&] {
        const auto made = curve_held_by(held);
        EXPECT_FALSE(made);
        if (made) return ErrorCode::broken_invariant;
        EXPECT_FALSE(made.error().mend.empty());
        return made.error().code;
    };
    EXPECT_EQ(code(), ErrorCode::too_few_points) << "three poles for degree 3";
    held.degree = 6;
    EXPECT_EQ(code(), ErrorCode::out_of_range);
    held.degree = 0;
    EXPECT_EQ(code(), ErrorCode::out_of_range);
    held.degree = 2;
    for (const double weight : {0.0, -1.0, std::nan(""), HUGE_VAL}) {
        held.weights = {1, weight, 1};
        EXPECT_EQ(code(), ErrorCode::out_of_range);
    }
    held.weights.clear();
    held.poles[1].z = std::nan("");
    EXPECT_EQ(code(), ErrorCode::not_finite);
    held.poles = {{4, 4, 4}, {4, 4, 4}, {4, 4, 4}};
    EXPECT_EQ(code(), ErrorCode::too_few_points);
    held.poles = {{0, 0, 0}, {1, 0, 0}};
    held.closed = true;
    EXPECT_EQ(code(), ErrorCode::too_few_points);
}

}  // namespace
}  // namespace plume
