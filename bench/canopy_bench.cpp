// Times of the canopy, each beside a baseline measured in the same run. `scripts/bench` prints the ratios.

#include <benchmark/benchmark.h>

#include <cmath>
#include <cstring>

#include "core/evaluation/evaluator.hpp"
#include "core/exchange/study_file.hpp"
#include "core/geometry/moves/push.hpp"
#include "core/geometry/numbers/distance.hpp"
#include "core/geometry/numbers/range.hpp"
#include "core/geometry/surfaces/spline_interpolation.hpp"
#include "core/geometry/surfaces/surface_sampling.hpp"
#include "core/picture/drawable.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"

namespace plume {
namespace {

StudyPointer canopy_of(const char* bays_i, const char* bays_j, bool skin) {
    StudyPointer study = *load_study(std::string(PLUME_BENCH_STUDIES) + "/canopy.plume");
    study = *set_slot(*study, study->step("ground")->id, "columns", NumberText{bays_i});
    study = *set_slot(*study, study->step("ground")->id, "rows", NumberText{bays_j});
    if (!skin) study = *remove_items(*study, {study->step("canopy")->id}, true);
    return study;
}

// One perch a little further on every time, as while dragging: nothing but the lattice comes from the cache.
StudyPointer dragged(const StudyPointer& study, int round) {
    const double x = -8 + 0.001 * (round % 4000);
    return *move_place(*study, standard_catalogue(), study->step("perches")->id, "places", 0, {x, -4, 0});
}

void drag(benchmark::State& state, const StudyPointer& start, bool skin) {
    ResultStore cache(skin ? 1'000'000'000 : 200'000'000);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = &cache;
    evaluate(start, plan, Run());
    int round = 0;
    for (auto _ : state) {
        const Evaluation evaluation = evaluate(dragged(start, ++round), plan, Run());
        if (evaluation.problem_count() > 0) state.SkipWithError("the study has errors");
        if (skin) benchmark::DoNotOptimize(make_drawable(*evaluation.outcome("canopy")->value, {}, Run()));
    }
}

void BM_DragPerch_24x16_skin_and_triangles(benchmark::State& state) {
    drag(state, canopy_of("24", "16", true), true);
}
BENCHMARK(BM_DragPerch_24x16_skin_and_triangles)->Unit(benchmark::kMillisecond);

void BM_DragPerch_1000x1000_points(benchmark::State& state) {
    drag(state, canopy_of("1000", "1000", false), false);
}
BENCHMARK(BM_DragPerch_1000x1000_points)->Unit(benchmark::kMillisecond);

// A million points: what computing them takes, and what making them ready to be seen takes on top.
void BM_MillionPoints_computed(benchmark::State& state) {
    const StudyPointer study = canopy_of("1000", "1000", true);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    for (auto _ : state)
        benchmark::DoNotOptimize(evaluate(study, plan, Run()).outcomes.size());
}
BENCHMARK(BM_MillionPoints_computed)->Unit(benchmark::kMillisecond);

void BM_MillionPoints_computed_and_ready_to_draw(benchmark::State& state) {
    const StudyPointer study = canopy_of("1000", "1000", true);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    for (auto _ : state) {
        const Evaluation evaluation = evaluate(study, plan, Run());
        const auto drawable = make_drawable(*evaluation.outcome("canopy")->value, {}, Run());
        state.counters["megabytes"] =
            static_cast<double>(
                drawable->vertices.size() * sizeof(DrawVertex) +
                (drawable->triangles.size() + drawable->coarse.size() + drawable->edges.size()) * 4) /
            1e6;
    }
}
BENCHMARK(BM_MillionPoints_computed_and_ready_to_draw)->Unit(benchmark::kMillisecond);

// The baseline of the next: the coordinates of 1001 x 1001 points, copied eight times.
void BM_CopyPointsEightTimes_1000x1000(benchmark::State& state) {
    const std::size_t bytes = 1001 * 1001 * 3 * sizeof(double);
    std::vector<char> from(bytes, 1), to(bytes, 2);
    for (auto _ : state)
        for (int copy = 0; copy < 8; ++copy) {
            std::memcpy(to.data(), from.data(), bytes);
            benchmark::DoNotOptimize(to.data());
            benchmark::ClobberMemory();
        }
}
BENCHMARK(BM_CopyPointsEightTimes_1000x1000)->Unit(benchmark::kMillisecond);

PointLattice lattice_of_bays(std::size_t bays) {
    const std::size_t n = bays + 1;
    Doubles x(n * n), y(n * n), z(n * n);
    for (std::size_t index = 0; index < n * n; ++index) {
        x[index] = static_cast<double>(index % n) * 36 / static_cast<double>(bays);
        y[index] = static_cast<double>(index / n) * 24 / static_cast<double>(bays);
        z[index] = std::sin(x[index]) * std::cos(y[index]);
    }
    PointLattice::Parts parts;
    parts.counts = {n, n, 1};
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

void BM_PushPipeline_1000x1000(benchmark::State& state) {
    const PointLattice lattice = lattice_of_bays(1000);
    const Attractors attractors = *Attractors::make({{"a", {8, 8, 0}, 1}, {"b", {26, 15, 0}, 1}});
    const DistanceRule rule{Combination::nearest, Response::half_sine, 14};
    for (auto _ : state) {
        const Field field = *distance_field(lattice, attractors, rule, Run());
        const Range range = *own_range(lattice, field.values, Run());
        const Column rise = *brought_to_range(field.values, range, {0, 3.2}, true, Run());
        benchmark::DoNotOptimize(pushed(lattice, rise, 1, PushDirection::along_z, Run()));
    }
}
BENCHMARK(BM_PushPipeline_1000x1000)->Unit(benchmark::kMillisecond);

void BM_SmoothSkin_100x100_points(benchmark::State& state) {
    const PointLattice lattice = lattice_of_bays(99);
    double deviation = 0;
    for (auto _ : state)
        benchmark::DoNotOptimize(interpolate_grid(lattice, Run()));
    const SplinePatch patch = *interpolate_grid(lattice, Run());
    const SurfaceSamples samples = *sample(patch, 1, Run());
    for (std::size_t index = 0; index < lattice.address_count(); ++index)
        deviation = std::max(deviation, length(Vec3{samples.x[index], samples.y[index], samples.z[index]} -
                                               lattice.point(index)));
    state.counters["deviation_of_size"] = deviation / lattice.bounds().diagonal();
}
BENCHMARK(BM_SmoothSkin_100x100_points)->Unit(benchmark::kMillisecond);

void BM_CachedEvaluationAfterUndo(benchmark::State& state) {
    ResultStore cache(1'000'000'000);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = &cache;
    const StudyPointer before = canopy_of("24", "16", true), after = dragged(before, 100);
    evaluate(before, plan, Run());
    evaluate(after, plan, Run());
    for (auto _ : state)
        benchmark::DoNotOptimize(evaluate(before, plan, Run()));
}
BENCHMARK(BM_CachedEvaluationAfterUndo)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace plume

BENCHMARK_MAIN();
