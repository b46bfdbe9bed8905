#include <numbers>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/span_polynomials.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/curves/spline_system.hpp"
#include "core/geometry/moves/affine.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/plane_fill.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"
#include "core/geometry/surfaces/trimmed_domain.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
constexpr Vec3 upwards{0, 0, 1};

SplineCurve circle(double radius, Vec3 centre = {}) {
    return ellipse(placement_of(centre, {0, 0, 1}, {1, 0, 0}), radius, radius);
}

SplineCurve square(double half, Vec3 centre = {}) {
    CurvePoints corners;
    corners.closed = true;
    for (const Vec3 corner : {Vec3{-1, -1, 0}, {1, -1, 0}, {1, 1, 0}, {-1, 1, 0}})
        corners.points.push_back(centre + corner * half);
    return *curve_through(corners, CurveShape::straight);
}

// z = (x^2 + y^2) / 2 over -2..2 either way.
SplinePatch bowl() {
    return test::quadric(1);
}
double bowl_area(double radius) {
    return 2 * pi / 3 * (std::pow(1 + radius * radius, 1.5) - 1);
}

// Round about the X axis, 8 long.
SplinePatch pipe(double radius) {
    return *extruded(ellipse(placement_of({-4, 0, 0}, {1, 0, 0}, {0, 1, 0}), radius, radius), {8, 0, 0});
}
// What an upright drill of radius `hole` through its axis takes out of one side of a pipe.
double drilled_area(double radius, double hole) {
    double sum = 0;
    constexpr int steps = 20'000;
    for (int step = 0; step < steps; ++step) {
        // y = hole sin t removes the root at the ends.
        const double t = pi * ((step + 0.5) / steps - 0.5), y = hole * std::sin(t);
        sum += 2 * hole * std::cos(t) * radius / std::sqrt(radius * radius - y * y) * hole * std::cos(t) *
               pi / steps;
    }
    return sum;
}

std::vector<Cast> casts_of(const SplinePatch& patch, const std::vector<SplineCurve>& outlines,
                           Vec3 direction = upwards) {
    std::vector<Cast> casts;
    for (const SplineCurve& outline : outlines) {
        auto cast = cast_onto(shadow_of(patch, direction), outline, plume::Run());
        EXPECT_TRUE(cast) << cast.error().message;
        casts.push_back(*std::move(cast));
    }
    return casts;
}

std::vector<SplinePatch> cut(const SplinePatch& patch, const std::vector<SplineCurve>& outlines,
                             TrimSide keep, Vec3 direction = upwards) {
    auto pieces = trimmed(patch, casts_of(patch, outlines, direction), keep, plume::Run());
    EXPECT_TRUE(pieces) << pieces.error().message;
    return *pieces;
}

double area(const std::vector<SplinePatch>& patches) {
    return *area_of({patches}, plume::Run());
}

TEST(SpanPolynomials, AgreeWithTheRecursionWhereverKnotsStand) {
    for (const std::vector<double>& knots :
         {std::vector<double>{0, 0, 0, 0, 1, 1.5, 1.5, 4, 9, 9, 9, 9},
          {-3, -2, -1, 0, 1, 2, 3, 4, 5, 6},
          // Far closer together here than there.
          {0, 0, 0, 0, 1, 1.001, 1.002, 1.003, 1.003, 1.004, 700, 1000, 1000, 1000, 1000}})
        for (const int degree : {1, 2, 3}) {
            SplineBasis basis{degree, false, {}, {}};
            basis.knots.assign(knots.begin() + 3 - degree, knots.end() - 3 + degree);
            const SpanPolynomials polynomials(basis);
            double closest = 0.1;
            for (std::size_t knot = 1; knot < basis.knots.size(); ++knot)
                if (const double apart = basis.knots[knot] - basis.knots[knot - 1]; apart > 0)
                    closest = std::min(closest, apart);
            std::vector<double> parameters = basis.knots;
            for (int step = -2; step <= 52; ++step)
                parameters.push_back(std::lerp(basis.start(), basis.end(), step / 50.0));
            for (double t = 0.9995; t < 1.0055; t += 0.00025)
                parameters.push_back(t);
            for (const double t : parameters) {
                const BasisBends wanted = basis_bends_at(basis, t);
                const SpanPolynomials::Bends got = polynomials.bends_at(t);
                ASSERT_EQ(got.at.first, wanted.at.first);
                for (std::size_t a = 0; a <= static_cast<std::size_t>(degree); ++a) {
                    EXPECT_NEAR(got.at.values[a], wanted.at.values[a], 1e-14);
                    // The closer knots are, the steeper the functions.
                    EXPECT_NEAR(got.at.slopes[a], wanted.at.slopes[a], 1e-13 / closest);
                    EXPECT_NEAR(got.bends[a], wanted.bends[a], 1e-13 / (closest * closest));
                }
            }
        }
}

TEST(CastCurves, AreExactWhereTheSurfaceIsSpacedEvenly) {
    const auto casts = cast_onto(shadow_of(bowl(), upwards), circle(1.5), plume::Run());
    ASSERT_TRUE(casts) << casts.error().message;
    ASSERT_EQ(casts->curves.size(), 1U);
    EXPECT_TRUE(casts->curves.front().rational());
    EXPECT_NEAR(area(cut(bowl(), {circle(1.5)}, TrimSide::inside)), bowl_area(1.5), 1e-9);
    const double whole = *area_of({{bowl()}}, plume::Run());
    EXPECT_NEAR(area(cut(bowl(), {circle(1.5)}, TrimSide::outside)), whole - bowl_area(1.5), 1e-9);
}

TEST(CastCurves, FollowUnevenSurfacesAndBothSidesOfARoundOne) {
    const SplinePatch round = pipe(2);
    const auto casts = cast_onto(shadow_of(round, upwards), circle(1.2, {0, 0, 9}), plume::Run());
    ASSERT_TRUE(casts) << casts.error().message;
    ASSERT_EQ(casts->curves.size(), 2U);
    // On the surface and under the circle, between its knots too.
    const PatchEvaluator on(round);
    for (const SplineCurve& loop : casts->curves)
        for (int step = 0; step < 997; ++step) {
            const double t = std::lerp(loop.basis().start(), loop.basis().end(), step / 997.0);
            const Vec3 at = evaluate(loop, t).position;
            const double period = round.u().end() - round.u().start();
            const Vec3 place = on.at(at.x - std::floor(at.x / period) * period, at.y).position;
            EXPECT_NEAR(std::hypot(place.x, place.y), 1.2, 2e-6);
        }
    const auto pieces = cut(round, {circle(1.2)}, TrimSide::outside);
    ASSERT_EQ(pieces.size(), 1U);
    EXPECT_NEAR(area(pieces), 32 * pi - 2 * drilled_area(2, 1.2), 2e-6);
    const auto lids = cut(round, {circle(1.2)}, TrimSide::inside);
    EXPECT_EQ(lids.size(), 2U);
    EXPECT_NEAR(area(lids), 2 * drilled_area(2, 1.2), 2e-6);
}

TEST(CastCurves, KeepTheCornersOfAnOutline) {
    const auto casts = cast_onto(shadow_of(pipe(2), upwards), square(1), plume::Run());
    ASSERT_TRUE(casts) << casts.error().message;
    // The square's shadow on a pipe: 2 long, 2 R asin(1 / R) wide.
    const auto lids = cut(pipe(2), {square(1)}, TrimSide::inside);
    EXPECT_NEAR(area(lids), 2 * 2 * 2 * 2 * std::asin(0.5), 1e-6);
}

TEST(CastCurves, BadInputNamesTheMend) {
    const auto why = [](const SplinePatch& patch, const SplineCurve& outline) {
        const auto casts = cast_onto(shadow_of(patch, upwards), outline, plume::Run());
        return casts ? std::string() : casts.error().message;
    };
    EXPECT_NE(why(bowl(), *line_between({0, 0, 0}, {1, 0, 0})).find("open"), std::string::npos);
    // Seen from above it runs down the side of the pipe.
    EXPECT_NE(why(pipe(2), circle(1, {0, 1.5, 0})).find("over a fold"), std::string::npos);
    // One that lies elsewhere meets nothing.
    EXPECT_TRUE(cast_onto(shadow_of(bowl(), upwards), circle(1, {9, 0, 0}), plume::Run())->curves.empty());
    EXPECT_TRUE(cast_onto(shadow_of(pipe(2), upwards), circle(1, {9, 0, 0}), plume::Run())->curves.empty());
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(cast_onto(shadow_of(pipe(2), upwards), circle(1), cancelled).error().code,
              ErrorCode::cancelled);
}

TEST(Trimming, IslandsHolesAndWhatIsLeftOfAnEarlierCut) {
    const auto ring = cut(bowl(), {circle(1.5)}, TrimSide::inside);
    ASSERT_EQ(ring.size(), 1U);
    // A hole in it; one beside it changes nothing; one around it takes all.
    const auto hole = cut(ring.front(), {circle(0.5)}, TrimSide::outside);
    ASSERT_EQ(hole.size(), 1U);
    EXPECT_NEAR(area(hole), bowl_area(1.5) - bowl_area(0.5), 1e-9);
    EXPECT_NEAR(area(cut(hole.front(), {circle(0.2)}, TrimSide::outside)), area(hole), 1e-12);
    const auto nothing =
        trimmed(hole.front(), casts_of(bowl(), {circle(1.8)}), TrimSide::outside, plume::Run());
    ASSERT_FALSE(nothing);
    EXPECT_EQ(nothing.error().code, ErrorCode::empty_input);
    // An outline in a hole leaves an island; both pieces are surfaces of their own.
    const auto island = cut(bowl(), {circle(1.5), circle(0.5)}, TrimSide::outside);
    ASSERT_EQ(island.size(), 2U);
    EXPECT_NEAR(area(island), *area_of({{bowl()}}, plume::Run()) - bowl_area(1.5) + bowl_area(0.5), 1e-9);
    // Two that cross are refused.
    const auto crossing = casts_of(bowl(), {circle(1, {-0.5, 0, 0}), circle(1, {0.5, 0, 0})});
    EXPECT_EQ(trimmed(bowl(), crossing, TrimSide::outside, plume::Run()).error().code,
              ErrorCode::unlike_arrangement);
}

TEST(Trimming, TrimsAsCurvesLieOnTheSurface) {
    const SplinePatch piece = cut(pipe(2), {circle(1.2)}, TrimSide::inside).front();
    const auto rim = lifted(std::span(&piece, 1), piece.trims().front(), 1e-7, plume::Run());
    ASSERT_TRUE(rim) << rim.error().message;
    EXPECT_LE(rim->deviation, 1e-7);
    const SplineCurve& curve = rim->on.front();
    for (int step = 0; step < 500; ++step) {
        const Vec3 at =
            evaluate(curve, std::lerp(curve.basis().start(), curve.basis().end(), step / 500.0)).position;
        EXPECT_NEAR(std::hypot(at.y, at.z), 2, 1e-6);
        EXPECT_NEAR(std::hypot(at.x, at.y), 1.2, 3e-6);
    }
}

Body thick(const SplinePatch& patch, double front, double back) {
    Thickness thickness;
    if (front > 0) thickness.front = offset_by(front);
    if (back > 0) thickness.back = offset_by(back);
    const auto made = thickened(patch, thickness, 1e-6, plume::Run());
    EXPECT_TRUE(made) << made.error().message;
    return made->body;
}

// What triangles cover of the parameters, and what loops of straight lines enclose.
double covered(const TrimmedDomain& domain) {
    double sum = 0;
    for (const auto& [a, b, c] : domain.triangles) {
        const auto& p = domain.places[a];
        const auto &q = domain.places[b], &r = domain.places[c];
        const double area = ((q.u - p.u) * (r.v - p.v) - (q.v - p.v) * (r.u - p.u)) / 2;
        EXPECT_GE(area, 0);
        sum += area;
    }
    return sum;
}
double enclosed(const SplinePatch& patch, int pieces) {
    double sum = 0;
    const std::vector<double> turns = trim_turns(patch);
    for (std::size_t trim = 0; trim < turns.size(); ++trim) {
        const SplineBasis& basis = patch.trims()[trim].basis();
        std::vector<Vec3> loop;
        for (const double t : knot_lines(basis, pieces))
            loop.push_back(evaluate(patch.trims()[trim], t).position);
        for (std::size_t at = 0; at < loop.size(); ++at)
            sum += turns[trim] * cross(loop[at], loop[(at + 1) % loop.size()]).z / 2;
    }
    return sum;
}

TEST(TrimCells, ALoopThatStandsBeyondTheLastLineByRoundingCrossesItsBays) {
    std::vector<double> lines;
    for (int line = 0; line <= 16; ++line)
        lines.push_back(line / 16.0);
    const double above = 1 + 4e-16;
    const auto cells = trim_cells(
        lines, lines, {{{0.1, 0.1, 0}, {0.9, 0.1, 0}, {0.9, above, 0}, {0.5, 1, 0}, {0.1, above, 0}}});
    for (std::size_t column = 0; column < 16; ++column) {
        EXPECT_EQ(cells[column + 16 * 15] == TrimCell::crossed, column >= 1 && column <= 14) << column;
        EXPECT_EQ(cells[column], TrimCell::outside) << column;
        EXPECT_EQ(cells[column + 16 * 8] == TrimCell::inside, column >= 2 && column <= 13) << column;
    }
}

TEST(TrimmedDomain, TrianglesCoverWhatIsThereOnAnyLines) {
    const SplinePatch round = cut(pipe(2), {circle(1.2), square(0.4, {-3, 0, 0})}, TrimSide::outside).front();
    // A rim of many knots stands by rounding on either side of the domain's end.
    const SplinePatch whole = cut(pipe(2), {circle(1.2)}, TrimSide::outside).front();
    const SplinePatch knotted = thick(whole, 0.2, 0).patches().front();
    const SplinePatch bowls = cut(bowl(), {circle(1.5), circle(0.5)}, TrimSide::inside).front();
    for (const SplinePatch& patch : {round, bowls, knotted})
        for (const int pieces : {1, 2, 5})
            for (const std::size_t lines_u : {0U, 2U, 3U, 7U, 40U, 133U})
                for (const std::size_t lines_v : {2U, 5U, 34U, 61U}) {
                    const auto lines = [](const SplineBasis& basis, std::size_t count) {
                        std::vector<double> at;
                        for (std::size_t line = 0; line < count; ++line) {
                            // Closer towards the end.
                            const double share = static_cast<double>(line) / static_cast<double>(count - 1);
                            at.push_back(std::lerp(basis.start(), basis.end(), share * (1.4 - 0.4 * share)));
                        }
                        return at;
                    };
                    const auto domain =
                        trimmed_domain(patch, std::vector<int>(patch.trims().size(), pieces),
                                       lines(patch.u(), lines_u), lines(patch.v(), lines_v), plume::Run());
                    ASSERT_TRUE(domain) << domain.error().message;
                    EXPECT_NEAR(covered(*domain), enclosed(patch, pieces), 1e-9)
                        << pieces << ' ' << lines_u << ' ' << lines_v;
                }
}

SplineCurve closed_line(std::vector<Vec3> corners) {
    CurvePoints points;
    points.points = std::move(corners);
    points.closed = true;
    return *curve_through(std::move(points), CurveShape::straight);
}

// What is seen from its middle is covered by a fan as it is by other triangles.
TEST(Trimming, DomainsSeenFromTheirMiddleAreFans) {
    const auto filled = [](std::vector<SplineCurve> outlines) {
        return plane_fills({std::move(outlines)}, plume::Run())->front();
    };
    // A square with places along its sides, which turn nowhere.
    const SplineCurve sides =
        closed_line({{0, 0, 0}, {1, 0, 0}, {2, 0, 0}, {2, 2, 0}, {1, 2, 0}, {0, 2, 0}, {0, 1, 0}});
    const SplineCurve notched = closed_line({{0, 0, 0}, {2, 0, 0}, {2, 2, 0}, {1, 1.5, 0}, {0, 2, 0}});
    for (const SplineCurve& outline : {circle(1.5, {3, 1, 2}), square(0.7), sides, notched}) {
        const SplinePatch patch = filled({outline});
        const std::vector<int> pieces{9};
        const auto fan = fan_domain(patch, pieces);
        const auto whole = trimmed_domain(patch, pieces, {}, {}, plume::Run());
        ASSERT_TRUE(fan);
        ASSERT_TRUE(whole);
        EXPECT_NEAR(covered(*fan), covered(*whole), 1e-12);
        EXPECT_EQ(fan->on_loops, whole->on_loops);
        EXPECT_EQ(fan->triangles.size(), fan->on_loops);
        for (const auto& [a, b, c] : fan->triangles) {
            const auto &p = fan->places[a], &q = fan->places[b], &r = fan->places[c];
            EXPECT_GT((q.u - p.u) * (r.v - p.v) - (q.v - p.v) * (r.u - p.u), 0) << "anticlockwise";
        }
    }
    const SplineCurve hook =
        closed_line({{0, 0, 0}, {4, 0, 0}, {4, 3, 0}, {3.5, 3, 0}, {3.5, 0.5, 0}, {0, 0.5, 0}});
    EXPECT_FALSE(fan_domain(filled({hook}), {1}));
    EXPECT_FALSE(fan_domain(filled({circle(2), circle(1)}), {4, 4})) << "a hole";
}

void expect_closed(const Body& body) {
    const auto mesh = closed_mesh(body, 40'000, plume::Run());
    ASSERT_TRUE(mesh) << mesh.error().message;
    const auto meshed = meshed_body(*mesh);
    ASSERT_TRUE(meshed) << meshed.error().message;
    EXPECT_NEAR(meshed->figures().volume, body.figures().volume, 2e-3 * body.figures().volume);
}

TEST(Trimming, TrimmedSurfacesAreThickened) {
    // Away from the axis a pipe's area grows with its radius: A t (1 + t / 2R).
    const auto open = cut(pipe(2), {circle(1.2)}, TrimSide::outside);
    const double area_there = 32 * pi - 2 * drilled_area(2, 1.2);
    const Body shell = thick(open.front(), 0.2, 0);
    EXPECT_NEAR(shell.figures().volume, area_there * 0.2 * 1.05, 1e-5);
    // Two faces, two rims of the pipe, two drilled holes; nothing along the seam.
    EXPECT_EQ(shell.face_count(), 6U);
    expect_closed(shell);
    const auto lids = cut(pipe(2), {square(1)}, TrimSide::inside);
    for (const SplinePatch& lid : lids) {
        const Body plate = thick(lid, 0.1, 0.1);
        EXPECT_NEAR(plate.figures().volume, area(lids) / 2 * 0.2, 1e-6);
        EXPECT_EQ(plate.face_count(), 6U);
        expect_closed(plate);
    }
    // A plane one is a prism with a round hole.
    const SplinePatch plane = *extruded(*line_between({-2, -2, 0}, {2, -2, 0}), {0, 4, 0});
    const Body slab = thick(cut(plane, {circle(1)}, TrimSide::outside).front(), 0.5, 0);
    EXPECT_NEAR(slab.figures().volume, (16 - pi) * 0.5, 1e-6);
    expect_closed(slab);
}

}  // namespace
}  // namespace plume
