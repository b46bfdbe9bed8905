// Our evaluations, lengths, areas, volumes, curvatures and nearest places against those of a geometry kernel.

#include <gtest/gtest.h>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepGProp.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_IntSS.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomLProp_SLProps.hxx>
#include <Geom_Plane.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <cmath>
#include <numbers>
#include <random>

#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/curves/held_curve.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"
#include "core/geometry/levels/contours.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/surfaces/round_surfaces.hpp"
#include "core/surfaces/wavy_surface.hpp"
#include "kernel/kernel_geometry.hpp"

namespace plume {
namespace {

using test::kernel_curve;
using test::kernel_surface;
using test::wavy;

Vec3 vec(const gp_Pnt& p) {
    return {p.X(), p.Y(), p.Z()};
}
Vec3 vec(const gp_Vec& v) {
    return {v.X(), v.Y(), v.Z()};
}

std::vector<SplinePatch> patches() {
    return {wavy(17), test::sphere(3), test::torus(3, 1)};
}

std::vector<SplineCurve> curves() {
    std::vector<Vec3> places;
    for (int at = 0; at < 12; ++at)
        places.push_back({at * 1.5, std::sin(at * 0.9) * 2, std::cos(at * 0.4)});
    CurvePoints round{places, {}, {}, true};
    return {*curve_through({places, {}, {}, false}, CurveShape::smooth),
            *curve_through(round, CurveShape::smooth),
            *curve_held_by({places, {1, 2, 1, 0.5, 1, 3, 1, 1, 0.2, 1, 1, 1}, {}, 4, false}),
            ellipse(placement_of({1, 2, 3}, {0, 1, 1}, {1, 0, 0}), 3, 1)};
}

TEST(Kernel, CurvesAgreeWithTheirDerivativesAndLengths) {
    for (const SplineCurve& curve : curves()) {
        const Handle(Geom_BSplineCurve) other = kernel_curve(curve);
        for (int step = 0; step <= 100; ++step) {
            const double t = std::lerp(curve.basis().start(), curve.basis().end(), step / 100.0);
            gp_Pnt place;
            gp_Vec along, bend;
            other->D2(t, place, along, bend);
            const CurveBend at = evaluate_bend(curve, t);
            EXPECT_LT(length(at.position - vec(place)), 1e-12);
            EXPECT_LT(length(at.along - vec(along)), 1e-10 * (1 + length(at.along)));
            EXPECT_LT(length(at.bend - vec(bend)), 1e-8 * (1 + length(at.bend)));
        }
        GeomAdaptor_Curve adaptor(other);
        EXPECT_NEAR(length_of(curve), GCPnts_AbscissaPoint::Length(adaptor, 1e-12), 1e-8);
    }
}

TEST(Kernel, PatchesAgreeWithTheirDerivativesCurvaturesAndAreas) {
    for (const SplinePatch& patch : patches()) {
        const Handle(Geom_BSplineSurface) other = kernel_surface(patch);
        const PatchEvaluator evaluator(patch);
        for (int step = 0; step < 200; ++step) {
            const double share_u = std::fmod(0.37 + step * 0.6180339887, 1.0),
                         share_v = std::fmod(0.21 + step * 0.7548776662, 1.0);
            const double u = std::lerp(patch.u().start(), patch.u().end(), share_u),
                         v = std::lerp(patch.v().start(), patch.v().end(), share_v);
            gp_Pnt place;
            gp_Vec along_u, along_v;
            other->D1(u, v, place, along_u, along_v);
            const SurfaceBend at = evaluator.bend_at(u, v);
            EXPECT_LT(length(at.point.position - vec(place)), 1e-12);
            EXPECT_LT(length(at.point.along_u - vec(along_u)), 1e-10);
            EXPECT_LT(length(at.point.along_v - vec(along_v)), 1e-10);
            GeomLProp_SLProps properties(other, u, v, 2, 1e-9);
            if (!properties.IsCurvatureDefined()) continue;
            const Bending curvatures = bending_of(at);
            EXPECT_NEAR(curvatures.least(), properties.MinCurvature(), 1e-8);
            EXPECT_NEAR(curvatures.most(), properties.MaxCurvature(), 1e-8);
        }
        GProp_GProps figures;
        BRepGProp::SurfaceProperties(BRepBuilderAPI_MakeFace(other, 1e-7).Shape(), figures, 1e-9);
        EXPECT_NEAR(*area_of({{patch}}, plume::Run()), figures.Mass(), 1e-7 * figures.Mass());
    }
}

TEST(Kernel, NearestPlacesAgree) {
    const SplinePatch patch = wavy(17);
    const Handle(Geom_BSplineSurface) other = kernel_surface(patch);
    const SurfaceSearch search(patch);
    std::mt19937 random(3);
    std::uniform_real_distribution<double> x(-2, 38), y(-2, 26), z(-5, 5);
    for (int step = 0; step < 60; ++step) {
        const Vec3 from{x(random), y(random), z(random)};
        // The kernel looks for places where the way is square to the surface, not for those on its rims.
        GeomAPI_ProjectPointOnSurf projected(gp_Pnt(from.x, from.y, from.z), other);
        const double ours = search.nearest(from).distance;
        if (projected.NbPoints() == 0) continue;
        EXPECT_LE(ours, projected.LowerDistance() + 1e-9);
        const PlaceOnSurface found = search.nearest(from);
        const bool inside = found.u > patch.u().start() && found.u < patch.u().end() &&
                            found.v > patch.v().start() && found.v < patch.v().end();
        if (inside) {
            EXPECT_NEAR(ours, projected.LowerDistance(), 1e-7);
        }
    }
}

TEST(Kernel, SectionsAgree) {
    struct Cut {
        SplinePatch patch;
        Placement plane;
    };
    const std::vector<Cut> cuts{{wavy(9), placement_of({18, 12, 0.1}, {0, 0, 1}, {1, 0, 0})},
                                {wavy(9), placement_of({15, 11, 0}, {1, 0.4, 0.2}, {0, 1, 0})},
                                {test::torus(3, 1), placement_of({0.2, 0, 0.1}, {0.3, 0.1, 1}, {1, 0, 0})}};
    for (const Cut& cut : cuts) {
        const auto form = heights_of(Value(SurfaceSet{{cut.patch}}), cut.plane, plume::Run());
        ASSERT_TRUE(form);
        constexpr double level = 0;
        const auto ours = contours_of(*form, std::span(&level, 1), {}, plume::Run());
        ASSERT_TRUE(ours);
        double our_length = 0;
        for (const Contour& line : ours->lines)
            our_length += length_of(line.curve);
        const Vec3 at = cut.plane.origin, up = cut.plane.up;
        const Handle(Geom_Plane) plane = new Geom_Plane(gp_Pnt(at.x, at.y, at.z), gp_Dir(up.x, up.y, up.z));
        GeomAPI_IntSS theirs(kernel_surface(cut.patch), plane, 1e-7);
        ASSERT_TRUE(theirs.IsDone());
        ASSERT_GT(theirs.NbLines(), 0);
        double their_length = 0, worst = 0;
        for (int number = 1; number <= theirs.NbLines(); ++number) {
            const GeomAdaptor_Curve line(theirs.Line(number));
            their_length += GCPnts_AbscissaPoint::Length(line, 1e-8);
            for (int step = 0; step <= 50; ++step) {
                const Vec3 place =
                    vec(line.Value(std::lerp(line.FirstParameter(), line.LastParameter(), step / 50.0)));
                double nearest = Box::infinite;
                for (const Contour& one : ours->lines)
                    nearest = std::min(nearest, NearestOnCurve(one.curve).nearest(place).distance);
                worst = std::max(worst, nearest);
            }
        }
        // The kernel walks along the lines and smooths what it finds.
        EXPECT_LT(worst, 1e-4);
        EXPECT_NEAR(our_length, their_length, 1e-4 * their_length);
    }
}

// All faces of an exact body, sewn to a solid.
double kernel_volume(const Body& body) {
    BRepBuilderAPI_Sewing sewing(1e-4);
    for (const SplinePatch& face : body.patches())
        sewing.Add(BRepBuilderAPI_MakeFace(kernel_surface(face), 1e-7).Shape());
    sewing.Perform();
    double volume = 0;
    for (TopExp_Explorer shell(sewing.SewedShape(), TopAbs_SHELL); shell.More(); shell.Next()) {
        GProp_GProps figures;
        BRepGProp::VolumeProperties(BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Current())).Shape(), figures,
                                    1e-9);
        volume += std::abs(figures.Mass());
    }
    return volume;
}

TEST(Kernel, VolumesOfThickenedSurfacesAgree) {
    const auto body = thickened(wavy(17), {offset_by(0.1), offset_by(0.1)}, 1e-5, plume::Run());
    ASSERT_TRUE(body);
    const double ours = figures_of(SolidSet{{body->body}}).volume;
    EXPECT_NEAR(ours, kernel_volume(body->body), 1e-5 * ours);
}

}  // namespace
}  // namespace plume
