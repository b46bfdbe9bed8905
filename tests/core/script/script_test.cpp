// Scripts: what they compute against formulas, what they cannot reach, how they are stopped.

#include "core/script/script.hpp"

#include <chrono>
#include <cmath>
#include <fstream>
#include <thread>

#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/support.hpp"
#include "folders.hpp"

namespace plume::test {
namespace {

using Inputs = std::vector<std::pair<std::string, ScriptValue>>;

Result<ScriptOutcome> ran(const std::string& script, ScriptType result = ScriptType::number,
                          const Inputs& inputs = {}, const ScriptLimits& limits = {}) {
    return run_script(script, inputs, {result}, limits, plume::Run());
}

double number(const std::string& script, const Inputs& inputs = {}) {
    const auto made = ran(script, ScriptType::number, inputs);
    EXPECT_TRUE(made) << script << " " << sentence(made.error());
    return made ? std::get<double>(made->value) : std::nan("");
}

Error refused(const std::string& script, const ScriptLimits& limits = {}) {
    const auto made = ran(script, ScriptType::number, {}, limits);
    EXPECT_FALSE(made) << script;
    return made ? Error{} : made.error();
}

PointLattice row(std::size_t count) {
    PointLattice::Parts parts;
    parts.counts = {count, 1, 1};
    Doubles x(count), zero(count);
    for (std::size_t at = 0; at < count; ++at) {
        x[at] = static_cast<double>(at) / 10;
        zero[at] = 0;
    }
    Doubles warm = x;
    parts.x = std::move(x);
    parts.y = zero;
    parts.z = std::move(zero);
    parts.fields = {{"warm", std::move(warm), plain_number}};
    return *PointLattice::make(std::move(parts));
}

TEST(Script, ReadsInputsAndReturnsWhatItComputes) {
    EXPECT_EQ(number("return a * 2 + 1", {{"a", 20.5}}), 42);
    EXPECT_EQ(number("if how == 'round' then return 1 else return 2 end", {{"how", std::string("round")}}),
              1);
    EXPECT_EQ(
        number("local function f(n) if n < 2 then return n end return f(n - 1) + f(n - 2) end return f(20)"),
        6765);
}

TEST(Script, ColumnsAreReckonedLikeFormulas) {
    const Inputs inputs{{"p", row(1000)}};
    const auto made =
        ran("local h = sin(p.x * 2) * 0.5 + min(p.x, 3, 2 + p.warm) - clamp(p.x, 1, 2) ^ 2\n"
            "h = choose(both(more(p.x, 10), less(p.x, 20)), -h, h)\n"
            "return p:with{z = h, high = p.x % 7}",
            ScriptType::points, inputs);
    ASSERT_TRUE(made) << sentence(made.error());
    const auto& points = std::get<PointLattice>(made->value);
    for (std::size_t at = 0; at < 1000; ++at) {
        const double x = static_cast<double>(at) / 10;
        const double low = std::clamp(x, 1.0, 2.0);
        double h = std::sin(x * 2) * 0.5 + std::min({x, 3.0, 2 + x}) - low * low;
        if (x > 10 && x < 20) h = -h;
        EXPECT_NEAR(points.z()[at], h, 1e-12) << at;
        EXPECT_NEAR(points.field("high")->values[at], std::fmod(x, 7), 1e-12);
        EXPECT_EQ(points.x()[at], x);
    }
    EXPECT_TRUE(points.field("warm")) << "what is not named stays";
}

TEST(Script, FunctionsOfFormulasTakeNumbersToo) {
    EXPECT_EQ(number("return smoothstep(0, 2, 1) + max(1, 5, 3) + hypot(3, 4) + floor(2.7)"),
              0.5 + 5 + 5 + 2);
    EXPECT_EQ(number("return random(7, 3) == random(7, 3) and random(7, 3) ~= random(8, 3) and 1 or 0"), 1);
}

TEST(Script, ColumnsAreReadOneByOneAndMadeOfTables) {
    EXPECT_NEAR(number("local t = {} for i = 1, #p do t[i] = p.x[i] ^ 2 end local c = column(t)\n"
                       "return c:sum() + #c + c:most() + c:least() + c:mean() + p.x:table()[3]",
                       {{"p", row(11)}}),
                3.85 + 11 + 1 + 0 + 0.35 + 0.2, 1e-12);
    EXPECT_EQ(number("return (numbers(5) * 2 + column(5, 1)):sum()"), 25);
    EXPECT_EQ(number("return numbers(3)[4] == nil and 1 or 0"), 1);
}

TEST(Script, LoopsOverColumnsTakeNeitherDepthNorMemory) {
    ScriptLimits limits;
    limits.bytes = 60'000'000;
    const auto made = ran("local c = numbers(100000) for i = 1, 3000 do c = c * 0.5 + 1 end return c:most()",
                          ScriptType::number, {}, limits);
    ASSERT_TRUE(made) << sentence(made.error());
    EXPECT_NEAR(std::get<double>(made->value), 2, 1e-12);
}

TEST(Script, MakesPointsCurvesAndMeshes) {
    const auto points =
        ran("local n = numbers(6) return grid(3, 2, n % 3, floor(n / 3), 0)", ScriptType::points);
    ASSERT_TRUE(points) << sentence(points.error());
    EXPECT_EQ(std::get<PointLattice>(points->value).bays(0), 2U);
    const auto curves =
        ran("local a = numbers(4) * (pi / 2)\n"
            "local c = line(cos(a), sin(a), 0, true)\n"
            "local x, y = c:at(0.5)\n"
            "print(#curves(c, c), c:length(), x, y)\n"
            "return curves{c, smooth(cos(a), sin(a), a)}",
            ScriptType::curves);
    ASSERT_FALSE(curves) << "pi is no number that scripts know";
    const auto square =
        ran("local a = numbers(4) * (math.pi / 2)\n"
            "local c = line(cos(a), sin(a), 0, true)\n"
            "local x, y = c:at(0.5)\n"
            "print(#curves(c, c), c:length() > 5.65, x < -0.99)\n"
            "return curves{c, smooth(cos(a), sin(a), a)}",
            ScriptType::curves);
    ASSERT_TRUE(square) << sentence(square.error());
    EXPECT_EQ(std::get<CurveSet>(square->value).curves.size(), 2U);
    EXPECT_EQ(square->printed, std::vector<std::string>{"2  true  true"});
    const auto mesh =
        ran("return mesh(column{0, 1, 0, 0}, column{0, 0, 1, 0}, column{0, 0, 0, 1},\n"
            "  {{1, 3, 2}, {1, 2, 4}, {2, 3, 4}, {3, 1, 4}})",
            ScriptType::mesh);
    ASSERT_TRUE(mesh) << sentence(mesh.error());
    EXPECT_NEAR(volume_of(std::get<Mesh>(mesh->value)), 1.0 / 6, 1e-15);
}

TEST(Script, AnErrorNamesItsLineAndWhatStoodThere) {
    const Error error =
        refused("local z = 3\nlocal function f(k)\n  local w = nil\n  return k + w\nend\nreturn f(z)");
    EXPECT_EQ(error.message.find("line 4: "), 0U) << error.message;
    EXPECT_NE(error.message.find("k = 3"), std::string::npos) << error.message;
    EXPECT_NE(error.message.find("w = nil"), std::string::npos) << error.message;
    const std::string text = "local z = 3\nlocal function f(k)\n";
    EXPECT_EQ(error.begin, text.size() + std::string("  local w = nil\n").size());
    EXPECT_EQ(refused("x = = 3").message.find("line 1: "), 0U);
    EXPECT_EQ(refused("return 1\nprint(2)").message, "line 2: the end of the script expected near 'print'");
    EXPECT_EQ(refused("return 1, 2").code, ErrorCode::wrong_kind);
    EXPECT_EQ(refused("local a = 1").code, ErrorCode::wrong_kind);
    EXPECT_EQ(refused("return 'text'").code, ErrorCode::wrong_kind);
    EXPECT_EQ(refused("error({})").message, "line 1: an error without a text");
    EXPECT_NE(refused("return (numbers(3) + numbers(4)):sum()").message.find("columns of 3 and 4 numbers"),
              std::string::npos);
    EXPECT_NE(refused("return numbers(3).mid").message.find("there is table, sum"), std::string::npos);
    EXPECT_NE(refused("numbers(3)[1] = 2").message.find("cannot be changed"), std::string::npos);
}

TEST(Script, NothingOutsideIsReachable) {
    for (const char* name :
         {"io",          "os",          "debug",           "package",        "require",     "dofile",
          "loadfile",    "load",        "loadstring",      "collectgarbage", "coroutine",   "warn",
          "next",        "rawset",      "string.dump",     "string.match",   "string.gsub", "string.gmatch",
          "string.pack", "math.random", "math.randomseed", "table.move"})
        EXPECT_EQ(
            number("local f = _G for part in pairs({['" + std::string(name) +
                   "'] = true}) do end\nlocal whole = '" + name +
                   "'\nlocal dot = string.find(whole, '.')\n"
                   "if dot then f = _G[whole:sub(1, dot - 1)][whole:sub(dot + 1)] else f = _G[whole] end\n"
                   "return f == nil and 1 or 0"),
            1)
            << name;
}

TEST(Script, KnownWaysOutAreRefused) {
    const char* tries[] = {
        // Bytecode, in any wrapping.
        "\x1bLua", "return ('').dump(print)", "return ('x'):dump()",
        // Texts that hang or fill the memory.
        "return ('x'):rep(1 << 40)", "local s = 'x' while true do s = s .. s end",
        "return (('a'):rep(100) .. 'b'):find(('a?'):rep(100) .. ('a'):rep(100), 1, false).x",
        "return ('x'):gsub('x', 'y')", "return ('%p'):format({})", "return ('% -5p'):format({})",
        // Metatables of what is not the script's.
        "getmetatable('').__index = nil", "setmetatable('', {})", "getmetatable(numbers(3)).__gc = nil",
        "numbers(3).__gc(numbers(3))", "local p = numbers(3) p.__index = 1", "return numbers(3)['__gc']",
        "setmetatable({}, {__gc = function() while true do end end})", "return mesh.__gc", "return line.__gc",
        // Depth.
        "local function f() return f() + 1 end return f()",
        "local t = setmetatable({}, {}) getmetatable(t).__index = t return t.x",
        "local t = {} for i = 1, 1e6 do t = setmetatable({}, {__index = t}) end return t.x",
        "return select('#', table.unpack({}, 1, 1e8))",
        // Tables and columns that are too large.
        "local t = {} for i = 1, 1e12 do t[i] = i end", "return column(2000000000, 1):sum()",
        "local t = {} for i = 1, 1000 do t[i] = (numbers(1000000) + i) t[i]:sum() end return 1"};
    ScriptLimits limits;
    limits.bytes = 100'000'000;
    limits.seconds = 20;
    for (const char* text : tries) {
        const Error error = refused(text, limits);
        EXPECT_FALSE(sentence(error).empty()) << text;
        EXPECT_NE(error.code, ErrorCode::over_budget) << text << ": " << sentence(error);
    }
}

TEST(Script, WhatNeverEndsIsStopped) {
    const char* endless[] = {
        "while true do end",
        "while true do pcall(function() while true do end end) end",
        "local function f() xpcall(f, f) end while true do f() end",
        "repeat local t = setmetatable({}, {__index = function(t, k) while true do end end}) "
        "until t.x",
        "local t = {} for i = 1, 200000 do t[i] = i % 7 end\n"
        "table.sort(t, function(a, b) while true do end end)",
        "for i = 1, math.huge do local c = numbers(1000000) + i c:sum() end",
        "goto again ::again:: goto again"};
    for (const char* text : endless) {
        ScriptLimits limits;
        limits.seconds = 0.1;
        EXPECT_EQ(refused(text, limits).code, ErrorCode::over_budget) << text;
        const plume::Run run;
        std::jthread canceller([&run] {
            std::this_thread::sleep_for(std::chrono::milliseconds(30));
            run.cancel();
        });
        const auto made = run_script(text, {}, {ScriptType::number}, {}, run);
        ASSERT_FALSE(made);
        EXPECT_EQ(made.error().code, ErrorCode::cancelled) << text;
    }
    // And runs again as if nothing had been.
    EXPECT_EQ(number("local s = 0 for i = 1, 1000 do s = s + i end return s"), 500500);
}

TEST(Script, TheSameComesOfTheSame) {
    const std::string text =
        "local t = {zeta = 1, beta = 2, [3] = 3, [1] = 4, [2.5] = 5}\nlocal s = ''\n"
        "for k, v in pairs(t) do s = s .. k .. '=' .. v .. ' ' end\n"
        "print(s, tostring({}), tostring(print), numbers(3))\nreturn 1";
    const auto made = ran(text);
    ASSERT_TRUE(made) << sentence(made.error());
    EXPECT_EQ(made->printed,
              std::vector<std::string>{"1=4 2.5=5 3=3 beta=2 zeta=1   table  function  column of 3 numbers"});
}

TEST(Script, TablesAreSortedStablyAndGrowInTheMiddle) {
    EXPECT_EQ(number("local t = {} for i = 1, 1000 do t[i] = {k = i % 7, i = i} end\n"
                     "table.sort(t, function(a, b) return a.k < b.k end)\n"
                     "for i = 2, 1000 do local a, b = t[i - 1], t[i]\n"
                     "  if a.k > b.k or (a.k == b.k and a.i > b.i) then return i end end\n"
                     "local s = {1, 2, 4} table.insert(s, 3, 3) table.insert(s, 5) table.remove(s, 1)\n"
                     "return #s * 10000 + s[1] * 1000 + s[2] * 100 + s[3] * 10 + s[4]"),
              4 * 10000 + 2345);
}

TEST(Script, PrintsItsLastLines) {
    const auto made = ran("for i = 1, 5000 do print(i) end return 1");
    ASSERT_TRUE(made);
    EXPECT_EQ(made->printed.back(), "5000");
    EXPECT_EQ(made->printed.size() + made->printed_before, 5000U);
    EXPECT_LE(made->printed.size(), 2000U);
}

// The example of docs/scripts.md, and every function that the page names.
TEST(Script, ThePageShowsWhatRuns) {
    std::ifstream file(std::string(docs_folder) + "/scripts.md");
    std::string script, line;
    while (std::getline(file, line))
        if (line.starts_with("    ")) script += line.substr(4) + '\n';
    const auto head = read_script_head(script);
    ASSERT_TRUE(head) << sentence(head.error());
    const auto made =
        ran(script, head->result,
            {{"ground", row(10)}, {"by", 1.0}, {"level", 2.0}, {"how", std::string("smoothly")}});
    ASSERT_TRUE(made) << sentence(made.error());
    EXPECT_EQ(std::get<PointLattice>(made->value).z()[3], 1);
    for (const char* name : {"less", "at_most", "more",   "at_least", "same",     "both",    "either",
                             "no",   "choose",  "random", "column",   "numbers",  "scatter", "grid",
                             "line", "smooth",  "curves", "mesh",     "progress", "print"})
        EXPECT_EQ(number("return type(" + std::string(name) + ") == 'function' and 1 or 0"), 1) << name;
}

TEST(Script, ItsLengthIsBounded) {
    EXPECT_EQ(refused(std::string(5'000'000, ' ')).code, ErrorCode::too_long);
}

}  // namespace
}  // namespace plume::test
