// Sheets that fall: a 60th of a second of one that hangs and of one that lies on itself, beside looking alone
// for what may meet.

#include <benchmark/benchmark.h>

#include <cmath>

#include "core/geometry/meshes/vertex_places.hpp"
#include "core/sheets/falling_sheet.hpp"

namespace {

using namespace plume;

// A square of 100 by 100 vertices, 2 m wide, rippled a little.
Mesh square_sheet() {
    constexpr std::uint32_t side = 100;
    Mesh::Parts parts;
    std::vector<Vec3> places;
    for (std::uint32_t j = 0; j < side; ++j)
        for (std::uint32_t i = 0; i < side; ++i)
            places.push_back({0.02 * i, 0.02 * j, 1 + 1e-3 * std::sin(0.7 * i + 1.1 * j)});
    set_vertices(parts, places);
    for (std::uint32_t j = 0; j + 1 < side; ++j)
        for (std::uint32_t i = 0; i + 1 < side; ++i) {
            const std::uint32_t a = j * side + i;
            parts.corners.insert(parts.corners.end(), {a, a + 1, a + side + 1, a + side});
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    return *Mesh::make(std::move(parts));
}

// After so many seconds on its way; held at two corners, or nowhere above a ground.
struct OnItsWay {
    explicit OnItsWay(bool hangs, double seconds)
        : mesh(square_sheet()), sheet(*make_sheet(mesh, vertex_places(mesh), {})) {
        forces.thickness = 4e-3;
        if (!hangs) forces.ground = 0.8;
        state.at = vertex_places(mesh);
        if (!hangs)  // rolled up, so that it falls on itself
            for (Vec3& at : state.at)
                at = {0.15 * std::cos(8 * at.x) * (1 + 0.2 * at.x), at.y,
                      1.2 + 0.15 * std::sin(8 * at.x) * (1 + 0.2 * at.x)};
        state.speed.resize(state.at.size());
        holds.firmness.assign(state.at.size(), 0);
        if (hangs) holds.firmness[0] = holds.firmness[99] = 1;
        holds.from = holds.to = state.at;
        (void)FallingSheet(sheet, obstacle, forces).advance(state, holds, seconds, Run());
    }
    Mesh mesh;
    Sheet sheet;
    Obstacle obstacle;
    SheetForces forces;
    SheetState state;
    SheetHolds holds;
};

void step(benchmark::State& state, bool hangs) {
    const OnItsWay way(hangs, 0.1);
    FallingSheet falling(way.sheet, way.obstacle, way.forces);
    double stretched = 0, touching = 0;
    for (auto _ : state) {
        SheetState now = way.state;
        const auto report = falling.advance(now, way.holds, 1.0 / 60, Run());
        stretched = report->most_stretched;
        touching = static_cast<double>(report->touching);
    }
    state.counters["most_stretched"] = stretched;
    state.counters["touching"] = touching;
}

void BM_Sheets_10k_hanging_step(benchmark::State& state) {
    step(state, true);
}
BENCHMARK(BM_Sheets_10k_hanging_step)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Sheets_10k_on_itself_step(benchmark::State& state) {
    step(state, false);
}
BENCHMARK(BM_Sheets_10k_on_itself_step)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Sheets_10k_on_itself_look(benchmark::State& state) {
    const OnItsWay way(false, 0.1);
    Contacts contacts(way.sheet, way.obstacle, way.forces.thickness);
    const std::vector<Vec3> nowhere(way.state.at.size());
    for (auto _ : state)
        benchmark::DoNotOptimize(contacts.look(way.state.at, nowhere, Run()));
}
BENCHMARK(BM_Sheets_10k_on_itself_look)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
