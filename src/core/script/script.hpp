#pragma once
// Scripts in Lua 5.4, where nothing outside can be reached.
//
// A script reads its inputs by their names and gives its result with return. Numbers count study units,
// angles radians. What it cannot: files, processes, modules, bytecode, the clock, threads of its own,
// finalizers, what hangs on addresses in memory or on the order of a hash. So the same inputs give the same
// result.
//
// It is stopped from outside: a thread watches, and where it is cancelled or takes too long interrupts the
// one that runs it, which then asks before every instruction. Until then a script runs as fast as plain Lua;
// one that counted its instructions would be half as slow again (measured).

#include <cstdint>
#include <string>
#include <utility>
#include <variant>
#include <vector>

#include "core/base/run.hpp"
#include "core/base/units.hpp"
#include "core/data/value.hpp"
#include "core/script/script_head.hpp"

namespace plume {

// What scripts get and give. A word is text, a count a whole number.
using ScriptValue = std::variant<double, std::int64_t, std::string, PointLattice, FieldOnPoints,
                                 DirectionsOnPoints, Placements, CurveSet, SurfaceSet, Mesh, BarFrame>;

// What it has to give; numbers and directions that it makes have that name.
struct ScriptResult {
    ScriptType type = ScriptType::points;
    std::string name = "made";
};

struct ScriptLimits {
    std::size_t bytes = 1'000'000'000;  // of its tables and texts, and again of its columns
    double seconds = 60;                // of its own time
};

struct ScriptOutcome {
    ScriptValue value;
    std::vector<std::string> printed;  // lines, the last ones of very many
    std::size_t printed_before = 0;    // that were printed before these
};

// Errors: syntax, and those of running: the message names the line and what stood in its names; wrong_kind of
// a result of another type; out_of_memory; too_deep; over_budget of one that takes too long;
// cancelled. begin and end say where.
Result<ScriptOutcome> run_script(std::string_view script,
                                 const std::vector<std::pair<std::string, ScriptValue>>& inputs,
                                 const ScriptResult& result, const ScriptLimits& limits, const Run& run);

}  // namespace plume
