// Levels of surfaces and meshes.

#include <benchmark/benchmark.h>

#include "bench_surfaces.hpp"
#include "core/geometry/levels/level_lines.hpp"
#include "core/geometry/levels/mesh_levels.hpp"

namespace plume {
namespace {

// True to 1e-6 of the size and joined.
void BM_Levels_100_of_100x100(benchmark::State& state) {
    const SplinePatch patch = bench::wavy(100), heights = heights_above(patch, {});
    std::vector<double> levels;
    for (int level = 0; level < 100; ++level)
        levels.push_back(-2.95 + 0.059 * level);
    double deviation = 0;
    std::size_t lines = 0;
    for (auto _ : state) {
        const auto made = level_lines(patch, heights, levels, 4.3e-5, Run());
        deviation = made->deviation;
        lines = made->lines.size();
    }
    state.counters["deviation"] = deviation;
    state.counters["lines"] = static_cast<double>(lines);
}
BENCHMARK(BM_Levels_100_of_100x100)->Unit(benchmark::kMillisecond)->UseRealTime();

// Waves of a million triangles.
Mesh million_triangles() {
    return bench::wave_triangles(708, 708, 0.05);
}
constexpr double lowest = -2.9985, level_spacing = 0.006;
constexpr int level_count = 1000;

void BM_Mesh_levels_1000_of_1M(benchmark::State& state) {
    const Mesh mesh = million_triangles();
    std::vector<double> levels;
    for (int level = 0; level < level_count; ++level)
        levels.push_back(lowest + level_spacing * level);
    std::size_t points = 0;
    for (auto _ : state)
        points = mesh_levels(mesh, mesh.z().span(), levels, Run())->points.size();
    state.counters["points"] = static_cast<double>(points);
}
BENCHMARK(BM_Mesh_levels_1000_of_1M)->Unit(benchmark::kMillisecond)->UseRealTime();

// The loop that joins nothing: two places for every level that passes a triangle.
void BM_Mesh_levels_1000_of_1M_bare_marching(benchmark::State& state) {
    const Mesh mesh = million_triangles();
    struct Piece {
        Vec3 from, to;
    };
    std::size_t count = 0;
    for (auto _ : state) {
        std::vector<std::vector<Piece>> pieces(level_count);
        for (std::size_t face = 0; face < mesh.face_count(); ++face) {
            const auto corners = mesh.face(face);
            const Vec3 at[3] = {mesh.vertex(corners[0]), mesh.vertex(corners[1]), mesh.vertex(corners[2])};
            const double low = std::min({at[0].z, at[1].z, at[2].z}),
                         high = std::max({at[0].z, at[1].z, at[2].z});
            const int first = std::max(0, static_cast<int>(std::ceil((low - lowest) / level_spacing)));
            for (int number = first; number < level_count && lowest + number * level_spacing < high;
                 ++number) {
                const double level = lowest + number * level_spacing;
                Vec3 ends[2];
                int found = 0;
                for (int edge = 0; edge < 3 && found < 2; ++edge) {
                    const Vec3 a = at[edge], b = at[(edge + 1) % 3];
                    if ((a.z < level) == (b.z < level)) continue;
                    ends[found++] = a + (b - a) * ((level - a.z) / (b.z - a.z));
                }
                if (found == 2) pieces[static_cast<std::size_t>(number)].push_back({ends[0], ends[1]});
            }
        }
        count = 0;
        for (const auto& level : pieces)
            count += level.size();
        benchmark::DoNotOptimize(pieces);
    }
    state.counters["pieces"] = static_cast<double>(count);
}
BENCHMARK(BM_Mesh_levels_1000_of_1M_bare_marching)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
