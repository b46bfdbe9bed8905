// Lines without what hides them: ours, and a geometry kernel's (OpenCASCADE 7.6) on the same facets.

#include <benchmark/benchmark.h>
#include <BRep_Builder.hxx>
#include <HLRAlgo_Projector.hxx>
#include <HLRBRep_PolyAlgo.hxx>
#include <HLRBRep_PolyHLRToShape.hxx>
#include <Poly_Triangulation.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Ax2.hxx>

#include <cmath>
#include <numbers>

#include "bench_sheet.hpp"
#include "core/geometry/views/hidden_lines.hpp"

namespace plume {
namespace {

// A hilly sheet of 100 by 200 quads, seen so flatly that hills hide others.
Mesh hills() {
    return sheet(101, 201, 0.2, [](std::uint32_t i, std::uint32_t j) {
        return 1.5 * std::sin(i * 0.25) * std::cos(j * 0.2);
    });
}

ViewFrame view_of(const benchmark::State& state) {
    return state.range(0) == 0 ? plan_view() : view_towards(0.5, 0.35);
}

// Every edge between facets, 40 000 of them; argument 0: in plan, 1: at an angle.
void BM_Hidden_lines_20k_facets(benchmark::State& state) {
    const Mesh mesh = hills();
    const std::vector<SeenThing> things{{&mesh, false, {}}};
    HiddenLineOptions options;
    options.crease_rad = 0;
    for (auto _ : state) {
        const auto pieces = seen_lines(things, view_of(state), options, Run());
        benchmark::DoNotOptimize(pieces);
    }
}
BENCHMARK(BM_Hidden_lines_20k_facets)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

// Outlines and rims alone, as of a smooth surface: what the kernel finds of one face.
void BM_Hidden_outlines_20k_facets(benchmark::State& state) {
    const Mesh mesh = hills();
    const std::vector<SeenThing> things{{&mesh, true, {}}};
    for (auto _ : state) {
        const auto pieces = seen_lines(things, view_of(state), {}, Run());
        benchmark::DoNotOptimize(pieces);
    }
}
BENCHMARK(BM_Hidden_outlines_20k_facets)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Hidden_outlines_20k_facets_by_kernel(benchmark::State& state) {
    const Mesh mesh = hills();
    Handle(Poly_Triangulation) facets = new Poly_Triangulation(
        static_cast<int>(mesh.vertex_count()), 2 * static_cast<int>(mesh.face_count()), false);
    for (std::size_t at = 0; at < mesh.vertex_count(); ++at) {
        const Vec3 place = mesh.vertex(at);
        facets->SetNode(static_cast<int>(at) + 1, gp_Pnt(place.x, place.y, place.z));
    }
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        const auto number = [&](std::size_t corner) { return static_cast<int>(corners[corner]) + 1; };
        facets->SetTriangle(static_cast<int>(2 * face) + 1, Poly_Triangle(number(0), number(1), number(2)));
        facets->SetTriangle(static_cast<int>(2 * face) + 2, Poly_Triangle(number(0), number(2), number(3)));
    }
    TopoDS_Face face;
    BRep_Builder().MakeFace(face, facets);
    const ViewFrame frame = view_of(state);
    const gp_Ax2 axes(gp_Pnt(), gp_Dir(-frame.away.x, -frame.away.y, -frame.away.z),
                      gp_Dir(frame.right.x, frame.right.y, frame.right.z));
    for (auto _ : state) {
        Handle(HLRBRep_PolyAlgo) algorithm = new HLRBRep_PolyAlgo();
        algorithm->Load(face);
        algorithm->Projector(HLRAlgo_Projector(axes));
        algorithm->Update();
        HLRBRep_PolyHLRToShape shapes;
        shapes.Update(algorithm);
        benchmark::DoNotOptimize(shapes.OutLineVCompound());
    }
}
BENCHMARK(BM_Hidden_outlines_20k_facets_by_kernel)
    ->Arg(0)
    ->Arg(1)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime();

}  // namespace
}  // namespace plume
