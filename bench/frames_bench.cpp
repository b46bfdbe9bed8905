// Frames: members over large lattices, their families, their solids.

#include <benchmark/benchmark.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

#include "core/geometry/frames/bar_bodies.hpp"
#include "core/geometry/frames/diagrid.hpp"
#include "core/geometry/frames/families.hpp"
#include "core/geometry/frames/frame_assembly.hpp"
#include "core/geometry/frames/lattice_members.hpp"
#include "core/geometry/meshes/packing.hpp"
#include "core/geometry/parts/subset.hpp"
#include "core/picture/drawable.hpp"
#include "general_nesting.hpp"

namespace plume {
namespace {

// Rings of a tube that waves, closed round.
PointLattice tube(std::size_t around, std::size_t rings) {
    std::vector<Vec3> places;
    places.reserve(around * rings);
    for (std::size_t ring = 0; ring < rings; ++ring)
        for (std::size_t at = 0; at < around; ++at) {
            const double turn = 2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(around);
            const double radius = 20 + std::sin(static_cast<double>(ring) * 0.05);
            places.push_back(
                {radius * std::cos(turn), radius * std::sin(turn), static_cast<double>(ring) * 0.1});
        }
    return points_at({Arrangement::grid, {around, rings, 1}, {true, false, false}}, places);
}

void BM_Diagrid_400x400_to_members(benchmark::State& state) {
    const PointLattice points = tube(800, 801);
    for (auto _ : state) {
        auto members = diagrid_members(points, {400, 400, 0, DiagridRings::none}, Run());
        benchmark::DoNotOptimize(assembled_frame({points, *std::move(members)}, Run()));
    }
}
BENCHMARK(BM_Diagrid_400x400_to_members)->Unit(benchmark::kMillisecond)->UseRealTime();

std::vector<double> million_lengths() {
    std::mt19937_64 random(5);
    std::uniform_real_distribution<double> length(1, 4);
    std::vector<double> lengths(1'000'000);
    for (double& one : lengths)
        one = length(random);
    return lengths;
}

void BM_Families_of_1M(benchmark::State& state) {
    const std::vector<double> lengths = million_lengths();
    for (auto _ : state)
        benchmark::DoNotOptimize(families_of(lengths, {}, 0.005));
}
BENCHMARK(BM_Families_of_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Sort_1M_numbers(benchmark::State& state) {
    const std::vector<double> lengths = million_lengths();
    for (auto _ : state) {
        std::vector<double> sorted = lengths;
        std::sort(sorted.begin(), sorted.end());
        benchmark::DoNotOptimize(sorted.data());
    }
}
BENCHMARK(BM_Sort_1M_numbers)->Unit(benchmark::kMillisecond)->UseRealTime();

void bars_to_triangles(benchmark::State& state, std::size_t around, std::size_t rings) {
    const PointLattice points = tube(around, rings);
    const BarFrame frame = *assembled_frame({points, members_of(points, {})->members}, Run());
    const BarPlan plan{[](std::size_t) {
                           return BarSection{SectionShape::rectangle, 0.05, 0.1};
                       },
                       [](std::size_t) {
                           return Vec3{0, 0, 1};
                       },
                       [](std::size_t) { return 0.0; }};
    for (auto _ : state) {
        const auto made = bar_bodies(frame, plan, Run());
        benchmark::DoNotOptimize(make_drawable(made->mesh, {}, Run()));
    }
    state.counters["bars"] = static_cast<double>(frame.member_count());
}
void BM_Bars_100k_to_triangles(benchmark::State& state) {
    bars_to_triangles(state, 250, 201);
}
BENCHMARK(BM_Bars_100k_to_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();
void BM_Bars_5k_to_triangles(benchmark::State& state) {
    bars_to_triangles(state, 50, 51);
}
BENCHMARK(BM_Bars_5k_to_triangles)->Unit(benchmark::kMillisecond)->UseRealTime();

// Quadrangles of 40 cm, each a little different.
std::vector<std::vector<FlatPoint>> quadrangles(std::size_t count) {
    std::mt19937_64 random(5);
    std::uniform_real_distribution<double> off(0, 0.04);
    std::vector<std::vector<FlatPoint>> outlines;
    for (std::size_t at = 0; at < count; ++at)
        outlines.push_back({{off(random), off(random)},
                            {0.4 - off(random), off(random)},
                            {0.4 - off(random), 0.4 - off(random)},
                            {off(random), 0.4 - off(random)}});
    return outlines;
}
constexpr StockSheet board{1.25, 2.5, 0, 0.01};

void BM_200_panels_on_sheets(benchmark::State& state) {
    const auto outlines = quadrangles(200);
    const double quarters[] = {0, std::numbers::pi / 2, std::numbers::pi, 3 * std::numbers::pi / 2};
    for (auto _ : state)
        state.counters["sheets"] = static_cast<double>(packed(outlines, quarters, board, Run())->sheet_count);
}
BENCHMARK(BM_200_panels_on_sheets)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_200_panels_on_sheets_general(benchmark::State& state) {
    const auto outlines = quadrangles(200);
    for (auto _ : state)
        state.counters["sheets"] = static_cast<double>(bench::sheets_by_general_nesting(outlines, board));
}
BENCHMARK(BM_200_panels_on_sheets_general)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
