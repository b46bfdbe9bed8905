#include "core/steps/scripts/script_support.hpp"

namespace plume {
namespace {

constexpr const char* preset_script =
    "-- Raise points in rings\n"
    "-- sentence: Raise {ground} in rings {apart} apart, {high} high.\n"
    "-- ground: points\n"
    "-- apart: length = 4 m, from 10 cm to 500 m\n"
    "-- high: length = 50 cm\n"
    "-- result: points\n"
    "local d = hypot(ground.x, ground.y)\n"
    "return ground:with{z = ground.z + high * sin(d / apart * 2 * math.pi)}";

constexpr const char* script_help =
    "A script in Lua, for what no step can say. Its first lines are a comment that says what it is called, "
    "its "
    "sentence, what it asks for and what it gives; these become slots like any other. Columns are handled at "
    "once: z + high * sin(d). Nothing outside can be reached, and what takes too long is stopped.";

}  // namespace

StepKind compute_by_script() {
    return script_step({
        .key = "script.lua",
        .verb = "Compute by a script",
        .synonyms = "script lua code program function custom own loop recursion",
        .result_name = "computed",
        .help = script_help,
        .preset = preset_script,
        .gives_number = false,
        .other_verb = "Compute a number by a script",
    });
}

}  // namespace plume
