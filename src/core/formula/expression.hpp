#pragma once
// Expressions in slots: ordinary arithmetic over named quantities, with units checked.
//
// The grammar is that of formulas (syntax.hpp), in one line. Trigonometry of a plain number reads it in the
// study's angle unit. Depth and length are bounded; nothing here throws.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"
#include "core/base/units.hpp"
#include "core/formula/formula.hpp"

namespace plume {

// The value in study lengths and radians; it is finite. Errors: those of check_expression().
Result<Quantity> evaluate(std::string_view text, const Scope& scope);

// The same, read as `wanted`: a plain number stands for that many study units of it.
Result<double> evaluate_as(Dimension wanted, std::string_view text, const Scope& scope);

// Names used in an expression or formula, in order of first use; functions, units and names its own lines
// give are left out. Empty for text that cannot be read.
std::vector<std::string> names_used(std::string_view text);
// `text` with every use of the name `from` replaced; a formula that gives the name itself stays as it is.
std::string with_renamed(std::string_view text, std::string_view from, std::string_view to);

// "= 36 m" and "36 m" are the same expression, in files and typed.
std::string without_equals(std::string_view text);

// A number with or without a unit, nothing else: "24", "-3.2 m", "30°".
struct Literal {
    double number = 0;
    std::string unit;  // as typed: "", "m", "°"
};
std::optional<Literal> read_literal(std::string_view text);
std::string literal_text(const Literal& literal, int digits = 12);

// Whether `name` can name a control or a result: letters, digits, _ and spaces are judged by the caller.
// A name starts with a letter, goes on with letters, digits or _, and is no function, unit or constant.
Status check_name(std::string_view name);
// The same for results and controls, which formulas read by name: not one of those that every formula on
// points reads by itself (x, y, z, i, j, k, u, v, w, count and its parts).
Status check_result_name(std::string_view name);

// A name that formulas can read, as like the label as can be: what no name can hold becomes _, ‘2nd’ is
// ‘c2nd’, and what means something already gets a _ behind it.
std::string readable_name(std::string_view label);

// The known name nearest to `name` by edit distance, if any is near enough to be a slip of the hand.
std::optional<std::string> closest_name(std::string_view name, const std::vector<std::string>& known);

}  // namespace plume
