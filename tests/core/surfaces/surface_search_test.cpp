#include <random>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/surfaces/cast_curve.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/geometry/surfaces/trimming.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

using test::at_origin;
using test::sphere;
using test::StudyMaker;

// Deep folds: what is nearest changes often.
SplinePatch folds() {
    std::vector<double> knots{0, 0, 0, 0};
    constexpr int count = 12;
    for (int knot = 1; knot <= count - 4; ++knot)
        knots.push_back(knot);
    knots.insert(knots.end(), 4, count - 3.0);
    Doubles x, y, z;
    for (int b = 0; b < count; ++b)
        for (int a = 0; a < count; ++a) {
            x.push_back(a);
            y.push_back(b);
            z.push_back((a % 2 == 0 ? 4 : -4) + (b % 3 == 0 ? 3 : 0));
        }
    return *SplinePatch::make({{3, false, knots, {}}, {3, false, knots, {}}, x, y, z, {}, {}, {}});
}

std::vector<Vec3> strewn(double reach, Vec3 centre) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> share(-reach, reach);
    std::vector<Vec3> places;
    for (int at = 0; at < 300; ++at) {
        const double x = share(random), y = share(random), z = share(random);
        places.push_back(centre + Vec3{x, y, z});
    }
    return places;
}

TEST(SurfaceSearch, NearestOnASphereIsOnTheRay) {
    const SurfaceSearch search(sphere(3));
    for (const Vec3 p : strewn(8, {})) {
        const PlaceOnSurface found = search.nearest(p);
        EXPECT_NEAR(found.distance, std::abs(length(p) - 3), 1e-9);
        EXPECT_LT(length(found.place - unit_or_zero(p) * 3), 1e-6);
        EXPECT_NEAR(std::abs(dot(search.normal(found), unit_or_zero(p))), 1, 1e-9);
    }
}

TEST(SurfaceSearch, NoNearerPlaceIsOverlookedOnFolds) {
    const SplinePatch patch = folds();
    const SurfaceSearch search(patch);
    const auto samples = sample(patch, 12, plume::Run());
    for (const Vec3 p : strewn(9, {5, 5, 0})) {
        double least = 1e9;
        for (std::size_t at = 0; at < samples->x.size(); ++at)
            least = std::min(least, length(p - Vec3{samples->x[at], samples->y[at], samples->z[at]}));
        const PlaceOnSurface found = search.nearest(p);
        EXPECT_LE(found.distance, least + 1e-12);
        EXPECT_LT(length(evaluate(patch, found.u, found.v).position - found.place), 1e-12);
        // Square to the surface, or on its rim.
        const SurfacePoint at = evaluate(patch, found.u, found.v);
        const bool rim = found.u == 0 || found.u == 9 || found.v == 0 || found.v == 9;
        if (!rim) {
            EXPECT_LT(std::abs(dot(p - at.position, unit_or_zero(at.along_u))), 1e-6);
            EXPECT_LT(std::abs(dot(p - at.position, unit_or_zero(at.along_v))), 1e-6);
        }
    }
}

TEST(SurfaceSearch, LinesMeetASphereTwiceAndFoldsOften) {
    const SurfaceSearch search(sphere(3));
    const Vec3 way = unit_or_zero({1, 2, -1});
    for (const Vec3 p : strewn(2, {})) {
        const double along = dot(p, way), height = length(p - way * along);
        const auto hits = search.along(p, way);
        ASSERT_EQ(hits.size(), height < 3 ? 2U : 0U) << height;
        if (hits.empty()) continue;
        const double half = std::sqrt(9 - height * height);
        EXPECT_NEAR(hits[0].distance, -half - along, 1e-9);
        EXPECT_NEAR(hits[1].distance, half - along, 1e-9);
    }
    // As often as the curve that a plane cuts out of the folds changes its side.
    EXPECT_GE(SurfaceSearch(folds()).along({0, 5, 0.3}, {1, 0, 0}).size(), 7U);
    EXPECT_TRUE(SurfaceSearch(folds()).along({0, 50, 0.3}, {1, 0, 0}).empty());
}

TEST(SurfaceSearch, TrimsCountAsRims) {
    // A plate with a round hole of 1.
    const SplinePatch plane = *extruded(*line_between({-3, -3, 0}, {3, -3, 0}), {0, 6, 0});
    const auto cast = cast_onto(shadow_of(plane, {0, 0, 1}), ellipse(at_origin(), 1, 1), plume::Run());
    const SurfaceSearch search(trimmed(plane, {*cast}, TrimSide::outside, plume::Run())->front());
    EXPECT_NEAR(search.nearest({0.25, 0, 0}).distance, 0.75, 1e-9);
    EXPECT_NEAR(search.nearest({0, 0.5, 2}).distance, std::hypot(0.5, 2), 1e-9);
    EXPECT_NEAR(search.nearest({2, 2, 1}).distance, 1, 1e-12);
    EXPECT_NEAR(search.nearest({4, 0, 0}).distance, 1, 1e-12);
    EXPECT_TRUE(search.along({0.3, 0.2, 5}, {0, 0, 1}).empty());
    EXPECT_EQ(search.along({2, 0.2, 5}, {0, 0, 1}).size(), 1U);
}

StudyMaker ball_and_points() {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "circle").word("ring", "plane", "xz").number("ring", "radius", "3 m");
    maker.add("curve.part", "half");
    maker.set("half", "curve", ResultName{"ring"});
    maker.add("surface.extrude", "pipe");
    maker.set("pipe", "curve", ResultName{"ring"})
        .number("pipe", "by", "10 m")
        .word("pipe", "direction", "y");
    maker.add("lattice.rectangular", "ground");
    return maker;
}

TEST(PullSteps, PointsComeToLieOnTheSurfaceWithTheirDistance) {
    StudyMaker maker = ball_and_points();
    maker.add("thing.move", "lifted");
    maker.set("lifted", "thing", ResultName{"ground"})
        .number("lifted", "z", "5 m")
        .number("lifted", "y", "5 m");
    maker.add("thing.pull", "down");
    maker.set("down", "thing", ResultName{"lifted"}).set("down", "target", ResultName{"pipe"});
    for (const char* way : {"straight", "along"}) {
        const Evaluation made = test::run(maker.word("down", "way", way).study);
        const Outcome& outcome = *made.outcome("down");
        ASSERT_TRUE(outcome.value) << sentence(*outcome.error);
        const auto& lattice = std::get<PointLattice>(*outcome.value);
        const auto& from = std::get<PointLattice>(*made.outcome("lifted")->value);
        for (std::size_t at = 0; at < lattice.address_count(); ++at) {
            const Vec3 p = from.point(at);
            const bool inside = way == std::string("straight") ? p.y >= 0 && p.y <= 10
                                                               : p.y >= 0 && p.y <= 10 && std::abs(p.x) < 3;
            if (!inside) continue;
            ASSERT_TRUE(lattice.present(at));
            const Vec3 q = lattice.point(at);
            EXPECT_NEAR(std::hypot(q.x, q.z), 3, 1e-9);
            EXPECT_NEAR(lattice.field("distance")->values[at], length(p - q), 1e-9);
        }
        if (way == std::string("along")) {
            ASSERT_FALSE(outcome.remarks.empty());
            EXPECT_TRUE(outcome.remarks.front().loss);
            EXPECT_TRUE(lattice.has_gaps());
        }
    }
}

TEST(PullSteps, CurvesComeToLieOnTheSurface) {
    StudyMaker maker = ball_and_points();
    maker.add("outline.shape", "eye");
    maker.word("eye", "shape", "circle").number("eye", "radius", "1 m");
    maker.add("thing.move", "above");
    maker.set("above", "thing", ResultName{"eye"}).number("above", "z", "5 m").number("above", "y", "5 m");
    maker.add("thing.pull", "on_pipe");
    maker.set("on_pipe", "thing", ResultName{"above"}).set("on_pipe", "target", ResultName{"pipe"});
    maker.word("on_pipe", "way", "along");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("on_pipe")->value) << sentence(*made.outcome("on_pipe")->error);
    const SplineCurve& curve = std::get<CurveSet>(*made.outcome("on_pipe")->value).curves.front();
    EXPECT_TRUE(curve.closed());
    for (int step = 0; step < 400; ++step) {
        const Vec3 at =
            evaluate(curve, std::lerp(curve.basis().start(), curve.basis().end(), step / 400.0)).position;
        EXPECT_NEAR(std::hypot(at.x, at.z), 3, 2e-6);
        EXPECT_NEAR(std::hypot(at.x, at.y - 5), 1, 2e-6);
        EXPECT_GT(at.z, 0);
    }
    // One that reaches beyond the pipe says where it misses.
    const Evaluation misses = test::run(maker.number("eye", "radius", "4 m").study);
    ASSERT_FALSE(misses.outcome("on_pipe")->value);
    EXPECT_NE(misses.outcome("on_pipe")->error->message.find("misses the target at"), std::string::npos);
}

TEST(OnSurfaces, PointsAtEvenLengthsAndPlacementsSquareToThem) {
    StudyMaker maker;
    maker.add("outline.shape", "ring");
    maker.word("ring", "shape", "ellipse").word("ring", "plane", "xz").number("ring", "radius", "3 m");
    maker.add("surface.extrude", "pipe");
    maker.set("pipe", "curve", ResultName{"ring"})
        .number("pipe", "by", "10 m")
        .word("pipe", "direction", "y");
    maker.add("lattice.on_surface", "even");
    maker.set("even", "surface", ResultName{"pipe"})
        .number("even", "columns", "40")
        .number("even", "rows", "4");
    maker.word("even", "spacing", "lengths");
    maker.add("placement.on_lattice", "axes");
    maker.set("axes", "points", ResultName{"even"}).set("axes", "surface", ResultName{"pipe"});
    maker.word("axes", "up", "surface");
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("axes")->value) << sentence(*made.outcome("axes")->error);
    // Arcs between neighbours are of one length: that of the whole ellipse over 40.
    const SplineCurve& ring = std::get<CurveSet>(*made.outcome("ring")->value).curves.front();
    const CurveLength measure(ring);
    const auto& lattice = std::get<PointLattice>(*made.outcome("even")->value);
    ASSERT_EQ(lattice.counts()[0], 40U);
    for (std::size_t at = 0; at < 40; ++at) {
        const Vec3 wanted =
            evaluate(ring, measure.parameter_at(measure.total() * static_cast<double>(at) / 40)).position;
        EXPECT_LT(length(lattice.point(at) - wanted), 1e-7) << at;
    }
    const auto& placements = std::get<Placements>(*made.outcome("axes")->value);
    for (std::size_t at = 0; at < lattice.address_count(); ++at) {
        const SurfaceSearch search(std::get<SurfaceSet>(*made.outcome("pipe")->value).patches.front());
        EXPECT_NEAR(placements.placement(at).up.y, 0, 1e-9);
        EXPECT_NEAR(dot(placements.placement(at).up, search.normal(search.nearest(lattice.point(at)))), 1,
                    1e-9);
    }
}

TEST(PullSteps, ThePlaneOfAPlacementIsATarget) {
    StudyMaker maker;
    maker.add("lattice.rectangular", "ground");
    maker.add("placement.frame", "plane");
    maker.set("plane", "place", Places{{"p", "0 m", "0 m", "2 m", "1"}});
    maker.add("thing.pull", "raised");
    maker.set("raised", "thing", ResultName{"ground"}).set("raised", "target", ResultName{"plane"});
    const Evaluation made = test::run(maker.study);
    ASSERT_TRUE(made.outcome("raised")->value) << sentence(*made.outcome("raised")->error);
    const auto& lattice = std::get<PointLattice>(*made.outcome("raised")->value);
    EXPECT_EQ(lattice.fields().size(), 1U);
    for (std::size_t at = 0; at < lattice.address_count(); ++at)
        EXPECT_NEAR(lattice.z()[at], 2, 1e-12);
}

}  // namespace
}  // namespace plume
