// Milling: a board that is cut by many moves, and paths over a relief; panels that are cut flat.

#include <benchmark/benchmark.h>

#include <cmath>

#include "core/milling/flat_cutting.hpp"
#include "core/milling/flat_rehearsal.hpp"
#include "core/milling/milling_paths.hpp"
#include "core/milling/rehearsal.hpp"
#include "milled_board.hpp"

namespace plume {
namespace {

// Of 2000 by 1000 cells of 1.2 mm; argument: 0 flat, 1 ball, 2 rounded, of 12 mm.
void BM_Rehearsal_200k_moves(benchmark::State& state) {
    const Cutter cutter = state.range(0) == 0   ? Cutter::flat(6)
                          : state.range(0) == 1 ? Cutter::ball(6)
                                                : Cutter{6, 2};
    const ToolPath path = bench::short_cuts();
    const Mesh form = bench::relief();
    RehearsalJob job{&form, bench::milled_board, {cutter}};
    for (auto _ : state) {
        const auto made = rehearsed(path, job, Run());
        benchmark::DoNotOptimize(made);
    }
}
BENCHMARK(BM_Rehearsal_200k_moves)->Arg(0)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

// By a ball of 12 mm, 1.5 mm apart; argument 1: roughed before, by a flat cutter of 20 mm.
void BM_Paths_over_a_relief(benchmark::State& state) {
    const Mesh form = bench::relief();
    MillingJob job;
    job.form = &form;
    job.cutter = Cutter::ball(6);
    job.apart = 1.5;
    if (state.range(0) == 1) job.roughing = Roughing{Cutter::flat(10), 12, 12, 0.5};
    std::size_t moves = 0;
    for (auto _ : state) {
        const auto made = milling_paths(job, Run());
        moves = made->path.moves.size();
    }
    state.counters["moves"] = static_cast<double>(moves);
}
BENCHMARK(BM_Paths_over_a_relief)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond)->UseRealTime();

// So many panels with an opening of 60 corners each on one sheet.
std::vector<FlatSheet> panels(int count) {
    FlatLines lines;
    const int row = static_cast<int>(std::sqrt(count));
    for (int panel = 0; panel < count; ++panel) {
        const double x = 120.0 * (panel % row), y = 120.0 * std::floor(panel / row);
        lines.cuts.push_back({{{x, y}, {x + 100, y}, {x + 100, y + 100}, {x, y + 100}}, true});
        FlatLine& opening = lines.cuts.emplace_back();
        opening.closed = true;
        for (int corner = 0; corner < 60; ++corner)
            opening.places.push_back(
                {x + 50 + 30 * std::cos(corner * 0.10472), y + 50 + 30 * std::sin(corner * 0.10472)});
    }
    return *flat_sheets(std::move(lines), 20, Run());
}
FlatTool beam() {
    FlatTool tool;
    tool.kerf = 0.3;
    tool.lead_in = 5;
    tool.power = 1000;
    return tool;
}

void BM_Flat_cutting_of_panels(benchmark::State& state) {
    const auto sheets = panels(static_cast<int>(state.range(0)));
    std::size_t moves = 0;
    for (auto _ : state) {
        const auto made = flat_cuts(sheets, beam(), Run());
        moves = made->path.moves.size();
    }
    state.counters["moves"] = static_cast<double>(moves);
}
BENCHMARK(BM_Flat_cutting_of_panels)->Arg(1000)->Arg(10000)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Flat_rehearsal_of_panels(benchmark::State& state) {
    const auto sheets = panels(static_cast<int>(state.range(0)));
    const auto made = flat_cuts(sheets, beam(), Run());
    FlatRehearsalJob job;
    job.sheets = sheets;
    job.kerf = 0.3;
    for (auto _ : state)
        benchmark::DoNotOptimize(flat_rehearsed(made->path, job, Run()));
}
BENCHMARK(BM_Flat_rehearsal_of_panels)->Arg(1000)->Arg(10000)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
