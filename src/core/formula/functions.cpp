#include "core/formula/functions.hpp"

#include <algorithm>
#include <array>
#include <numbers>

#include "core/base/units.hpp"

namespace plume {
namespace {

using enum Operation;
using enum UnitRule;

constexpr int many = 16;

constexpr std::array<FunctionSpec, 41> functions{{
    {"sin", 1, 1, angle_to_number, sine, "a", "sine; a plain number counts the study's angle unit"},
    {"cos", 1, 1, angle_to_number, cosine, "a", "cosine; a plain number counts the study's angle unit"},
    {"tan", 1, 1, angle_to_number, tangent, "a", "tangent; a plain number counts the study's angle unit"},
    {"asin", 1, 1, number_to_angle, arc_sine, "x", "the angle whose sine is x, -90° to 90°"},
    {"acos", 1, 1, number_to_angle, arc_cosine, "x", "the angle whose cosine is x, 0° to 180°"},
    {"atan", 1, 1, number_to_angle, arc_tangent, "x", "the angle whose tangent is x, -90° to 90°"},
    {"atan2", 2, 2, alike_to_angle, arc_tangent_2, "y, x", "the angle of the direction x, y from +X"},
    {"sinh", 1, 1, number_to_number, hyperbolic_sine, "x", "hyperbolic sine"},
    {"cosh", 1, 1, number_to_number, hyperbolic_cosine, "x", "hyperbolic cosine: a hanging chain"},
    {"tanh", 1, 1, number_to_number, hyperbolic_tangent, "x", "hyperbolic tangent: from -1 to 1, soft"},
    {"asinh", 1, 1, number_to_number, area_hyperbolic_sine, "x", "inverse of sinh"},
    {"acosh", 1, 1, number_to_number, area_hyperbolic_cosine, "x", "inverse of cosh, from 1 on"},
    {"atanh", 1, 1, number_to_number, area_hyperbolic_tangent, "x", "inverse of tanh, between -1 and 1"},
    {"exp", 1, 1, number_to_number, exponential, "x", "e to the power x"},
    {"ln", 1, 1, number_to_number, logarithm, "x", "natural logarithm"},
    {"log10", 1, 1, number_to_number, logarithm_10, "x", "logarithm to base 10"},
    {"log2", 1, 1, number_to_number, logarithm_2, "x", "logarithm to base 2"},
    {"sqrt", 1, 1, UnitRule::second_root, square_root, "x", "square root"},
    {"cbrt", 1, 1, UnitRule::third_root, cube_root, "x", "cube root, of negative numbers too"},
    {"abs", 1, 1, keeps, absolute, "x", "without its sign"},
    {"sign", 1, 1, any_to_number, Operation::sign, "x", "-1, 0 or 1"},
    {"floor", 1, 1, UnitRule::rounds, Operation::floor, "x",
     "the whole number at or below; of a length in the study's unit"},
    {"ceil", 1, 1, UnitRule::rounds, Operation::ceil, "x", "the whole number at or above"},
    {"round", 1, 1, UnitRule::rounds, Operation::round, "x",
     "the nearest whole number, halves away from zero"},
    {"trunc", 1, 1, UnitRule::rounds, Operation::trunc, "x", "without its decimals"},
    {"fract", 1, 1, UnitRule::rounds, Operation::fract, "x", "what floor leaves: from 0 to just below 1"},
    {"mod", 2, 2, alike, modulo, "x, y", "what is left of x by whole y, with the sign of y"},
    {"min", 1, many, alike, minimum, "a, b, …", "the smallest"},
    {"max", 1, many, alike, maximum, "a, b, …", "the largest"},
    {"clamp", 3, 3, alike, Operation::clamp, "x, low, high", "x kept between low and high"},
    {"mix", 3, 3, alike_then_number, Operation::mix, "a, b, t", "a at t = 0, b at t = 1, straight between"},
    {"step", 2, 2, alike_to_number, Operation::step, "edge, x", "0 below the edge, 1 from it on"},
    {"smoothstep", 3, 3, alike_to_number, smooth_step, "low, high, x", "from 0 to 1, soft at both ends"},
    {"hypot", 2, many, alike, hypotenuse, "a, b, …", "root of the sum of squares"},
    {"gauss", 1, 2, alike_to_number, exponential, "x, width", "a bell: 1 at 0, width is its deviation"},
    {"saw", 1, 1, angle_to_number, saw_wave, "a", "rises from -1 to 1 each turn, 0 at 0"},
    {"triangle", 1, 1, angle_to_number, triangle_wave, "a", "like a sine, of straight pieces"},
    {"square", 1, 1, angle_to_number, square_wave, "a", "1 in the first half of each turn, then -1"},
    {"noise", 1, 3, any_to_number, noise_1, "x, y, z", "smooth noise between -1 and 1, 0 at whole numbers"},
    {"random", 1, 1, any_to_number, Operation::random, "seed", "another number of 0 to 1 on each point"},
    {"if", 3, 3, condition, select, "condition, a, b", "a where the condition holds, else b"},
}};

constexpr std::array<ConstantSpec, 3> constants{
    {{"pi", std::numbers::pi, "half a turn in radians, 3.14159…"},
     {"tau", 2 * std::numbers::pi, "a turn in radians, 6.28319…"},
     {"e", std::numbers::e, "base of natural logarithms, 2.71828…"}}};

}  // namespace

std::span<const FunctionSpec> formula_functions() {
    return functions;
}

const FunctionSpec* find_function(std::string_view name) {
    const auto found = std::ranges::find(functions, name, &FunctionSpec::name);
    return found == functions.end() ? nullptr : &*found;
}

std::span<const ConstantSpec> formula_constants() {
    return constants;
}

const ConstantSpec* find_constant(std::string_view name) {
    const auto found = std::ranges::find(constants, name, &ConstantSpec::name);
    return found == constants.end() ? nullptr : &*found;
}

bool is_unit(std::string_view name) {
    return unit_quantity(name, LengthUnit::metre).has_value();
}

bool is_reserved(std::string_view name) {
    return find_function(name) || find_constant(name) || is_unit(name) || name == "and" || name == "or" ||
           name == "not" || name == "field";
}

bool is_point_part(std::string_view name) {
    static constexpr std::array<std::string_view, 13> parts{
        "x", "y", "z", "i", "j", "k", "u", "v", "w", "count", "count_i", "count_j", "count_k"};
    return std::ranges::find(parts, name) != parts.end();
}

std::string arguments_text(const FunctionSpec& function) {
    std::string count = std::to_string(function.least);
    if (function.most == many)
        count += " or more";
    else if (function.most != function.least)
        count += " to " + std::to_string(function.most);
    else if (function.least == 1)
        count = "one";
    const bool one = function.most == 1;
    return "‘" + std::string(function.name) + "’ takes " + count + (one ? " argument" : " arguments");
}

}  // namespace plume
