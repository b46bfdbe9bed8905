// Keys of places: a study at one moment after another, and one key more, where a minute was recorded and
// where hardly anything has keys.

#include <benchmark/benchmark.h>

#include <cmath>

#include "core/evaluation/evaluator.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edit_keys.hpp"

namespace plume {
namespace {

constexpr double rate = 30;
constexpr int place_count = 4;

std::string metres(double number) {
    return std::to_string(number) + " m";
}

struct Keyed4 {
    StudyPointer study;
    ItemId step = 0;
};

// Four places with so many keys each, one a frame.
Keyed4 keyed_study(std::int64_t keys) {
    const Catalogue& catalogue = standard_catalogue();
    Study empty;
    empty.time = {static_cast<double>(keys) / rate + 60, rate};
    const Added added = *add_step(empty, catalogue, *catalogue.find("attractors.points"), 0);
    Places places;
    for (int index = 0; index < place_count; ++index) {
        Place place{"post " + std::to_string(index + 1), metres(index), "0 m", "2 m", "1", {}};
        for (int frame = 0; frame < keys; ++frame) {
            const double turned = 0.03 * frame + index;
            place.keys.push_back({frame / rate, metres(index + 0.1 * std::sin(turned)),
                                  metres(0.1 * std::cos(turned)), metres(2 + 0.3 * std::sin(0.4 * turned)),
                                  Easing::straight});
        }
        places.push_back(std::move(place));
    }
    return {*set_slot(*added.study, added.id, "places", std::move(places)), added.id};
}

void BM_Keys_evaluated(benchmark::State& state) {
    const Keyed4 keyed = keyed_study(state.range(0));
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    std::size_t frame = 0;
    for (auto _ : state) {
        plan.moment = {++frame % static_cast<std::size_t>(state.range(0)), rate};
        const Evaluation evaluation = evaluate(keyed.study, plan, Run());
        if (!evaluation.outcome(keyed.step)->value) return state.SkipWithError("a place cannot be read");
    }
}
BENCHMARK(BM_Keys_evaluated)->Arg(2)->Arg(1800)->Unit(benchmark::kMicrosecond);

void BM_Keys_one_more(benchmark::State& state) {
    const Keyed4 keyed = keyed_study(state.range(0));
    const double behind = static_cast<double>(state.range(0)) / rate;
    for (auto _ : state)
        benchmark::DoNotOptimize(
            key_here(*keyed.study, standard_catalogue(), keyed_place(keyed.step, "places", 0), behind));
}
BENCHMARK(BM_Keys_one_more)->Arg(2)->Arg(1800)->Unit(benchmark::kMicrosecond);

}  // namespace
}  // namespace plume
