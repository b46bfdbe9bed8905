#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/posts.hpp"
#include "core/geometry/moves/copies.hpp"
#include "core/geometry/moves/transformed.hpp"
#include "core/geometry/solids/block_between.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/geometry/solids/caps.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/geometry/solids/extruded_body.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/plane_fill.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/support.hpp"
#include "core/surfaces/round_surfaces.hpp"

namespace plume {
namespace {

constexpr double pi = std::numbers::pi;
using test::at_origin;
using test::sphere;
using test::torus;

SplineCurve circle(double radius, Vec3 centre = {}) {
    return ellipse(placement_of(centre, {0, 0, 1}, {1, 0, 0}), radius, radius);
}

// A closed mesh says the same, more coarsely, and is what shows that edges meet.
void expect_closed(const Body& body, double within_share) {
    const auto mesh = closed_mesh(body, 40'000, plume::Run());
    ASSERT_TRUE(mesh) << mesh.error().message;
    const auto meshed = meshed_body(*mesh);
    ASSERT_TRUE(meshed) << meshed.error().message;
    EXPECT_NEAR(meshed->figures().volume, body.figures().volume, within_share * body.figures().volume);
    EXPECT_NEAR(meshed->figures().area, body.figures().area, within_share * body.figures().area);
}

TEST(PatchFigures, SphereTorusAndCylinder) {
    const auto ball = figures_of(sphere(3), {1, 2, 0.5}, plume::Run());
    EXPECT_NEAR(ball->area, 36 * pi, 1e-8);
    EXPECT_NEAR(std::abs(ball->volume), 36 * pi, 1e-8);
    const auto ring = figures_of(torus(5, 2), {}, plume::Run());
    EXPECT_NEAR(ring->area, 4 * pi * pi * 10, 1e-8);
    EXPECT_NEAR(std::abs(ring->volume), 2 * pi * pi * 5 * 4, 1e-8);
    const auto wall = figures_of(*extruded(circle(2), {0, 0, 5}), {}, plume::Run());
    EXPECT_NEAR(wall->area, 20 * pi, 1e-9);
}

TEST(PatchFigures, InsideTrimsAsOutsideThem) {
    CurveSet set{{circle(3, {1, 2, 4}), circle(1, {1.5, 2, 4})}};
    const auto fills = plane_fills(set, plume::Run());
    ASSERT_TRUE(fills);
    ASSERT_EQ(fills->size(), 1U);
    EXPECT_NEAR(*area_of({*fills}, plume::Run()), 8 * pi, 1e-10);
    // A hole in a hole is a face again.
    set.curves.push_back(circle(0.5, {1.5, 2, 4}));
    const auto nested = plane_fills(set, plume::Run());
    ASSERT_EQ(nested->size(), 2U);
    EXPECT_NEAR(*area_of({*nested}, plume::Run()), 8.25 * pi, 1e-10);
    // One that only hangs above is no hole.
    EXPECT_EQ(plane_fills({{circle(3), circle(1, {0, 0, 0.1})}}, plume::Run())->size(), 2U);
}

TEST(PlaneFill, BadInputNamesTheMend) {
    EXPECT_FALSE(plane_fills({}, plume::Run()));
    const auto open = plane_fills({{circle(1), *line_between({0, 0, 0}, {1, 0, 0})}}, plume::Run());
    ASSERT_FALSE(open);
    EXPECT_NE(open.error().message.find("curve 1"), std::string::npos);
}

TEST(PatchEvaluator, AgreesWithDifferencesOnARationalPatch) {
    const SplinePatch patch = torus(5, 2);
    const PatchEvaluator evaluator(patch);
    const double u = patch.u().start() + 0.3 * (patch.u().end() - patch.u().start()),
                 v = patch.v().start() + 0.7 * (patch.v().end() - patch.v().start()), h = 1e-5;
    const SurfaceBend at = evaluator.bend_at(u, v);
    const auto slope = [&](double du, double dv) {
        const SurfacePoint next = evaluator.at(u + du, v + dv), back = evaluator.at(u - du, v - dv);
        return std::pair{(next.along_u - back.along_u) * (0.5 / h),
                         (next.along_v - back.along_v) * (0.5 / h)};
    };
    EXPECT_LT(length(at.bend_uu - slope(h, 0).first), 1e-6);
    EXPECT_LT(length(at.bend_uv - slope(0, h).first), 1e-6);
    EXPECT_LT(length(at.bend_vv - slope(0, h).second), 1e-6);
    // Of a torus one principal radius is that of its tube everywhere.
    const Bending curvatures = bending_of(at);
    EXPECT_NEAR(std::max(std::abs(curvatures.least()), std::abs(curvatures.most())), 0.5, 1e-12);
}

TEST(PatchEdit, PartsReversedSwappedAndIsoCurvesLieOnTheSurface) {
    const SplinePatch patch = torus(5, 2);
    const PatchEvaluator whole(patch);
    const double u0 = patch.u().start(), u1 = patch.u().end(), v0 = patch.v().start(), v1 = patch.v().end();
    const auto within = [](double a, double b, double share) { return a + (b - a) * share; };
    const SplinePatch part = part_of(part_of(patch, 0, within(u0, u1, 0.2), within(u0, u1, 0.7)), 1,
                                     within(v0, v1, 0.1), within(v0, v1, 0.35));
    const SplinePatch back = reversed(patch, 1), turned = swapped(patch);
    const PatchEvaluator in_part(part), in_back(back), in_turned(turned);
    for (const double a : {0.25, 0.5, 0.66})
        for (const double b : {0.12, 0.3}) {
            const double u = within(u0, u1, a), v = within(v0, v1, b);
            const Vec3 place = whole.at(u, v).position;
            EXPECT_LT(length(in_part.at(u, v).position - place), 1e-12);
            EXPECT_LT(length(in_back.at(u, v0 + v1 - v).position - place), 1e-12);
            EXPECT_LT(length(in_turned.at(v, u).position - place), 1e-12);
            EXPECT_LT(length(evaluate(iso_curve(patch, 0, v), u).position - place), 1e-12);
            EXPECT_LT(length(evaluate(iso_curve(patch, 1, u), v).position - place), 1e-12);
        }
}

TEST(ExtrudedBody, ATubeOfTwoCircles) {
    const auto fills = plane_fills({{circle(3), circle(2)}}, plume::Run());
    for (const double height : {5.0, -5.0}) {
        const auto body = extruded(fills->front(), {0, 0, height}, plume::Run());
        ASSERT_TRUE(body);
        EXPECT_TRUE(body->exact());
        EXPECT_EQ(body->face_count(), 4U);
        EXPECT_NEAR(body->figures().volume, 25 * pi, 1e-9);
        EXPECT_NEAR(body->figures().area, 10 * pi + 50 * pi, 1e-9);
        EXPECT_NEAR(body->figures().centroid.z, height / 2, 1e-10);
        expect_closed(*body, 2e-3);
    }
    // Leaning over it has the same volume.
    EXPECT_NEAR(extruded(fills->front(), {4, 1, 5}, plume::Run())->figures().volume, 25 * pi, 1e-9);
    EXPECT_FALSE(extruded(fills->front(), {4, 1, 0}, plume::Run()));
}

TEST(ExtrudedBody, ARoundedRectangleIsExact) {
    const auto fills = plane_fills({{rectangle(at_origin(), 6, 4, 1)}}, plume::Run());
    const auto body = extruded(fills->front(), {0, 0, 2}, plume::Run());
    EXPECT_NEAR(body->figures().volume, 2 * (24 - 4 + pi), 1e-9);
    expect_closed(*body, 2e-3);
}

TEST(Thickened, APlateACylinderASphereAndATorus) {
    const auto line = line_between({0, 0, 0}, {4, 0, 0});
    const auto plate =
        thickened(*extruded(*line, {0, 3, 0}), {offset_by(0.1), offset_by(0.2)}, 1e-6, plume::Run());
    ASSERT_TRUE(plate);
    EXPECT_EQ(plate->body.face_count(), 6U);
    EXPECT_NEAR(plate->body.figures().volume, 12 * 0.3, 1e-12);
    EXPECT_NEAR(plate->body.figures().area, 24 + 14 * 0.3, 1e-12);
    expect_closed(plate->body, 1e-12);

    const auto pipe =
        thickened(*extruded(circle(2), {0, 0, 5}), {offset_by(0.5), std::nullopt}, 1e-6, plume::Run());
    ASSERT_TRUE(pipe);
    EXPECT_EQ(pipe->body.face_count(), 4U);
    EXPECT_LT(pipe->deviation, 1e-12);
    EXPECT_NEAR(pipe->body.figures().volume, pi * (2.5 * 2.5 - 4) * 5, 1e-9);
    expect_closed(pipe->body, 2e-3);

    const auto shell = thickened(sphere(3), {offset_by(0.25), offset_by(0.25)}, 1e-6, plume::Run());
    ASSERT_TRUE(shell);
    EXPECT_EQ(shell->body.face_count(), 2U);
    EXPECT_NEAR(shell->body.figures().volume, 4 * pi / 3 * (std::pow(3.25, 3) - std::pow(2.75, 3)), 1e-5);
    expect_closed(shell->body, 5e-3);

    const auto ring = thickened(torus(5, 2), {offset_by(0.5), std::nullopt}, 1e-6, plume::Run());
    ASSERT_TRUE(ring);
    const double outer = std::abs(figures_of(torus(5, 2.5), {}, plume::Run())->volume),
                 inner = std::abs(figures_of(torus(5, 2), {}, plume::Run())->volume);
    const double other = std::abs(figures_of(torus(5, 1.5), {}, plume::Run())->volume);
    const double volume = ring->body.figures().volume;
    EXPECT_LT(std::min(std::abs(volume - (outer - inner)), std::abs(volume - (inner - other))), 1e-6);
    expect_closed(ring->body, 5e-3);
}

// No closed form: every place of the offset face stands off as far as it should.
TEST(Thickened, AWavedSurfaceIsTrueToItsTolerance) {
    const auto grid = test::grid(9, 7, [](double x, double y) { return std::sin(x) * std::cos(0.7 * y); });
    const SplinePatch patch = *interpolate_grid(grid, plume::Run());
    const auto made = offsets_of(patch, {offset_by(0.2)}, 2e-5, plume::Run());
    ASSERT_TRUE(made);
    EXPECT_LT(made->deviation, 2e-5);
    const PatchEvaluator surface(patch), offset(made->at.front());
    for (int at = 0; at < 400; ++at) {
        const auto share = [](int n) { return std::fmod(n * 0.6180339887, 1.0); };
        const double u = patch.u().start() + (patch.u().end() - patch.u().start()) * share(at),
                     v = patch.v().start() + (patch.v().end() - patch.v().start()) * share(7 * at + 3);
        const SurfacePoint p = surface.at(u, v);
        const Vec3 wanted = p.position + unit_or_zero(cross(p.along_u, p.along_v)) * 0.2;
        EXPECT_LT(length(offset.at(u, v).position - wanted), 4e-5);
    }
}

TEST(Thickened, CreasesAreMitred) {
    // Two slopes of a gable, each 3 m wide and 4 m long.
    const SplineCurve left = *line_between({0, 0, 0}, {0, 4, 0}), ridge = *line_between({2, 0, 2}, {2, 4, 2}),
                      right = *line_between({4, 0, 0}, {4, 4, 0});
    const SplinePatch gable = *lofted({{left, ridge, right}, false, false}, plume::Run());
    const auto made = thickened(gable, {offset_by(0.3), std::nullopt}, 1e-6, plume::Run());
    ASSERT_TRUE(made);
    // Each slope is a slab with one mitred end: the triangle at the ridge comes on top or is missing.
    const double slab = std::sqrt(8.0) * 4 * 0.3, corner = 0.3 * 0.3 / 2 * 4;
    const double volume = made->body.figures().volume;
    EXPECT_LT(std::min(std::abs(volume - 2 * (slab + corner)), std::abs(volume - 2 * (slab - corner))), 1e-6);
    expect_closed(made->body, 1e-6);
}

TEST(Thickened, AMeshKeepsItsDistanceAroundFlatCorners) {
    Mesh::Parts parts{
        Doubles{0, 4, 4, 0}, Doubles{0, 0, 3, 3}, Doubles{0, 0, 0, 0}, {0, 4}, {0, 1, 2, 3}, {}, {}};
    const Mesh sheet = *Mesh::make(std::move(parts));
    const auto body = thickened(sheet, Doubles(4, 0.1), Doubles(4, 0.2), plume::Run());
    ASSERT_TRUE(body);
    EXPECT_NEAR(body->figures().volume, 3.6, 1e-12);
    EXPECT_FALSE(thickened(sheet, Doubles(4, 0.0), Doubles(4, 0.0), plume::Run()));
}

Mesh box_mesh(Vec3 low, Vec3 high) {
    Doubles x, y, z;
    for (const double c : {low.z, high.z})
        for (const auto& [a, b] : {std::pair{low.x, low.y}, std::pair{high.x, low.y},
                                   std::pair{high.x, high.y}, std::pair{low.x, high.y}}) {
            x.push_back(a);
            y.push_back(b);
            z.push_back(c);
        }
    return *Mesh::make({x,
                        y,
                        z,
                        {0, 4, 8, 12, 16, 20, 24},
                        {3, 2, 1, 0, 4, 5, 6, 7, 0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6, 3, 0, 4, 7},
                        {},
                        {}});
}

SolidSet box(Vec3 low, Vec3 high) {
    return {{*meshed_body(box_mesh(low, high))}};
}

TEST(Bodies, OpenMeshesAreRefusedWithTheirEdges) {
    const Mesh whole = box_mesh({0, 0, 0}, {1, 2, 3});
    EXPECT_NEAR(meshed_body(whole)->figures().volume, 6, 1e-14);
    EXPECT_NEAR(meshed_body(whole)->figures().area, 22, 1e-14);
    EXPECT_NEAR(meshed_body(whole)->figures().centroid.y, 1, 1e-14);
    Mesh::Parts open{whole.x(),
                     whole.y(),
                     whole.z(),
                     {0, 4, 8, 12, 16, 20},
                     {3, 2, 1, 0, 4, 5, 6, 7, 0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6},
                     {},
                     {}};
    const Mesh five = *Mesh::make(std::move(open));
    EXPECT_EQ(open_edges(five).size(), 4U);
    const auto refused = meshed_body(five);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::has_gaps);
    EXPECT_NE(refused.error().message.find("4 edges"), std::string::npos);
    const auto closed = capped(five);
    ASSERT_TRUE(closed);
    EXPECT_NEAR(meshed_body(*closed)->figures().volume, 6, 1e-14);
}

TEST(Bodies, EveryPieceIsOneAndInnerShellsAreHollows) {
    const Mesh outer = box_mesh({0, 0, 0}, {4, 4, 4}), apart = box_mesh({6, 0, 0}, {7, 1, 1});
    const Value turned = *transformed(Value(box_mesh({1, 1, 1}, {2, 2, 2})), scaled_about({}, {1, 1, 1}));
    Mesh inner = std::get<Mesh>(turned);
    Mesh::Parts parts{inner.x(), inner.y(), inner.z(), {0}, {}, {}, {}};
    for (std::size_t face = 0; face < 6; ++face) {
        const auto corners = inner.face(face);
        parts.corners.insert(parts.corners.end(), corners.rbegin(), corners.rend());
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    inner = *Mesh::make(std::move(parts));
    const Value a(outer), b(inner), c(apart);
    const auto set = bodies_of(std::get<Mesh>(*joined_values({&a, &b, &c}, plume::Run())), plume::Run());
    ASSERT_TRUE(set);
    ASSERT_EQ(set->bodies.size(), 2U);
    EXPECT_NEAR(set->bodies[0].figures().volume, 63, 1e-12);
    EXPECT_NEAR(set->bodies[1].figures().volume, 1, 1e-12);
}

TEST(Bodies, MirroredTheyStayTurnedOutwards) {
    const auto fills = plane_fills({{circle(3), circle(2)}}, plume::Run());
    const Value tube(SolidSet{{*extruded(fills->front(), {0, 0, 5}, plume::Run())}});
    const auto mirrored = transformed(tube, scaled_about({}, {-2, 1, 1}));
    ASSERT_TRUE(mirrored);
    const Body& body = std::get<SolidSet>(*mirrored).bodies.front();
    EXPECT_NEAR(body.figures().volume, 50 * pi, 1e-8);
    expect_closed(body, 2e-3);
    EXPECT_NEAR(bounds_of(*mirrored).high.x, 6, 1e-9);
}

TEST(Combined, BoxesByInclusionAndExclusion) {
    const SolidSet a = box({0, 0, 0}, {2, 2, 2}), b = box({1, 1, 1}, {3, 3, 3});
    const auto volume = [&](Combination how) {
        const auto made = combined(a, b, how, 1000, plume::Run());
        return made ? figures_of(*made).volume : -1;
    };
    EXPECT_NEAR(volume(Combination::joined), 15, 1e-12);
    EXPECT_NEAR(volume(Combination::cut), 7, 1e-12);
    EXPECT_NEAR(volume(Combination::shared), 1, 1e-12);
    // Faces in one plane.
    const auto flush =
        combined(box({0, 0, 0}, {2, 2, 2}), box({2, 0, 0}, {3, 2, 2}), Combination::joined, 0, plume::Run());
    ASSERT_TRUE(flush);
    EXPECT_EQ(flush->bodies.size(), 1U);
    EXPECT_NEAR(figures_of(*flush).volume, 12, 1e-12);
    EXPECT_NEAR(figures_of(*flush).area, 32, 1e-12);
}

TEST(Combined, ApartGoneAndTouchingOnly) {
    const SolidSet a = box({0, 0, 0}, {2, 2, 2});
    EXPECT_EQ(combined(a, box({5, 0, 0}, {6, 1, 1}), Combination::joined, 0, plume::Run())->bodies.size(),
              2U);
    EXPECT_EQ(combined(a, box({-1, -1, -1}, {3, 3, 3}), Combination::cut, 0, plume::Run())->bodies.size(),
              0U);
    EXPECT_EQ(combined(a, box({5, 0, 0}, {6, 1, 1}), Combination::shared, 0, plume::Run())->bodies.size(),
              0U);
    const auto along_an_edge = combined(a, box({2, 2, 0}, {3, 3, 2}), Combination::joined, 0, plume::Run());
    if (along_an_edge) {
        EXPECT_NEAR(figures_of(*along_an_edge).volume, 10, 1e-12);
    }
    // A cut through the middle makes two.
    const auto halves = combined(a, box({0.5, -1, -1}, {1.5, 3, 3}), Combination::cut, 0, plume::Run());
    ASSERT_TRUE(halves);
    EXPECT_EQ(halves->bodies.size(), 2U);
    EXPECT_NEAR(figures_of(*halves).volume, 4, 1e-12);
}

TEST(Combined, FacesKnowWhatTheyComeFrom) {
    const auto made =
        combined(box({0, 0, 0}, {4, 4, 1}), box({1, 1, -1}, {2, 2, 2}), Combination::cut, 0, plume::Run());
    ASSERT_TRUE(made);
    const Mesh& mesh = made->bodies.front().mesh();
    ASSERT_EQ(mesh.fields().size(), 1U);
    EXPECT_EQ(mesh.fields().front().name, "operand");
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
        const Vec3 at = mesh.vertex(vertex);
        const bool on_rim = at.x >= 1 && at.x <= 2 && at.y >= 1 && at.y <= 2;
        const double operand = mesh.fields().front().values[vertex];
        EXPECT_EQ(operand > 0, on_rim) << at.x << ' ' << at.y << ' ' << at.z;
    }
}

TEST(Combined, BallsAgainstTheVolumeOfALens) {
    const auto ball = [](double x) {
        const SplinePatch patch = sphere(2);
        return std::get<SolidSet>(
            *transformed(Value(SolidSet{{*exact_body({patch}, plume::Run())}}), moved_by({x, 0, 0})));
    };
    const auto lens = combined(ball(0), ball(2), Combination::shared, 20'000, plume::Run());
    ASSERT_TRUE(lens);
    // Two caps of height 1 of a ball of radius 2.
    EXPECT_NEAR(figures_of(*lens).volume, 2 * pi / 3 * (3 * 2 - 1), 0.02);
    const double joined =
        figures_of(*combined(ball(0), ball(2), Combination::joined, 20'000, plume::Run())).volume;
    const double one =
        meshed_body(*closed_mesh(ball(0).bodies.front(), 20'000, plume::Run()))->figures().volume;
    EXPECT_NEAR(joined + figures_of(*lens).volume, 2 * one, 1e-9 * one);
}

TEST(Combined, PlanesCutInTwo) {
    const SolidSet a = box({0, 0, 0}, {2, 2, 2});
    const auto above = one_side_of(a, {0, 0, 0.5}, {0, 0, 1}, true, 0, plume::Run()),
               below = one_side_of(a, {0, 0, 0.5}, {0, 0, 1}, false, 0, plume::Run());
    ASSERT_TRUE(above && below);
    EXPECT_NEAR(figures_of(*above).volume, 6, 1e-12);
    EXPECT_NEAR(figures_of(*below).volume, 2, 1e-12);
    const auto slanted = one_side_of(a, {1, 1, 1}, {1, 1, 1}, true, 0, plume::Run());
    EXPECT_NEAR(figures_of(*slanted).volume, 4, 1e-12);
}

TEST(Combined, CanBeCancelled) {
    plume::Run run;
    run.cancel();
    const auto made =
        combined(box({0, 0, 0}, {2, 2, 2}), box({1, 1, 1}, {3, 3, 3}), Combination::cut, 0, run);
    ASSERT_FALSE(made);
    EXPECT_EQ(made.error().code, ErrorCode::cancelled);
}

SplineCurve polygon(const std::vector<Vec3>& corners) {
    return *curve_through({corners, {}, {}, true}, CurveShape::straight);
}

TEST(BlockBetween, AFrustumByEveryFace) {
    const SplineCurve low = polygon({{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {0, 4, 0}}),
                      high = polygon({{1, 1, 3}, {3, 1, 3}, {3, 3, 3}, {1, 3, 3}});
    const double volume = 3.0 / 3 * (16 + 4 + 8);
    for (const BlockFaces faces : {BlockFaces::flat, BlockFaces::centre, BlockFaces::smooth}) {
        const auto body = block_between(low, high, faces, plume::Run());
        ASSERT_TRUE(body) << body.error().message;
        EXPECT_NEAR(body->figures().volume, volume, 1e-9);
        expect_closed(*body, 1e-9);
    }
    const auto exact = block_between(low, high, BlockFaces::flat, plume::Run());
    EXPECT_EQ(exact->face_count(), 6U);
    // Upside down and the other way round it is the same.
    EXPECT_NEAR(block_between(high, low, BlockFaces::flat, plume::Run())->figures().volume, volume, 1e-9);
    EXPECT_NEAR(
        block_between(reversed(low), reversed(high), BlockFaces::flat, plume::Run())->figures().volume,
        volume, 1e-9);
}

TEST(BlockBetween, ADistortedRoof) {
    const SplineCurve low = polygon({{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {0, 4, 0}}),
                      high = polygon({{0, 0, 2}, {4, 0, 4}, {4, 4, 2}, {0, 4, 4}});
    const auto body = block_between(low, high, BlockFaces::centre, plume::Run());
    ASSERT_TRUE(body);
    EXPECT_NEAR(body->figures().volume, 16 * 3, 1e-9);
    EXPECT_EQ(body->face_count(), 4U + 1 + 4);
    // A rim that leans evenly has a flat skin.
    const SplineCurve leaning = polygon({{0, 0, 2}, {4, 0, 3}, {4, 4, 5}, {0, 4, 4}});
    EXPECT_NEAR(block_between(low, leaning, BlockFaces::smooth, plume::Run())->figures().volume, 16 * 3.5,
                1e-9);
    EXPECT_FALSE(block_between(low, high, BlockFaces::flat, plume::Run()));
}

TEST(BlockBetween, CirclesMakeACone) {
    const auto body = block_between(circle(2), circle(1, {0, 0, 3}), BlockFaces::flat, plume::Run());
    ASSERT_TRUE(body) << body.error().message;
    EXPECT_EQ(body->face_count(), 3U);
    EXPECT_NEAR(body->figures().volume, pi * 3 / 3 * (4 + 1 + 2), 1e-9);
    expect_closed(*body, 2e-3);
}

TEST(BlockBetween, BadInputNamesTheMend) {
    const SplineCurve low = polygon({{0, 0, 0}, {4, 0, 0}, {4, 4, 0}, {0, 4, 0}});
    EXPECT_EQ(
        block_between(low, *line_between({0, 0, 1}, {1, 0, 1}), BlockFaces::flat, plume::Run()).error().code,
        ErrorCode::has_gaps);
    EXPECT_FALSE(block_between(low, low, BlockFaces::flat, plume::Run()));
    // An L of which the middle does not see every side.
    const std::vector<Vec3> bent{{0, 0, 0}, {9, 0, 0}, {9, 1, 0}, {1, 1, 0}, {1, 9, 0}, {0, 9, 0}};
    std::vector<Vec3> raised = bent;
    for (std::size_t at = 0; at < raised.size(); ++at)
        raised[at].z = 3 + 0.5 * static_cast<double>(at % 3);
    const auto hidden = block_between(polygon(bent), polygon(raised), BlockFaces::centre, plume::Run());
    ASSERT_FALSE(hidden);
    EXPECT_NE(hidden.error().message.find("middle"), std::string::npos);
}

}  // namespace
}  // namespace plume
