// Numbers of surfaces, distances to meshes, and what is mapped onto surfaces and into cells.

#include <benchmark/benchmark.h>
#include <tbb/global_control.h>

#include "bench_surfaces.hpp"
#include "core/geometry/meshes/cell_units.hpp"
#include "core/geometry/meshes/mesh_bending.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/surfaces/bending.hpp"
#include "core/geometry/surfaces/surface_map.hpp"
#include "core/steps/moves/moved_points.hpp"
#include "general_tree.hpp"

namespace plume {
namespace {

// At a million places of a smooth skin.
void BM_Curvature_1M_one_core(benchmark::State& state) {
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    const SplinePatch patch = bench::wavy(100);
    std::vector<double> u, v;
    for (int at = 0; at < 1000; ++at) {
        u.push_back(std::lerp(patch.u().start(), patch.u().end(), at / 999.0));
        v.push_back(std::lerp(patch.v().start(), patch.v().end(), at / 999.0));
    }
    std::vector<double> numbers(1'000'000);
    for (auto _ : state)
        visit_bends(
            patch, u, v,
            [&](std::size_t a, std::size_t b, const SurfaceBend& bend) {
                numbers[a + 1000 * b] = number_of(bending_of(bend), BendingNumber::gaussian);
            },
            Run());
    benchmark::DoNotOptimize(numbers.data());
}
BENCHMARK(BM_Curvature_1M_one_core)->Unit(benchmark::kMillisecond)->UseRealTime();

// 100 000 triangles of waves, and 100 000 places around them.
Mesh waves() {
    return bench::wave_triangles(251, 201, 0.2);
}

std::vector<Vec3> places_around() {
    std::vector<Vec3> places;
    for (int at = 0; at < 100'000; ++at) {
        const double a = at % 317 / 317.0, b = at / 317 / 316.0;
        places.push_back({50 * a, 40 * b, 4 * std::sin(31 * a + 17 * b)});
    }
    return places;
}

// With the building of the tree, on one thread.
void BM_Distances_100k_to_100k(benchmark::State& state) {
    const Mesh mesh = waves();
    const std::vector<Vec3> places = places_around();
    double sum = 0;
    for (auto _ : state) {
        const TriangleTree tree(mesh);
        sum = 0;
        std::size_t guess = 0;
        for (const Vec3 place : places) {
            const PlaceOnMesh found = tree.nearest(place, guess);
            guess = found.triangle;
            sum += found.distance;
        }
    }
    state.counters["sum"] = sum;
}
BENCHMARK(BM_Distances_100k_to_100k)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Distances_100k_to_100k_general_tree(benchmark::State& state) {
    const Mesh mesh = waves();
    const std::vector<Vec3> places = places_around();
    double sum = 0;
    for (auto _ : state)
        sum = bench::distances_by_general_tree(mesh, places);
    state.counters["sum"] = sum;
}
BENCHMARK(BM_Distances_100k_to_100k_general_tree)->Unit(benchmark::kMillisecond)->UseRealTime();

// A million places over a rectangle, some of them above it, by even parameters.
void BM_Map_1M_one_core(benchmark::State& state) {
    const SurfaceMap map(bench::wavy(100), {{}, 1, 1}, MapSteps::even_parameters, 1'000'000);
    double sum = 0;
    for (auto _ : state)
        for (int at = 0; at < 1'000'000; ++at) {
            const auto laid = map.laid({at % 1000 / 999.0, at / 1000 / 999.0, at % 7 * 0.01});
            sum += laid->place.z;
        }
    benchmark::DoNotOptimize(sum);
}
BENCHMARK(BM_Map_1M_one_core)->Unit(benchmark::kMillisecond)->UseRealTime();

// The same on all cores, as *Lay onto a surface* does it.
void BM_Map_1M(benchmark::State& state) {
    const SurfaceMap map(bench::wavy(100), {{}, 1, 1}, MapSteps::even_parameters, 1'000'000);
    Doubles x, y, z;
    for (int at = 0; at < 1'000'000; ++at) {
        x.push_back(at % 1000 / 999.0);
        y.push_back(at / 1000 / 999.0);
        z.push_back(at % 7 * 0.01);
    }
    const PointLattice points =
        *PointLattice::make({Arrangement::grid, {1000, 1000, 1}, {}, x, y, z, {}, {}});
    const PointMove move = [&](std::size_t, Vec3 place) -> std::optional<Vec3> {
        const auto laid = map.laid(place);
        return laid ? std::optional(laid->place) : std::nullopt;
    };
    double sum = 0;
    for (auto _ : state)
        sum += moved_or_gaps(points, move, Run())->points.z()[500'000];
    benchmark::DoNotOptimize(sum);
}
BENCHMARK(BM_Map_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// 200 triangles in each of 10 000 cells.
void BM_Unit_in_10000_cells(benchmark::State& state) {
    const Mesh mesh = bench::triangles_between(11, 11, [](std::uint32_t i, std::uint32_t j) {
        const double x = 0.1 * i, y = 0.1 * j;
        return Vec3{x, y, x * (1 - x) * y * (1 - y)};
    });
    const std::vector<CellUnit> units{{mesh, mesh.bounds()}};
    PointLattice::Parts points;
    points.counts = {101, 101, 1};
    Doubles u, v, w;
    for (int j = 0; j < 101; ++j)
        for (int i = 0; i < 101; ++i) {
            u.push_back(i);
            v.push_back(j);
            w.push_back(5 * std::sin(i / 9.0) * std::cos(j / 11.0));
        }
    points.x = std::move(u);
    points.y = std::move(v);
    points.z = std::move(w);
    const PointLattice ground = *PointLattice::make(std::move(points));
    std::size_t faces = 0;
    for (auto _ : state) {
        const auto cells = boxes_between(ground, lifted(ground, 0.5));
        faces =
            units_in_cells(units, *cells, std::vector<CellFill>(cells->boxes.size()), Run())->face_count();
    }
    state.counters["faces"] = static_cast<double>(faces);
}
BENCHMARK(BM_Unit_in_10000_cells)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
