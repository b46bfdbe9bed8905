// The same work done by a geometry kernel (OpenCASCADE 7.6): baselines of what bodies_bench.cpp measures.

#include <benchmark/benchmark.h>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Wire.hxx>

#include "bench_surfaces.hpp"
#include "kernel/kernel_geometry.hpp"

namespace plume {
namespace {

void BM_Loft_20_curves_of_200_poles_by_kernel(benchmark::State& state) {
    std::vector<TopoDS_Wire> wires;
    for (const SplineCurve& section : bench::waves_of_200_poles())
        wires.push_back(
            BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(test::kernel_curve(section)).Edge()).Wire());
    for (auto _ : state) {
        BRepOffsetAPI_ThruSections through(false, false);
        through.CheckCompatibility(false);
        for (const TopoDS_Wire& wire : wires)
            through.AddWire(wire);
        through.Build();
        benchmark::DoNotOptimize(through.Shape());
    }
}
BENCHMARK(BM_Loft_20_curves_of_200_poles_by_kernel)->Unit(benchmark::kMillisecond)->UseRealTime();

// A thousandth of the places.
void BM_Nearest_100_by_kernel(benchmark::State& state) {
    const SplinePatch patch = bench::wavy(100);
    const Handle(Geom_BSplineSurface) surface = test::kernel_surface(patch);
    const std::vector<Vec3> places = bench::strewn(patch, 100);
    for (auto _ : state) {
        double sum = 0;
        GeomAPI_ProjectPointOnSurf projection;
        projection.Init(gp_Pnt(), surface, 1e-9);
        for (const Vec3 place : places) {
            projection.Perform(gp_Pnt(place.x, place.y, place.z));
            if (projection.NbPoints() > 0) sum += projection.LowerDistance();
        }
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(BM_Nearest_100_by_kernel)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace plume
