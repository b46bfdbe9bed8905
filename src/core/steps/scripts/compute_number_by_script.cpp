#include "core/steps/scripts/script_support.hpp"

namespace plume {
namespace {

constexpr const char* preset_script =
    "-- Count points above a height\n"
    "-- sentence: Count the points of {ground} above {level}.\n"
    "-- ground: points\n"
    "-- level: length = 2 m\n"
    "-- result: count\n"
    "local above = 0\n"
    "for at = 1, #ground do\n"
    "  if ground.z[at] > level then above = above + 1 end\n"
    "end\n"
    "return above";

}  // namespace

StepKind compute_number_by_script() {
    return script_step({
        .key = "number.lua",
        .verb = "Compute a number by a script",
        .synonyms = "script lua code program single value figure count search solve iterate",
        .result_name = "figure",
        .help =
            "A script in Lua that gives one number, a count, a length or an angle. Expressions and formulas "
            "of later steps read it by its name, as they read a control.",
        .preset = preset_script,
        .gives_number = true,
        .other_verb = "Compute by a script",
    });
}

}  // namespace plume
