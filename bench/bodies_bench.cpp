// Times of surfaces and bodies: evaluating, spanning, thickening, joining, and the whole of a roof.

#include <benchmark/benchmark.h>

#include <cmath>

#include "bench_surfaces.hpp"
#include "core/evaluation/evaluator.hpp"
#include "core/exchange/study_file.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/combined.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/surface_search.hpp"
#include "core/results/presentation.hpp"
#include "core/steps/catalogue.hpp"
#include "dragged_studies.hpp"

namespace plume {
namespace {

using bench::share_of, bench::strewn, bench::wavy, bench::waves_of_200_poles;

constexpr std::size_t million = 1'000'000;

// Strewn over a patch of so many nodes along each side; whether it is known beforehand that they are so many.
void BM_Patch_1M_points_and_derivatives(benchmark::State& state) {
    const SplinePatch patch = wavy(static_cast<std::size_t>(state.range(0)));
    const PatchEvaluator evaluator(patch, state.range(1) != 0 ? million : 0);
    std::vector<double> u, v;
    for (std::size_t at = 0; at < million; ++at) {
        u.push_back(patch.u().end() * share_of(at, 0.6180339887));
        v.push_back(patch.v().end() * share_of(at, 0.7548776662));
    }
    // So many at a time that they are used before they leave the cache.
    constexpr std::size_t block = 1000;
    std::vector<SurfacePoint> points(block);
    for (auto _ : state) {
        Vec3 sum;
        for (std::size_t begin = 0; begin < million; begin += block) {
            evaluator.at(std::span(u).subspan(begin, block), std::span(v).subspan(begin, block), points);
            for (const SurfacePoint& point : points)
                sum = sum + (point.position + point.along_u + point.along_v);
        }
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(BM_Patch_1M_points_and_derivatives)
    ->ArgNames({"nodes", "many_known"})
    ->ArgsProduct({{40, 100}, {0, 1}})
    ->Unit(benchmark::kMillisecond);

// The baseline: de Boor's recursion as it stands in textbooks, the place alone.
Vec3 de_boor(std::vector<Vec3> poles, const std::vector<double>& knots, std::size_t span, int degree,
             double t) {
    for (int order = 1; order <= degree; ++order)
        for (int at = degree; at >= order; --at) {
            const auto left = span - static_cast<std::size_t>(degree - at);
            const double low = knots[left], high = knots[left + static_cast<std::size_t>(degree - order) + 1];
            const double share = (t - low) / (high - low);
            poles[static_cast<std::size_t>(at)] = poles[static_cast<std::size_t>(at - 1)] * (1 - share) +
                                                  poles[static_cast<std::size_t>(at)] * share;
        }
    return poles[static_cast<std::size_t>(degree)];
}

void BM_Patch_1M_points_by_recursion(benchmark::State& state) {
    const SplinePatch patch = wavy(100);
    for (auto _ : state) {
        Vec3 sum;
        for (std::size_t at = 0; at < million; ++at) {
            const double u = patch.u().end() * share_of(at, 0.6180339887),
                         v = patch.v().end() * share_of(at, 0.7548776662);
            const std::size_t span_u = span_at(patch.u(), u), span_v = span_at(patch.v(), v);
            std::vector<Vec3> across;
            for (std::size_t b = span_v - 3; b <= span_v; ++b) {
                std::vector<Vec3> row;
                for (std::size_t a = span_u - 3; a <= span_u; ++a) {
                    const std::size_t pole = a + patch.u().pole_count() * b;
                    row.push_back({patch.x()[pole], patch.y()[pole], patch.z()[pole]});
                }
                across.push_back(de_boor(std::move(row), patch.u().knots, span_u, 3, u));
            }
            sum = sum + de_boor(std::move(across), patch.v().knots, span_v, 3, v);
        }
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(BM_Patch_1M_points_by_recursion)->Unit(benchmark::kMillisecond);

void BM_Loft_20_curves_of_200_poles(benchmark::State& state) {
    const Loft loft{waves_of_200_poles(), true, false};
    for (auto _ : state)
        benchmark::DoNotOptimize(lofted(loft, Run()));
}
BENCHMARK(BM_Loft_20_curves_of_200_poles)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Thicken_100x100(benchmark::State& state) {
    const SplinePatch patch = wavy(100);
    const double half = 0.09;
    double deviation = 0;
    for (auto _ : state)
        deviation = thickened(patch, {offset_by(half), offset_by(half)}, 2 * half * 1e-4, Run())->deviation;
    state.counters["deviation_share"] = deviation / (2 * half);
}
BENCHMARK(BM_Thicken_100x100)->Unit(benchmark::kMillisecond)->UseRealTime();

// A ball of about 100 000 triangles: a shell of squares, round.
SolidSet ball(double x) {
    constexpr int around = 320, up = 158;
    Doubles px, py, pz;
    const auto place = [&](double turn, double rise) {
        px.push_back(x + std::cos(turn) * std::cos(rise));
        py.push_back(std::sin(turn) * std::cos(rise));
        pz.push_back(std::sin(rise));
    };
    const double pi = std::acos(-1.0);
    for (int ring = 1; ring < up; ++ring)
        for (int at = 0; at < around; ++at)
            place(2 * pi * (at + 0.123 * x) / around, pi * ring / up - pi / 2);
    place(0, -pi / 2);
    place(0, pi / 2);
    const auto number = [&](int ring, int at) {
        return static_cast<std::uint32_t>((ring - 1) * around + at % around);
    };
    const auto low = static_cast<std::uint32_t>(px.size() - 2), high = low + 1;
    Mesh::Parts parts;
    const auto face = [&](std::initializer_list<std::uint32_t> corners) {
        parts.corners.insert(parts.corners.end(), corners);
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    };
    for (int at = 0; at < around; ++at) {
        face({low, number(1, at + 1), number(1, at)});
        face({high, number(up - 1, at), number(up - 1, at + 1)});
        for (int ring = 1; ring + 1 < up; ++ring) {
            face({number(ring, at), number(ring, at + 1), number(ring + 1, at + 1)});
            face({number(ring, at), number(ring + 1, at + 1), number(ring + 1, at)});
        }
    }
    parts.x = std::move(px);
    parts.y = std::move(py);
    parts.z = std::move(pz);
    return {{*meshed_body(*Mesh::make(std::move(parts)))}};
}

void BM_Nearest_100k_on_100x100(benchmark::State& state) {
    const SplinePatch patch = wavy(100);
    const std::vector<Vec3> places = strewn(patch, 100'000);
    for (auto _ : state) {
        const SurfaceSearch search(patch);
        double sum = 0;
        for (const Vec3 place : places)
            sum += search.nearest(place).distance;
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(BM_Nearest_100k_on_100x100)->Unit(benchmark::kMillisecond);

// The baseline, for a hundredth of the places: the nearest of one sample a bay, then Newton's steps from it.
void BM_Nearest_1k_by_samples(benchmark::State& state) {
    const SplinePatch patch = wavy(100);
    const std::vector<Vec3> places = strewn(patch, 1000);
    const auto samples = sample(patch, 1, Run());
    const PatchEvaluator evaluator(patch);
    for (auto _ : state) {
        double sum = 0;
        for (const Vec3 place : places) {
            std::size_t nearest = 0;
            double least = 1e300;
            for (std::size_t at = 0; at < samples->x.size(); ++at) {
                const Vec3 off = place - Vec3{samples->x[at], samples->y[at], samples->z[at]};
                if (dot(off, off) >= least) continue;
                least = dot(off, off);
                nearest = at;
            }
            double u = patch.u().nodes[nearest % samples->count_u],
                   v = patch.v().nodes[nearest / samples->count_u];
            Vec3 off;
            for (int step = 0; step < 6; ++step) {
                const SurfacePoint at = evaluator.at(u, v);
                off = place - at.position;
                const double uu = dot(at.along_u, at.along_u), uv = dot(at.along_u, at.along_v),
                             vv = dot(at.along_v, at.along_v), area = uu * vv - uv * uv;
                u += (dot(off, at.along_u) * vv - dot(off, at.along_v) * uv) / area;
                v += (dot(off, at.along_v) * uu - dot(off, at.along_u) * uv) / area;
            }
            sum += length(off);
        }
        benchmark::DoNotOptimize(sum);
    }
}
BENCHMARK(BM_Nearest_1k_by_samples)->Unit(benchmark::kMillisecond);

void BM_Join_two_meshes_of_100k_triangles(benchmark::State& state) {
    const SolidSet a = ball(0), b = ball(0.8);
    double joined = 0;
    for (auto _ : state)
        joined = figures_of(*combined(a, b, Combination::joined, 0, Run())).volume;
    const double shared = figures_of(*combined(a, b, Combination::shared, 0, Run())).volume;
    const double wanted = figures_of(a).volume + figures_of(b).volume - shared;
    state.counters["off_inclusion_exclusion"] = std::abs(joined - wanted) / wanted;
}
BENCHMARK(BM_Join_two_meshes_of_100k_triangles)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(1);

// One edit a frame, and what the window shows of every step is made anew where it changed; up to a result, or
// all of the study.
void drag(benchmark::State& state, const ::bench::DraggedStudy& dragged, const char* last = nullptr) {
    const auto read = load_study(std::string(PLUME_BENCH_STUDIES) + "/" + dragged.file);
    Study study = **read;
    if (last) {
        const auto end = std::ranges::find_if(
            study.items, [&](const Item& item) { return step_of(item) && step_of(item)->name == last; });
        study.items.erase(end + 1, study.items.end());
    }
    ResultStore store(500'000'000);
    Presenter presenter(standard_catalogue());
    int frame = 0;
    for (auto _ : state) {
        const auto edited = dragged.dragged(study, ++frame);
        EvaluationPlan plan;
        plan.catalogue = &standard_catalogue();
        plan.store = &store;
        const Evaluation evaluation = evaluate(*edited, plan, Run());
        for (const Item& item : (*edited)->items) {
            const Step* step = step_of(item);
            const Outcome* outcome = step ? evaluation.outcome(step->id) : nullptr;
            if (!outcome || !outcome->value) continue;
            const DrawOptions draw{step->show.colour_by};
            const bool drawn = step->show.visible || (last && step->name == last);
            benchmark::DoNotOptimize(presenter.present(*step, *outcome, drawn ? &draw : nullptr, Run()));
        }
        presenter.forget_others();
    }
}

void BM_DragSpacing_of_contours(benchmark::State& state) {
    drag(state, ::bench::dragged_spacing());
}
BENCHMARK(BM_DragSpacing_of_contours)->Unit(benchmark::kMillisecond)->UseRealTime();
void BM_DragTwist_of_a_tower(benchmark::State& state) {
    drag(state, ::bench::dragged_twist());
}
BENCHMARK(BM_DragTwist_of_a_tower)->Unit(benchmark::kMillisecond)->UseRealTime();
void BM_DragPole_to_the_shell(benchmark::State& state) {
    drag(state, ::bench::dragged_pole(), "roof");
}
BENCHMARK(BM_DragPole_to_the_shell)->Unit(benchmark::kMillisecond)->UseRealTime();
void BM_DragPole_whole_roof(benchmark::State& state) {
    drag(state, ::bench::dragged_pole());
}
BENCHMARK(BM_DragPole_whole_roof)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace
}  // namespace plume
