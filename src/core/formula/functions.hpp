#pragma once
// The functions, constants and words of the formula language: one table that reading, help and completion
// share.

#include <optional>
#include <span>
#include <string>
#include <string_view>

#include "core/formula/operation.hpp"

namespace plume {

// What a function asks of its arguments' units and what unit its result has.
enum class UnitRule {
    keeps,              // any; the same
    rounds,             // any; the same, in whole plain units of it
    alike,              // all of one unit; that
    alike_then_number,  // all but the last of one unit, the last a plain number; that
    alike_to_number,    // all of one unit; a plain number
    alike_to_angle,     // all of one unit; an angle
    angle_to_number,
    number_to_angle,
    number_to_number,
    any_to_number,
    second_root,
    third_root,
    condition  // a condition, then two of one unit; that
};

struct FunctionSpec {
    std::string_view name;
    int least, most;  // arguments
    UnitRule rule;
    Operation operation;  // of as many operands as arguments; min, max, hypot join further ones pairwise
    std::string_view arguments;  // "edge, x"
    std::string_view help;       // one line
};

std::span<const FunctionSpec> formula_functions();
const FunctionSpec* find_function(std::string_view name);

struct ConstantSpec {
    std::string_view name;
    double value;
    std::string_view help;
};
std::span<const ConstantSpec> formula_constants();
const ConstantSpec* find_constant(std::string_view name);

bool is_unit(std::string_view name);
// Names that cannot be given to anything: functions, constants, units, and or not field.
bool is_reserved(std::string_view name);

// Names that every formula on points reads by itself: coordinates, numbers, shares, counts.
bool is_point_part(std::string_view name);

// "‘sin’ takes one argument", "‘clamp’ takes 3 arguments", "‘noise’ takes 1 to 3 arguments"
std::string arguments_text(const FunctionSpec& function);

}  // namespace plume
