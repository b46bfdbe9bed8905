#include "core/formula/expression.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"
#include "core/formula/tokens.hpp"

namespace plume {
namespace {

enum class UnitRule { keeps, square_root, angle_to_number };

struct Function {
    std::string_view name;
    double (*apply)(double);
    UnitRule rule;
};
constexpr std::array<Function, 8> functions{
    {{"abs", [](double v) { return std::abs(v); }, UnitRule::keeps},
     {"floor", [](double v) { return std::floor(v); }, UnitRule::keeps},
     {"ceil", [](double v) { return std::ceil(v); }, UnitRule::keeps},
     {"round", [](double v) { return std::round(v); }, UnitRule::keeps},
     {"sqrt", [](double v) { return std::sqrt(v); }, UnitRule::square_root},
     {"sin", [](double v) { return std::sin(v); }, UnitRule::angle_to_number},
     {"cos", [](double v) { return std::cos(v); }, UnitRule::angle_to_number},
     {"tan", [](double v) { return std::tan(v); }, UnitRule::angle_to_number}}};

const Function* find_function(std::string_view name) {
    const auto found = std::ranges::find(functions, name, &Function::name);
    return found == functions.end() ? nullptr : &*found;
}

bool is_unit(std::string_view name) {
    return length_unit_from(name) || angle_unit_from(name);
}

bool is_reserved(std::string_view name) {
    return find_function(name) || is_unit(name) || name == "min" || name == "max" || name == "pi";
}

Quantity with_unit(double number, std::string_view unit, const Units& units) {
    if (const auto length = length_unit_from(unit))
        return {number * (metres_per(*length) / metres_per(units.length)), a_length};
    if (const auto angle = angle_unit_from(unit)) return {number * radians_per(*angle), an_angle};
    return {number, plain_number};
}

// Recursive descent straight to the value. Every method returns the value of what it read or the first error.
class Parser {
public:
    Parser(std::string_view text, const std::vector<Token>& tokens, const Scope& scope)
        : text_(text), tokens_(tokens), scope_(scope) {}

    Result<Quantity> whole() {
        if (token().type == TokenType::end)
            return Error{ErrorCode::syntax, "", "is empty", "Type a number or an expression."};
        Result<Quantity> value = sum();
        if (!value) return value;
        if (token().type == TokenType::end) return value;
        if (token().type == TokenType::sign) return unexpected();
        const Token& before = tokens_[at_ - 1];
        return Error{ErrorCode::syntax, "",
                     "an operator is missing between ‘" + std::string(before.text) + "’ and ‘" +
                         text_of(token()) + "’ " + here(),
                     "Write * for a product, as in 2*x."};
    }

private:
    const Token& token() const { return tokens_[at_]; }
    bool take(std::string_view sign) {
        if (token().type != TokenType::sign || token().text != sign) return false;
        ++at_;
        return true;
    }
    std::string here() const { return column_text(text_, token().offset); }
    static std::string text_of(const Token& token) { return std::string(token.text); }

    Error unexpected() const {
        if (token().type == TokenType::end)
            return {ErrorCode::syntax, "", "ends where a number or a name is expected",
                    "Finish the expression."};
        return {ErrorCode::syntax, "", "‘" + text_of(token()) + "’ " + here() + " is not expected there",
                "Check the brackets and operators."};
    }

    Error mismatch(std::string_view doing, Dimension a, Dimension b) const {
        std::string mend = "Give both the same unit";
        if ((a == plain_number) != (b == plain_number)) {
            const Dimension other = a == plain_number ? b : a;
            if (const std::string unit = unit_text(other, scope_.units); !unit.empty())
                mend += ", for example 1 " + unit;
        }
        return {ErrorCode::unit_mismatch, "",
                "cannot " + std::string(doing) + " " + dimension_name(a, scope_.units) + " and " +
                    dimension_name(b, scope_.units),
                mend + "."};
    }

    Result<Quantity> finite(Quantity value) const {
        if (std::isfinite(value.value)) return value;
        return Error{ErrorCode::not_finite, "", "does not come to a finite number",
                     "Check for roots of negative numbers and very large powers."};
    }

    Result<Quantity> sum() {
        Result<Quantity> left = product();
        while (left && token().type == TokenType::sign && (token().text == "+" || token().text == "-")) {
            const bool minus = token().text == "-";
            ++at_;
            Result<Quantity> right = product();
            if (!right) return right;
            if (left->dimension != right->dimension)
                return mismatch(minus ? "subtract" : "add", left->dimension, right->dimension);
            left = finite({minus ? left->value - right->value : left->value + right->value, left->dimension});
        }
        return left;
    }

    Result<Quantity> product() {
        Result<Quantity> left = unary();
        while (left && token().type == TokenType::sign && (token().text == "*" || token().text == "/")) {
            const bool divide = token().text == "/";
            ++at_;
            Result<Quantity> right = unary();
            if (!right) return right;
            if (divide && right->value == 0)
                return Error{ErrorCode::division_by_zero, "", "divides by zero", "Divide by something else."};
            const Dimension a = left->dimension, b = right->dimension;
            const int turn = divide ? -1 : 1;
            const Dimension unit{static_cast<std::int16_t>(a.length + turn * b.length),
                                 static_cast<std::int16_t>(a.angle + turn * b.angle)};
            left = finite({divide ? left->value / right->value : left->value * right->value, unit});
        }
        return left;
    }

    Result<Quantity> unary() {
        if (++depth_ > deepest_expression)
            return Error{ErrorCode::too_deep, "", "is nested too deeply " + here(),
                         "Split it into several controls."};
        Result<Quantity> value = [&]() -> Result<Quantity> {
            if (take("+")) return unary();
            if (!take("-")) return power();
            Result<Quantity> inner = unary();
            if (inner) inner->value = -inner->value;
            return inner;
        }();
        --depth_;
        return value;
    }

    Result<Quantity> power() {
        Result<Quantity> base = operand();
        if (!base || !take("^")) return base;
        Result<Quantity> exponent = unary();
        if (!exponent) return exponent;
        if (exponent->dimension != plain_number)
            return Error{ErrorCode::unit_mismatch, "",
                         "has a power that is " + dimension_name(exponent->dimension, scope_.units),
                         "Powers are plain numbers."};
        const double power = exponent->value;
        Dimension unit = base->dimension;
        if (unit != plain_number) {
            if (power != std::round(power) || std::abs(power) > 8)
                return Error{ErrorCode::unit_mismatch, "",
                             "raises a quantity with a unit to the power " + short_text(power),
                             "Use whole powers from -8 to 8 there."};
            unit = {static_cast<std::int16_t>(unit.length * static_cast<int>(power)),
                    static_cast<std::int16_t>(unit.angle * static_cast<int>(power))};
        }
        return finite({std::pow(base->value, power), unit});
    }

    Result<Quantity> operand() {
        if (take("(")) {
            Result<Quantity> inner = sum();
            if (inner && !take(")"))
                return Error{ErrorCode::syntax, "", "a closing bracket is missing " + here(), "Add a )."};
            return inner;
        }
        const Token first = token();
        if (first.type == TokenType::number) {
            ++at_;
            if (token().type != TokenType::name || !is_unit(token().text))
                return Quantity{first.number, plain_number};
            const std::string_view unit = token().text;
            ++at_;
            return finite(with_unit(first.number, unit, scope_.units));
        }
        if (first.type != TokenType::name) return unexpected();
        ++at_;
        if (take("(")) return call(first);
        return named(first);
    }

    Result<Quantity> named(const Token& name) const {
        if (name.text == "pi") return Quantity{std::numbers::pi, plain_number};
        if (scope_.find)
            if (const auto found = scope_.find(name.text)) return finite(*found);
        std::string mend = "Names are those of the study's controls.";
        if (is_unit(name.text))
            mend = "A unit follows a number, as in 2 " + text_of(name) + ".";
        else if (find_function(name.text))
            mend = "Give the function its argument in brackets.";
        else if (const auto close = closest_name(name.text, scope_.known_names))
            mend = "Did you mean ‘" + *close + "’?";
        return Error{ErrorCode::unknown_name, "",
                     "‘" + text_of(name) + "’ " + column_text(text_, name.offset) + " is not known", mend};
    }

    Result<Quantity> call(const Token& name) {
        std::vector<Quantity> arguments;
        do {
            Result<Quantity> argument = sum();
            if (!argument) return argument;
            arguments.push_back(*argument);
        } while (take(","));
        if (!take(")"))
            return Error{ErrorCode::syntax, "", "a closing bracket is missing " + here(), "Add a )."};
        if (name.text == "min" || name.text == "max") return extreme(name.text == "max", arguments);
        const Function* function = find_function(name.text);
        if (!function)
            return Error{ErrorCode::unknown_name, "",
                         "there is no function ‘" + text_of(name) + "’ " + column_text(text_, name.offset),
                         "Functions are min, max, abs, sqrt, floor, ceil, round, sin, cos and tan."};
        if (arguments.size() != 1)
            return Error{
                ErrorCode::syntax, "",
                "‘" + text_of(name) + "’ takes one argument and has " + std::to_string(arguments.size()),
                "Leave just one."};
        return apply(*function, arguments.front());
    }

    Result<Quantity> extreme(bool largest, const std::vector<Quantity>& arguments) const {
        Quantity best = arguments.front();
        for (const Quantity& argument : arguments) {
            if (argument.dimension != best.dimension)
                return mismatch("compare", best.dimension, argument.dimension);
            if (largest ? argument.value > best.value : argument.value < best.value) best = argument;
        }
        return best;
    }

    Result<Quantity> apply(const Function& function, Quantity argument) const {
        Dimension unit = argument.dimension;
        if (function.rule == UnitRule::square_root) {
            if (unit.length % 2 != 0 || unit.angle % 2 != 0)
                return Error{ErrorCode::unit_mismatch, "",
                             "takes the root of " + dimension_name(unit, scope_.units),
                             "Roots need a plain number or an area."};
            unit = {static_cast<std::int16_t>(unit.length / 2), static_cast<std::int16_t>(unit.angle / 2)};
        }
        if (function.rule == UnitRule::angle_to_number) {
            if (unit != plain_number && unit != an_angle)
                return Error{
                    ErrorCode::unit_mismatch, "",
                    "takes the " + std::string(function.name) + " of " + dimension_name(unit, scope_.units),
                    "Give it an angle, such as 30°."};
            if (unit == plain_number) argument.value *= radians_per(scope_.units.angle);
            unit = plain_number;
        }
        return finite({function.apply(argument.value), unit});
    }

    std::string_view text_;
    const std::vector<Token>& tokens_;
    const Scope& scope_;
    std::size_t at_ = 0;
    int depth_ = 0;
};

// Whether the token at `index` is a name that stands for a quantity.
bool names_quantity(const std::vector<Token>& tokens, std::size_t index) {
    if (tokens[index].type != TokenType::name || is_reserved(tokens[index].text)) return false;
    return tokens[index + 1].text != "(";
}

std::size_t edit_distance(std::string_view a, std::string_view b) {
    std::vector<std::size_t> row(b.size() + 1);
    for (std::size_t j = 0; j <= b.size(); ++j)
        row[j] = j;
    for (std::size_t i = 1; i <= a.size(); ++i) {
        std::size_t diagonal = row[0];
        row[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const std::size_t above = row[j];
            row[j] = std::min({above + 1, row[j - 1] + 1, diagonal + (a[i - 1] == b[j - 1] ? 0 : 1)});
            diagonal = above;
        }
    }
    return row[b.size()];
}

}  // namespace

Result<Quantity> evaluate(std::string_view text, const Scope& scope) {
    if (text.size() > longest_expression)
        return Error{ErrorCode::syntax, "", "is " + std::to_string(text.size()) + " characters long",
                     "Expressions have at most " + std::to_string(longest_expression) + "."};
    const auto tokens = tokenize(text);
    if (!tokens) return tokens.error();
    return Parser(text, *tokens, scope).whole();
}

Result<double> evaluate_as(Dimension wanted, std::string_view text, const Scope& scope) {
    const Result<Quantity> value = evaluate(text, scope);
    if (!value) return value.error();
    if (value->dimension == wanted) return value->value;
    if (value->dimension == plain_number) return value->value / shown_per_internal(wanted, scope.units);
    return Error{ErrorCode::unit_mismatch, "",
                 "has to be " + dimension_name(wanted, scope.units) + ", and is " +
                     dimension_name(value->dimension, scope.units),
                 "Check the units in it."};
}

std::vector<std::string> names_used(std::string_view text) {
    std::vector<std::string> names;
    const auto tokens = tokenize(text);
    if (!tokens) return names;
    for (std::size_t index = 0; index < tokens->size(); ++index) {
        if (!names_quantity(*tokens, index)) continue;
        std::string name((*tokens)[index].text);
        if (std::ranges::find(names, name) == names.end()) names.push_back(std::move(name));
    }
    return names;
}

std::string with_renamed(std::string_view text, std::string_view from, std::string_view to) {
    const auto tokens = tokenize(text);
    if (!tokens) return std::string(text);
    std::string result;
    std::size_t copied = 0;
    for (std::size_t index = 0; index < tokens->size(); ++index) {
        const Token& token = (*tokens)[index];
        if (token.text != from || !names_quantity(*tokens, index)) continue;
        result += text.substr(copied, token.offset - copied);
        result += to;
        copied = token.offset + token.text.size();
    }
    return result + std::string(text.substr(copied));
}

std::optional<Literal> read_literal(std::string_view text) {
    const auto tokens = tokenize(text);
    if (!tokens) return {};
    std::size_t at = 0;
    const bool minus = (*tokens)[at].text == "-";
    if (minus || (*tokens)[at].text == "+") ++at;
    if ((*tokens)[at].type != TokenType::number) return {};
    Literal literal{minus ? -(*tokens)[at].number : (*tokens)[at].number, ""};
    ++at;
    if (is_unit((*tokens)[at].text)) literal.unit = (*tokens)[at++].text;
    if ((*tokens)[at].type != TokenType::end) return {};
    return literal;
}

std::string literal_text(const Literal& literal, int digits) {
    const std::string number = short_text(literal.number, digits);
    if (literal.unit.empty() || literal.unit == "°") return number + literal.unit;
    return number + ' ' + literal.unit;
}

Status check_name(std::string_view name) {
    const std::string place = "‘" + std::string(name) + "’";
    const auto tokens = tokenize(name);
    if (!tokens || tokens->size() != 2 || tokens->front().type != TokenType::name ||
        tokens->front().text != name)
        return Error{ErrorCode::bad_name, place, "cannot be a name",
                     "Start with a letter and go on with letters, digits or _, as in ‘swell_2’."};
    if (is_reserved(name))
        return Error{ErrorCode::bad_name, place, "already means a unit, a function or a constant",
                     "Choose another name."};
    if (name.size() > 80)
        return Error{ErrorCode::bad_name, place, "is too long for a name", "Use at most 80 letters."};
    return Done{};
}

std::optional<std::string> closest_name(std::string_view name, const std::vector<std::string>& known) {
    std::optional<std::string> best;
    std::size_t least = std::max<std::size_t>(1, name.size() / 3) + 1;
    for (const std::string& candidate : known) {
        const std::size_t distance = edit_distance(name, candidate);
        if (distance >= least) continue;
        least = distance;
        best = candidate;
    }
    return best;
}

}  // namespace plume
