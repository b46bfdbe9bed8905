// How long the step finder takes to answer a key, in a study of 500 steps, over a catalogue of 300 kinds;
// beside it what the words alone take.

#include <benchmark/benchmark.h>

#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/step_search.hpp"

namespace plume {
namespace {

// The steps there are, some of them twice.
const Catalogue& large_catalogue() {
    static const Catalogue catalogue([] {
        constexpr std::size_t wanted = 300;
        const auto kinds = standard_catalogue().kinds();
        std::vector<StepKind> all(kinds.begin(), kinds.end());
        for (std::size_t at = 0; all.size() < wanted; ++at) {
            all.push_back(kinds[at]);
            all.back().key += ".again";
        }
        return all;
    }());
    return catalogue;
}

Study long_study() {
    constexpr int steps = 500;
    StudyPointer study = std::make_shared<const Study>();
    for (int number = 0; number < steps; ++number) {
        const char* kind = number % 3 == 0 ? "lattice.rectangular" : number % 3 == 1 ? "skin" : "thing.move";
        study = add_step(*study, standard_catalogue(), *standard_catalogue().find(kind), study->items.size())
                    ->study;
    }
    return *study;
}

void find(benchmark::State& state, const char* typed, const Study& study) {
    std::size_t found = 0;
    for (auto _ : state)
        found += step_offers({.study = study, .catalogue = large_catalogue(), .position = study.items.size()},
                             typed)
                     .size();
    benchmark::DoNotOptimize(found);
}

void BM_Finder_nothing_typed(benchmark::State& state) {
    static const Study study = long_study();
    find(state, "", study);
}
void BM_Finder_a_word(benchmark::State& state) {
    static const Study study = long_study();
    find(state, "lattice", study);
}
void BM_Finder_a_mistyped_word(benchmark::State& state) {
    static const Study study = long_study();
    find(state, "lattcie", study);
}
void BM_Finder_on_an_empty_page(benchmark::State& state) {
    find(state, "", Study());
}

BENCHMARK(BM_Finder_nothing_typed)->Unit(benchmark::kMillisecond);
BENCHMARK(BM_Finder_a_word)->Unit(benchmark::kMillisecond);
BENCHMARK(BM_Finder_a_mistyped_word)->Unit(benchmark::kMillisecond);
BENCHMARK(BM_Finder_on_an_empty_page)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace plume
