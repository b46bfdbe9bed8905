// The formula engine beside the loop it replaces and beside a general expression parser's bulk mode.

#include <benchmark/benchmark.h>
#include <muParser.h>
#include <oneapi/tbb/global_control.h>

#include <fstream>
#include <numbers>
#include <sstream>

#include "core/evaluation/evaluator.hpp"
#include "core/exchange/study_file.hpp"
#include "core/formula/formula.hpp"
#include "core/formula/program.hpp"
#include "core/picture/drawable.hpp"
#include "core/steps/catalogue.hpp"
#include "core/study/edits/edits.hpp"
#include "plain_form.hpp"

namespace plume {
namespace {

FormulaSetting setting() {
    FormulaSetting made;
    made.scope.units.angle = AngleUnit::radian;
    made.inputs = {{"a", plain_number, InputRef{InputType::loop_value, 0}, ""},
                   {"b", plain_number, InputRef{InputType::loop_value, 1}, ""}};
    return made;
}

Domain domain(std::size_t columns, std::size_t rows) {
    Domain made;
    made.directions[0] = {columns, 0, 2 * std::numbers::pi, false};
    made.directions[1] = {rows, 0, std::numbers::pi, false};
    return made;
}

void engine(benchmark::State& state, const char* text, std::size_t threads, std::size_t columns,
            std::size_t rows) {
    const oneapi::tbb::global_control limit(oneapi::tbb::global_control::max_allowed_parallelism, threads);
    const Domain over = domain(columns, rows);
    for (auto _ : state) {
        const auto formula = check_formula(text, setting());
        const std::vector<NodeId> outputs{formula->find("x")->node, formula->find("y")->node,
                                          formula->find("z")->node};
        benchmark::DoNotOptimize(evaluate(formula->graph, outputs, over, Keep::columns, Run()));
    }
}

std::size_t all_threads() {
    return oneapi::tbb::global_control::active_value(oneapi::tbb::global_control::max_allowed_parallelism);
}

void loop(benchmark::State& state, void (*form)(std::size_t, std::size_t, FormArrays)) {
    // Made once and written before: unlike the engine, the loop need not ask for memory each time.
    std::vector<double> x(1'000'000), y(1'000'000), z(1'000'000);
    for (auto _ : state) {
        form(1000, 1000, {x.data(), y.data(), z.data()});
        benchmark::DoNotOptimize(x.data());
        benchmark::DoNotOptimize(y.data());
        benchmark::DoNotOptimize(z.data());
    }
}

void BM_Form_1M_plain_loop_O2(benchmark::State& state) {
    loop(state, plain_form);
}
BENCHMARK(BM_Form_1M_plain_loop_O2)->Unit(benchmark::kMillisecond);
void BM_Form_1M_engine_one_thread(benchmark::State& state) {
    engine(state, form_text, 1, 1000, 1000);
}
BENCHMARK(BM_Form_1M_engine_one_thread)->Unit(benchmark::kMillisecond);
void BM_Form_1M_engine_all_threads(benchmark::State& state) {
    engine(state, form_text, all_threads(), 1000, 1000);
}
BENCHMARK(BM_Form_1M_engine_all_threads)->Unit(benchmark::kMillisecond);

void BM_Entangled_1M_plain_loop_O2(benchmark::State& state) {
    loop(state, plain_entangled_form);
}
BENCHMARK(BM_Entangled_1M_plain_loop_O2)->Unit(benchmark::kMillisecond);
void BM_Entangled_1M_engine_one_thread(benchmark::State& state) {
    engine(state, entangled_text, 1, 1000, 1000);
}
BENCHMARK(BM_Entangled_1M_engine_one_thread)->Unit(benchmark::kMillisecond);
void BM_Entangled_1M_engine_all_threads(benchmark::State& state) {
    engine(state, entangled_text, all_threads(), 1000, 1000);
}
BENCHMARK(BM_Entangled_1M_engine_all_threads)->Unit(benchmark::kMillisecond);

// muParser in bulk mode: arrays of the variables in, one array out for each of the three coordinates.
void BM_Form_1M_muparser_bulk(benchmark::State& state) {
    constexpr int count = 1'000'000;
    std::vector<double> a(count), b(count), x(count), y(count), z(count);
    for (std::size_t at = 0; at < a.size(); ++at) {
        a[at] = 2 * std::numbers::pi * static_cast<double>(at % 1000) / 999;
        b[at] = std::numbers::pi * static_cast<double>(at / 1000) / 999;
    }
    const std::string r =
        "(4 + sin(5 * a + 2 * b) * cos(3 * b - a) + 0.3 * sin(9 * a * b) + 0.2 * exp(-(a - b)^2) + 0.1 * "
        "atan(a * b))";
    const std::string texts[] = {r + " * sin(b) * cos(a)", r + " * sin(b) * sin(a)", r + " * cos(b)"};
    for (auto _ : state) {
        std::vector<double>* outs[] = {&x, &y, &z};
        for (int axis = 0; axis < 3; ++axis) {
            mu::Parser parser;
            parser.DefineVar("a", a.data());
            parser.DefineVar("b", b.data());
            parser.SetExpr(texts[axis]);
            parser.Eval(outs[axis]->data(), count);
        }
        benchmark::DoNotOptimize(x.data());
    }
}
BENCHMARK(BM_Form_1M_muparser_bulk)->Unit(benchmark::kMillisecond);

void BM_Grow_engine(benchmark::State& state) {
    engine(state, form_text, all_threads(), 1000, static_cast<std::size_t>(state.range(0)) / 1000);
    state.SetItemsProcessed(state.iterations() * state.range(0));
}
BENCHMARK(BM_Grow_engine)
    ->Arg(10'000)
    ->Arg(100'000)
    ->Arg(1'000'000)
    ->Arg(10'000'000)
    ->Unit(benchmark::kMillisecond);

// Memory at its peak beyond what was there before, as a share of the output's own size.
double resident_bytes(const char* key) {
    std::ifstream status("/proc/self/status");
    std::string word;
    double kilobytes = 0;
    while (status >> word)
        if (word == key) status >> kilobytes;
    return kilobytes * 1024;
}

void BM_Memory_10M_samples(benchmark::State& state) {
    const Domain over = domain(4000, 2500);
    const auto formula = check_formula(form_text, setting());
    const std::vector<NodeId> outputs{formula->find("x")->node, formula->find("y")->node,
                                      formula->find("z")->node};
    for (auto _ : state) {
        std::ofstream("/proc/self/clear_refs") << "5";  // forgets the peak so far
        const double before = resident_bytes("VmRSS:");
        const auto result = evaluate(formula->graph, outputs, over, Keep::columns, Run());
        benchmark::DoNotOptimize(result->columns.data());
        state.counters["of_output"] = (resident_bytes("VmHWM:") - before) / (3.0 * 8 * 10'000'000);
    }
}
BENCHMARK(BM_Memory_10M_samples)->Unit(benchmark::kMillisecond);

// The crest with its span changed by a little each time: nothing comes from the cache.
void crest(benchmark::State& state, bool triangles) {
    const StudyPointer start = *load_study(std::string(PLUME_BENCH_STUDIES) + "/crest.plume");
    ResultStore cache(200'000'000);
    EvaluationPlan plan;
    plan.catalogue = &standard_catalogue();
    plan.store = &cache;
    int round = 0;
    for (auto _ : state) {
        round = (round + 1) % 30'000;
        const StudyPointer study = *set_control_value(*start, "span", 4 + 1e-4 * round);
        const Evaluation evaluation = evaluate(study, plan, Run());
        if (evaluation.problem_count() > 0) state.SkipWithError("the study has errors");
        if (triangles)
            benchmark::DoNotOptimize(make_drawable(*evaluation.outcome("crest")->value, {}, Run()));
    }
}

void BM_Crest_80k_number_to_geometry(benchmark::State& state) {
    crest(state, false);
}
BENCHMARK(BM_Crest_80k_number_to_geometry)->Unit(benchmark::kMillisecond);
void BM_Crest_80k_number_to_triangles(benchmark::State& state) {
    crest(state, true);
}
BENCHMARK(BM_Crest_80k_number_to_triangles)->Unit(benchmark::kMillisecond);

std::string twenty_lines() {
    std::ostringstream text;
    text << "t0 = sin(a) + cos(b)\n";
    for (int n = 1; n < 20; ++n)
        text << 't' << n << " = if(t" << n - 1 << " > 0.5, t" << n - 1 << " * exp(-a * " << n << "), sqrt(t"
             << n - 1 << "^2 + b^2)) + 0.1 * sin(" << n << " * a + 3 * b)\n";
    return text.str();
}

void BM_Compile_20_lines(benchmark::State& state) {
    const std::string text = twenty_lines();
    const Domain one = domain(1, 1);
    for (auto _ : state) {
        const auto formula = check_formula(text, setting());
        const std::vector<NodeId> outputs{formula->terms.back().node};
        benchmark::DoNotOptimize(evaluate(formula->graph, outputs, one, Keep::columns, Run()));
    }
}
BENCHMARK(BM_Compile_20_lines)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace plume
