// Scripts: columns against the formula engine, loops against plain Lua.

#include <benchmark/benchmark.h>

#include <chrono>
#include <thread>

#include <lua.hpp>

#include "core/formula/formula.hpp"
#include "core/formula/program.hpp"
#include "core/script/script.hpp"

namespace {

using namespace plume;

constexpr std::size_t million = 1'000'000;

PointLattice points() {
    PointLattice::Parts parts;
    parts.counts = {million, 1, 1};
    Doubles x(million), y(million), z(million);
    for (std::size_t at = 0; at < million; ++at) {
        x[at] = static_cast<double>(at % 1000) / 10;
        const std::size_t row = at / 1000;
        y[at] = static_cast<double>(row) / 10;
        z[at] = 0;
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    return *PointLattice::make(std::move(parts));
}

void BM_Script_field_1M_by_columns(benchmark::State& state) {
    const PointLattice ground = points();
    for (auto _ : state)
        benchmark::DoNotOptimize(
            *run_script("local d = hypot(p.x - 50, p.y - 50)\nreturn p:with{f = sin(d * 0.3) * exp(d * "
                        "-0.02) + 0.1 * noise(p.x, p.y)}",
                        {{"p", ground}}, {ScriptType::points}, {}, Run()));
}
BENCHMARK(BM_Script_field_1M_by_columns)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Script_field_1M_by_formula(benchmark::State& state) {
    const PointLattice ground = points();
    FormulaSetting setting;
    setting.inputs = {{"x", plain_number, InputRef{InputType::column, 0}, ""},
                      {"y", plain_number, InputRef{InputType::column, 1}, ""}};
    const auto formula = *check_formula(
        "d = hypot(x - 50, y - 50)\nsin(d * 0.3 rad) * exp(d * -0.02) + 0.1 * noise(x, y)", setting);
    for (auto _ : state) {
        Domain domain;
        domain.directions[0] = {million, 0, 1, false};
        domain.columns = {ground.x().span(), ground.y().span()};
        auto made =
            *evaluate(formula.graph, std::array{formula.terms.back().node}, domain, Keep::columns, Run());
        benchmark::DoNotOptimize(
            ground.with_field({"f", Column(std::move(made.columns.front())), plain_number}));
    }
}
BENCHMARK(BM_Script_field_1M_by_formula)->Unit(benchmark::kMillisecond)->UseRealTime();

// A million points, one by one.
constexpr const char* one_by_one =
    "local sin, t, s = math.sin, {}, 0\n"
    "for i = 1, 1000000 do\n"
    "  local x, y = (i % 1000) / 10 - 50, (i // 1000) / 10 - 50\n"
    "  local d = (x * x + y * y) ^ 0.5\n"
    "  if d < 40 then t[i] = sin(d * 0.3) * d else t[i] = d - 40 end\n"
    "  s = s + t[i]\n"
    "end\n"
    "return s";

void BM_Script_1M_one_by_one(benchmark::State& state) {
    for (auto _ : state)
        benchmark::DoNotOptimize(*run_script(one_by_one, {}, {ScriptType::number}, {}, Run()));
}
BENCHMARK(BM_Script_1M_one_by_one)->Unit(benchmark::kMillisecond)->UseRealTime();

void BM_Script_1M_one_by_one_plain_lua(benchmark::State& state) {
    for (auto _ : state) {
        lua_State* lua = luaL_newstate();
        luaL_openlibs(lua);
        if (luaL_dostring(lua, one_by_one) != LUA_OK) state.SkipWithError("broken");
        benchmark::DoNotOptimize(lua_tonumber(lua, -1));
        lua_close(lua);
    }
}
BENCHMARK(BM_Script_1M_one_by_one_plain_lua)->Unit(benchmark::kMillisecond)->UseRealTime();

// From cancelling a script that never ends until it has ended: what is written most badly for it.
void BM_Script_is_cancelled(benchmark::State& state) {
    constexpr const char* endless[] = {
        "while true do end", "for i = 1, math.huge do local c = numbers(10000000) + i c:sum() end",
        "local t = {} while true do t[#t + 1] = string.rep('x', 1000000) if #t > 200 then t = {} end end"};
    const auto* script = endless[state.range(0)];
    for (auto _ : state) {
        const Run run;
        std::chrono::steady_clock::time_point cancelled;
        std::jthread canceller([&] {
            std::this_thread::sleep_for(std::chrono::milliseconds(100));
            cancelled = std::chrono::steady_clock::now();
            run.cancel();
        });
        benchmark::DoNotOptimize(run_script(script, {}, {ScriptType::number}, {}, run));
        const auto ended = std::chrono::steady_clock::now();
        canceller.join();
        state.SetIterationTime(std::chrono::duration<double>(ended - cancelled).count());
    }
}
BENCHMARK(BM_Script_is_cancelled)
    ->DenseRange(0, 2)
    ->Unit(benchmark::kMillisecond)
    ->UseManualTime()
    ->Iterations(10);

}  // namespace
