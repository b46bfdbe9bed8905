// Sheets that fall: a 60th of a second of one that hangs, of one whose neighbours come near each other and of
// one that lies on itself, beside looking alone for what may meet, and beside the soft body of a general
// physics library that is stretched as little.

#include <benchmark/benchmark.h>

#include <cmath>
#include <numbers>

#include "core/geometry/meshes/vertex_places.hpp"
#include "core/sheets/falling_sheet.hpp"
#include "general_soft_body.hpp"

namespace {

using namespace plume;

constexpr double wide_m = 2;

// A square of so many vertices a side, rippled a little; of squares, or of them cut into triangles, which is
// stiffer against shear.
Mesh square_sheet(std::uint32_t side, bool cut) {
    const double edge = wide_m / side;
    Mesh::Parts parts;
    std::vector<Vec3> places;
    for (std::uint32_t j = 0; j < side; ++j)
        for (std::uint32_t i = 0; i < side; ++i)
            places.push_back({edge * i, edge * j, 1 + 1e-3 * std::sin(0.7 * i + 1.1 * j)});
    set_vertices(parts, places);
    for (std::uint32_t j = 0; j + 1 < side; ++j)
        for (std::uint32_t i = 0; i + 1 < side; ++i) {
            const std::uint32_t a = j * side + i;
            const auto add_face = [&](std::initializer_list<std::uint32_t> corners) {
                parts.corners.insert(parts.corners.end(), corners);
                parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
            };
            if (!cut) {
                add_face({a, a + 1, a + side + 1, a + side});
                continue;
            }
            add_face({a, a + 1, a + side + 1});
            add_face({a, a + side + 1, a + side});
        }
    return *Mesh::make(std::move(parts));
}

// Rolled up in a spiral, a little above a ground at 0.8 m, so that it falls on itself; no edge is stretched.
void roll_up(std::vector<Vec3>& places, std::uint32_t side) {
    const double first_m = 0.08, pitch_m = 0.012;
    double angle = 0, unrolled = 0;
    for (std::uint32_t column = 0; column < side; ++column) {
        const auto radius = [&] { return first_m + pitch_m * angle / (2 * std::numbers::pi); };
        for (constexpr double turn = 1e-4; unrolled < wide_m / side * column; angle += turn)
            unrolled += radius() * turn;
        for (std::size_t vertex = column; vertex < places.size(); vertex += side) {
            places[vertex].x = radius() * std::cos(angle);
            places[vertex].z = 0.95 + radius() * std::sin(angle);
        }
    }
}

// After so many seconds on its way; held at two corners, or rolled up above a ground.
struct OnItsWay {
    OnItsWay(bool hangs, std::uint32_t side, double seconds, bool cut = false)
        : mesh(square_sheet(side, cut)), sheet(*make_sheet(mesh, vertex_places(mesh), {})) {
        forces.thickness = (cut ? 0.25 : 0.2) * wide_m / side;
        if (!hangs) forces.ground = 0.8;
        state.at = vertex_places(mesh);
        if (!hangs) roll_up(state.at, side);
        state.speed.resize(state.at.size());
        holds.firmness.assign(state.at.size(), 0);
        if (hangs) holds.firmness[0] = holds.firmness[side - 1] = 1;
        holds.from = holds.to = state.at;
        FallingSheet falling(sheet, holds.from);
        falling.put_among(obstacle, forces);
        report = *falling.advance(state, holds, seconds, Run());
    }
    Mesh mesh;
    Sheet sheet;
    Obstacle obstacle;
    SheetForces forces;
    SheetState state;
    SheetHolds holds;
    SheetReport report;
};

void step(benchmark::State& state, const OnItsWay& way) {
    FallingSheet falling(way.sheet, way.holds.from);
    falling.put_among(way.obstacle, way.forces);
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
    step(state, OnItsWay(true, 100, 0.5));
}
BENCHMARK(BM_Sheets_10k_hanging_step)->Unit(benchmark::kMillisecond)->UseRealTime();

// Of triangles it folds as it falls past its corners, and neighbours come near each other.
void BM_Sheets_10k_folding_step(benchmark::State& state) {
    step(state, OnItsWay(true, 100, 1, true));
}
BENCHMARK(BM_Sheets_10k_folding_step)->Unit(benchmark::kMillisecond)->UseRealTime();

// What a library's soft body takes for the same, as many links, no bending, which it need not resist: by so
// many rounds a step that it is stretched no more than ours, or that it takes as long. 1600 leave it
// stretched several times as far, still; more would take minutes.
void library_step(benchmark::State& state, bool hangs, int rounds, int clusters) {
    constexpr std::uint32_t side = 100;
    const OnItsWay ours(hangs, side, 0.5);
    bench::SoftBodyWishes wishes{0.15, wide_m * wide_m, ours.forces.thickness, {}, rounds, clusters};
    wishes.ground = ours.forces.ground;
    if (hangs) wishes.held = {0, side - 1};
    Mesh::Parts parts = ours.mesh.parts();
    set_vertices(parts, ours.holds.from);
    bench::GeneralSoftBody body(*Mesh::make(std::move(parts)), wishes);
    for (int frame = 0; frame < 30; ++frame)
        body.step(1.0 / 60);
    state.counters["most_stretched"] = body.most_stretched();
    state.counters["ours"] = ours.report.most_stretched;
    for (auto _ : state)
        body.step(1.0 / 60);
}

void BM_Sheets_10k_library_hanging_step(benchmark::State& state) {
    library_step(state, true, static_cast<int>(state.range(0)), 0);
}
BENCHMARK(BM_Sheets_10k_library_hanging_step)
    ->Arg(100)
    ->Arg(1600)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(10);

void BM_Sheets_10k_library_on_itself_step(benchmark::State& state) {
    library_step(state, false, static_cast<int>(state.range(0)), 400);
}
BENCHMARK(BM_Sheets_10k_library_on_itself_step)
    ->Arg(100)
    ->Arg(400)
    ->Unit(benchmark::kMillisecond)
    ->UseRealTime()
    ->Iterations(10);

void BM_Sheets_100k_hanging_step(benchmark::State& state) {
    step(state, OnItsWay(true, 316, 0.1));
}
BENCHMARK(BM_Sheets_100k_hanging_step)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Sheets_10k_on_itself_step(benchmark::State& state) {
    step(state, OnItsWay(false, 100, 0.5));
}
BENCHMARK(BM_Sheets_10k_on_itself_step)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Sheets_10k_on_itself_look(benchmark::State& state) {
    const OnItsWay way(false, 100, 0.5);
    Contacts contacts(way.sheet, way.holds.from);
    contacts.stand_among(way.obstacle, way.forces.thickness);
    const std::vector<Vec3> nowhere(way.state.at.size());
    for (auto _ : state)
        benchmark::DoNotOptimize(contacts.look(way.state.at, nowhere, Run()));
}
BENCHMARK(BM_Sheets_10k_on_itself_look)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
