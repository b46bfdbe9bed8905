// Curves by formula and through points, and tubes along them, against closed forms.

#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/meshes/tube.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::error_of;
using test::grid;
using test::run;
using test::StudyMaker;
using test::value_of;

constexpr double pi = std::numbers::pi;

StudyMaker drawn(const char* from, const char* to, const std::string& formula) {
    StudyMaker maker;
    maker.add("curve.formula", "path");
    maker.number("path", "from", from).number("path", "to", to).formula("path", formula);
    return maker;
}

SplineCurve path_of(const StudyMaker& maker) {
    return std::get<CurveSet>(value_of(run(maker.study), "path")).curves.front();
}

double length_of(const SplineCurve& curve) {
    const CurveSamples samples = sample(curve, usual_tolerance(curve));
    return polyline_length(samples.points, samples.closed);
}

const std::string helix = "x = 3 m * cos(t)\ny = 3 m * sin(t)\nz = 2 m * t / 360°";

TEST(FormulaCurve, HelixHasItsLength) {
    StudyMaker maker = drawn("0°", "720°", helix);
    maker.number("path", "tolerance", "0.01 mm");
    const double exact = 2 * std::hypot(2 * pi * 3, 2);
    const double coarse = exact - length_of(path_of(drawn("0°", "720°", helix)));
    const double fine = exact - length_of(path_of(maker));
    EXPECT_GT(fine, 0) << "chords are shorter than the curve";
    EXPECT_LT(fine, 1e-4);
    EXPECT_LT(fine, coarse / 100) << "the chord error falls with the tolerance";
}

// The chord height of an arc of radius r over an angle a is r (1 - cos(a / 2)).
TEST(FormulaCurve, ChordsKeepTheTolerance) {
    StudyMaker maker = drawn("0°", "360°", "x = 3 m * cos(t)\ny = 3 m * sin(t)\nz = 0 m");
    maker.number("path", "tolerance", "1 mm");
    const SplineCurve circle = path_of(maker);
    const auto& nodes = circle.basis().nodes;
    for (std::size_t at = 1; at < nodes.size(); ++at)
        EXPECT_LE(3 * (1 - std::cos((nodes[at] - nodes[at - 1]) / 2)), 1e-3);
    EXPECT_LT(nodes.size(), 400U) << "and are no shorter than that needs";
}

TEST(FormulaCurve, AFixedCountIsEvenInTheParameter) {
    StudyMaker maker = drawn("0°", "720°", helix);
    maker.word("path", "sampling", "fixed").number("path", "count", "9");
    const SplineCurve path = path_of(maker);
    ASSERT_EQ(path.x().size(), 9U);
    for (std::size_t at = 0; at < 9; ++at)
        EXPECT_NEAR(path.z()[at], 0.5 * static_cast<double>(at), 1e-14);
}

// x = sin(3 t), y = sin(4 t + c) closes after one turn and not after a quarter of one.
TEST(FormulaCurve, ALissajousFigureCloses) {
    const std::string figure = "x = 2 m * sin(3 * t)\ny = 2 m * sin(4 * t + 30°)\nz = 0 m";
    const SplineCurve whole = path_of(drawn("0°", "360°", figure));
    EXPECT_TRUE(whole.closed());
    EXPECT_NE(whole.pole(0), whole.pole(whole.basis().nodes.size() - 1)) << "the seam is not repeated";
    EXPECT_FALSE(path_of(drawn("0°", "90°", figure)).closed());
    EXPECT_TRUE(path_of(drawn("360°", "0°", figure)).closed()) << "either way round";
}

TEST(FormulaCurve, FieldsGoAlong) {
    const SplineCurve path = path_of(drawn("0°", "720°", helix + "\nfield turn = t / 360°"));
    ASSERT_EQ(path.fields().size(), 1U);
    EXPECT_EQ(path.fields()[0].name, "turn");
    EXPECT_NEAR(path.fields()[0].values[path.x().size() - 1], 2, 1e-12);
}

TEST(FormulaCurve, BadInputNamesThePlace) {
    const struct {
        const char *from, *to, *formula;
        ErrorCode code;
    } cases[] = {{"0°", "0°", "x = 0\ny = 0\nz = 0", ErrorCode::out_of_range},
                 {"0 m", "1°", "x = 0\ny = 0\nz = 0", ErrorCode::unit_mismatch},
                 {"0°", "90°", "x = 1 m\ny = 1 m\nz = 1 m", ErrorCode::too_few_points},
                 {"-1", "1", "x = 1 m * sqrt(t)\ny = 0\nz = 0", ErrorCode::not_finite},
                 {"0", "1", "x = 1 m\ny = 0", ErrorCode::missing_input}};
    for (const auto& c : cases) {
        const Error error = error_of(run(drawn(c.from, c.to, c.formula).study), "path");
        EXPECT_EQ(error.code, c.code) << sentence(error);
        EXPECT_FALSE(error.mend.empty()) << sentence(error);
    }
    const Error error = error_of(run(drawn("-1", "1", "x = 1 m * sqrt(t)\ny = 0\nz = 0").study), "path");
    EXPECT_NE(sentence(error).find("t = -1"), std::string::npos) << sentence(error);
    StudyMaker fine = drawn("0°", "720°", helix);
    fine.number("path", "tolerance", "1e-13 m");
    EXPECT_EQ(error_of(run(fine.study), "path").code, ErrorCode::over_budget);
}

// ---------------------------------------------------------------------------------------------- through
// points

PointLattice row_of(const std::vector<Vec3>& points) {
    PointLattice::Parts parts;
    parts.arrangement = Arrangement::row;
    parts.counts = {points.size(), 1, 1};
    Doubles x, y, z;
    for (const Vec3 p : points) {
        x.push_back(p.x);
        y.push_back(p.y);
        z.push_back(p.z);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

PointLattice circle_of(std::size_t count, double radius) {
    std::vector<Vec3> points;
    for (std::size_t at = 0; at < count; ++at) {
        const double a = 2 * pi * static_cast<double>(at) / static_cast<double>(count);
        points.push_back({radius * std::cos(a), radius * std::sin(a), 0});
    }
    return row_of(points);
}

TEST(JoinPoints, StraightIsThePolyline) {
    const auto set = join_points(row_of({{0, 0, 0}, {3, 4, 0}, {3, 4, 2}}), Route::in_order,
                                 CurveShape::straight, false, plume::Run());
    EXPECT_DOUBLE_EQ(length_of(set->curves[0]), 7);
    const auto closed = join_points(row_of({{0, 0, 0}, {3, 0, 0}, {3, 4, 0}}), Route::in_order,
                                    CurveShape::straight, true, plume::Run());
    EXPECT_DOUBLE_EQ(length_of(closed->curves[0]), 12);
}

// A periodic cubic through n points of a circle: its error falls with the fourth power of their distance.
TEST(JoinPoints, SmoothAndClosedComesNearACircle) {
    const auto error_with = [](std::size_t count) {
        const auto set =
            join_points(circle_of(count, 5), Route::in_order, CurveShape::smooth, true, plume::Run());
        EXPECT_TRUE(set->curves[0].closed());
        double worst = 0;
        for (const Vec3 p : sample(set->curves[0], 1e-9).points)
            worst = std::max(worst, std::abs(length(p) - 5));
        return worst;
    };
    EXPECT_LT(error_with(16), 0.003);
    EXPECT_GT(error_with(16) / error_with(32), 12);
}

TEST(JoinPoints, SmoothGoesThroughEveryPoint) {
    const PointLattice points = row_of({{0, 0, 0}, {1, 2, 0}, {3, 1, 1}, {4, 4, 2}, {7, 3, 0}});
    const auto set = join_points(points, Route::in_order, CurveShape::smooth, false, plume::Run());
    const CurveSamples samples = sample(set->curves[0], 1e-6);
    for (std::size_t at = 0; at < 5; ++at) {
        double nearest = 1e9;
        for (const Vec3 p : samples.points)
            nearest = std::min(nearest, length(p - points.point(at)));
        EXPECT_LT(nearest, 1e-12) << at;
    }
}

TEST(JoinPoints, RowsColumnsAndInOrder) {
    const auto count = [](const PointLattice& points, Route route) {
        return join_points(points, route, CurveShape::straight, false, plume::Run())->curves.size();
    };
    const PointLattice sheet = grid(6, 4);
    EXPECT_EQ(count(sheet, Route::rows), 4U);
    EXPECT_EQ(count(sheet, Route::columns), 6U);
    EXPECT_EQ(count(sheet, Route::in_order), 1U);
    const auto tube =
        join_points(grid(6, 4, {}, true, false), Route::rows, CurveShape::smooth, false, plume::Run());
    EXPECT_TRUE(tube->curves[0].closed()) << "as the lattice is";
}

TEST(JoinPoints, NumbersOnPointsAreJoinedToo) {
    StudyMaker maker;
    maker.add("numbers.list", "list");
    maker.add("curve.join", "line");
    maker.number("list", "from", "0 m").number("list", "to", "4 m").word("line", "shape", "straight");
    const auto line = std::get<CurveSet>(value_of(run(maker.study), "line"));
    EXPECT_DOUBLE_EQ(length_of(line.curves.front()), 4);
    ASSERT_EQ(line.curves.front().fields().size(), 1U);
    EXPECT_EQ(line.curves.front().fields()[0].name, "list");
}

TEST(JoinPoints, EveryPathologicalLatticeGivesCurvesOrASentence) {
    for (const test::Named& named : test::pathological())
        for (const Route route : {Route::rows, Route::columns, Route::in_order})
            for (const CurveShape shape : {CurveShape::straight, CurveShape::smooth})
                for (const bool closed : {false, true}) {
                    const auto set = join_points(named.lattice, route, shape, closed, plume::Run());
                    if (!set) {
                        EXPECT_EQ(set.error().code, ErrorCode::too_few_points) << named.name;
                        EXPECT_FALSE(set.error().mend.empty());
                        continue;
                    }
                    for (const SplineCurve& curve : set->curves)
                        for (const Vec3 p : sample(curve, usual_tolerance(curve)).points)
                            EXPECT_TRUE(std::isfinite(p.x + p.y + p.z)) << named.name;
                }
}

// -------------------------------------------------------------------------------------------------------
// tubes

CurveSamples samples_of(std::vector<Vec3> points, bool closed) {
    CurveSamples samples;
    samples.closed = closed;
    samples.points = std::move(points);
    for (std::size_t at = 0; at < samples.points.size(); ++at)
        samples.parameters.push_back(static_cast<double>(at));
    return samples;
}

double polygon_area(double radius, double sides) {
    return sides / 2 * radius * radius * std::sin(2 * pi / sides);
}

TEST(Tube, AStraightOneIsAPrism) {
    const Mesh mesh = *tube(samples_of({{0, 0, 0}, {0, 0, 4}, {0, 0, 10}}, false),
                            {{2, 2, 2}, 24, TubeEnds::capped}, plume::Run());
    EXPECT_EQ(test::open_edges(mesh), 0U);
    EXPECT_NEAR(test::volume(mesh), polygon_area(2, 24) * 10, 1e-10);
}

// A frustum of similar polygons: h / 3 (A1 + A2 + sqrt(A1 A2)); a radius of 0 makes the tip of a pyramid.
TEST(Tube, ThinningOnesAreFrustaAndPyramids) {
    const auto volume_of = [](double a, double b) {
        const Mesh mesh =
            *tube(samples_of({{0, 0, 0}, {6, 0, 0}}, false), {{a, b}, 16, TubeEnds::capped}, plume::Run());
        EXPECT_EQ(test::open_edges(mesh), 0U) << a << " " << b;
        return test::volume(mesh);
    };
    const double a = polygon_area(1, 16), b = polygon_area(0.25, 16);
    EXPECT_NEAR(volume_of(1, 0.25), 6.0 / 3 * (a + b + std::sqrt(a * b)), 1e-12);
    EXPECT_NEAR(volume_of(1, 0), 6 * a / 3, 1e-12);
    EXPECT_NEAR(volume_of(0, 1), 6 * a / 3, 1e-12);
}

// Pappus: the volume of a ring is its section's area times the way of its centre.
TEST(Tube, AClosedRingIsATorusWithoutASeam) {
    std::vector<Vec3> circle;
    for (int at = 0; at < 720; ++at)
        circle.push_back({5 * std::cos(pi * at / 360), 5 * std::sin(pi * at / 360), 0});
    const Mesh mesh =
        *tube(samples_of(circle, true), {std::vector<double>(720, 0.5), 32, TubeEnds::capped}, plume::Run());
    EXPECT_EQ(test::open_edges(mesh), 0U);
    EXPECT_EQ(mesh.face_count(), 720U * 32) << "a closed curve has no caps";
    EXPECT_NEAR(test::volume(mesh) / (2 * pi * 5 * polygon_area(0.5, 32)), 1, 1e-4);
}

// On a closed curve out of the plane placements come back turned; the rings make up for it evenly.
TEST(Tube, AClosedCurveInSpaceHasNoTwistJump) {
    std::vector<Vec3> points;
    const int count = 400;
    for (int at = 0; at < count; ++at) {
        const double a = 2 * pi * at / count;
        points.push_back({(4 + std::cos(3 * a)) * std::cos(2 * a), (4 + std::cos(3 * a)) * std::sin(2 * a),
                          std::sin(3 * a)});
    }
    const Mesh mesh = *tube(samples_of(points, true), {std::vector<double>(count, 0.3), 12, TubeEnds::capped},
                            plume::Run());
    EXPECT_EQ(test::open_edges(mesh), 0U);
    // Edges along the tube are about as long as the step of the centre line: at the seam as anywhere.
    double worst = 0;
    for (std::size_t at = 0; at < mesh.face_count(); ++at) {
        const auto face = mesh.face(at);
        double shortest_side = 1e9;
        for (std::size_t corner = 0; corner < 4; ++corner) {
            const Vec3 edge = mesh.vertex(face[(corner + 1) % 4]) - mesh.vertex(face[corner]);
            const Vec3 next = mesh.vertex(face[(corner + 2) % 4]) - mesh.vertex(face[(corner + 1) % 4]);
            shortest_side =
                std::min(shortest_side, std::abs(dot(edge, next)) / (length(edge) * length(next)));
        }
        worst = std::max(worst, shortest_side);
    }
    EXPECT_LT(worst, 0.35) << "no cell is sheared";
}

TEST(Tube, PlacementsAreOrthonormalAndTurnLittle) {
    std::vector<Vec3> points;
    for (int at = 0; at <= 200; ++at) {
        const double t = 4 * pi * at / 200;
        points.push_back({2 * std::cos(t), 2 * std::sin(t), 0.4 * t});
    }
    const auto placements = rotation_minimising_frames(points, false);
    for (std::size_t at = 0; at < placements.size(); ++at) {
        EXPECT_NEAR(dot(placements[at].along, placements[at].side), 0, 1e-12);
        EXPECT_NEAR(dot(cross(placements[at].along, placements[at].side), placements[at].up), 1, 1e-12);
        if (at == 0) continue;
        // A rotation-minimising side changes along the tangent only: its change has no part across it.
        const Vec3 change = placements[at].side - placements[at - 1].side;
        const Vec3 middle = placements[at].up + placements[at - 1].up;
        EXPECT_NEAR(dot(change, middle), 0, 2e-4) << at;
    }
}

TEST(Tube, StepThroughTheStudyIsWatertightAndThin) {
    StudyMaker maker = drawn("0°", "720°", helix);
    maker.add("mesh.tube", "rail");
    maker.word("rail", "thickness", "formula").formula("rail", "10 mm + 30 mm * sin(180° * u)");
    const Mesh rail = std::get<Mesh>(value_of(run(maker.study), "rail"));
    EXPECT_EQ(test::open_edges(rail), 0U);
    // Pappus along a bent axis, the mean of the square of the radius: a^2 + 4 a b / pi + b^2 / 2.
    const double a = 0.010, b = 0.030, square = a * a + 4 * a * b / pi + b * b / 2;
    EXPECT_NEAR(test::volume(rail) / (polygon_area(1, 16) * square * 2 * std::hypot(6 * pi, 2)), 1, 0.005);
    maker.formula("rail", "-10 mm");
    EXPECT_EQ(error_of(run(maker.study), "rail").code, ErrorCode::out_of_range);
    maker.formula("rail", "0 mm");
    EXPECT_FALSE(error_of(run(maker.study), "rail").mend.empty());
}

}  // namespace
}  // namespace plume
