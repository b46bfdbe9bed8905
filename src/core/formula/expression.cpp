#include "core/formula/expression.hpp"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <unordered_set>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/formula/functions.hpp"
#include "core/formula/tokens.hpp"
#include "core/formula/unit_tokens.hpp"

namespace plume {
namespace {

bool is_sign(const Token& token, std::string_view sign) {
    return token.type == TokenType::sign && token.text == sign;
}

// Whether the token names a quantity: not a function, a constant, a unit behind a number, or a word.
bool names_quantity(const std::vector<Token>& tokens, std::size_t index) {
    const Token& token = tokens[index];
    if (token.type != TokenType::name || is_sign(tokens[index + 1], "(")) return false;
    if (index > 0 && tokens[index - 1].type == TokenType::number && is_unit(token.text)) return false;
    return !is_reserved(token.text);
}

// Names that lines of a formula give: a name before a single =.
using NameSet = std::unordered_set<std::string_view>;
NameSet given_names(const std::vector<Token>& tokens) {
    NameSet names;
    for (std::size_t index = 0; index + 1 < tokens.size(); ++index)
        if (tokens[index].type == TokenType::name && is_sign(tokens[index + 1], "="))
            names.insert(tokens[index].text);
    return names;
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

// A number with at most a unit behind it, read without tokens: a study has thousands of such texts where
// something was recorded, and each is read at every moment. Nothing for whatever else the grammar allows.
struct BareNumber {
    double number = 0;
    std::string_view unit;
    Quantity one{1, plain_number};  // of that unit
};
std::optional<BareNumber> bare_number(std::string_view text, LengthUnit study = LengthUnit::metre) {
    constexpr std::size_t longest = 40;
    const bool minus = text.starts_with('-');
    if (minus) text.remove_prefix(1);
    if (text.empty() || text.size() > longest || text.front() < '0' || text.front() > '9') return {};
    BareNumber bare;
    const auto end = std::from_chars(text.data(), text.data() + text.size(), bare.number);
    if (end.ec != std::errc{} || !std::isfinite(bare.number)) return {};
    if (minus) bare.number = -bare.number;
    text.remove_prefix(static_cast<std::size_t>(end.ptr - text.data()));
    bare.unit = text.substr(std::min(text.find_first_not_of(' '), text.size()));
    if (bare.unit.empty()) return bare;
    const auto one = unit_quantity(bare.unit, study);
    if (!one) return {};
    bare.one = *one;
    return bare;
}

}  // namespace

Result<Quantity> evaluate(std::string_view text, const Scope& scope) {
    if (const auto bare = bare_number(text, scope.units.length))
        if (const double value = bare->number * bare->one.value; std::isfinite(value))
            return Quantity{value, bare->one.dimension};
    const auto checked = check_expression(text, {scope, {}, {}, UnitStrictness::slot});
    if (!checked) return checked.error();
    const Term& term = checked->terms.front();
    return Quantity{checked->graph[term.node].value, term.dimension};
}

Result<double> evaluate_as(Dimension wanted, std::string_view text, const Scope& scope) {
    const Result<Quantity> value = evaluate(text, scope);
    if (!value) return value.error();
    if (value->dimension == wanted) return value->value;
    if (value->dimension == plain_number)
        return value->value * internal_per_plain(wanted, scope.plain_units(), scope.units);
    return Error{ErrorCode::unit_mismatch, "",
                 "has to be " + dimension_name(wanted, scope.units) + ", and is " +
                     dimension_name(value->dimension, scope.units),
                 "Check the units in it."};
}

std::vector<std::string> names_used(std::string_view text) {
    std::vector<std::string> names;
    if (bare_number(text)) return names;
    const auto tokens = tokenize(text);
    if (!tokens) return names;
    NameSet seen = given_names(*tokens);
    for (std::size_t index = 0; index < tokens->size(); ++index)
        if (names_quantity(*tokens, index) && seen.insert((*tokens)[index].text).second)
            names.emplace_back((*tokens)[index].text);
    return names;
}

std::string with_renamed(std::string_view text, std::string_view from, std::string_view to) {
    const auto tokens = tokenize(text);
    if (!tokens) return std::string(text);
    if (given_names(*tokens).contains(from)) return std::string(text);
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

std::string without_equals(std::string_view text) {
    const std::size_t sign = text.find_first_not_of(' ');
    if (sign == std::string_view::npos || text[sign] != '=') return std::string(text);
    const std::size_t begin = text.find_first_not_of(' ', sign + 1);
    return begin == std::string_view::npos ? "" : std::string(text.substr(begin));
}

std::optional<Literal> read_literal(std::string_view text) {
    if (const auto bare = bare_number(text)) return Literal{bare->number, std::string(bare->unit)};
    const auto tokens = tokenize(text);
    if (!tokens) return {};
    std::size_t at = 0;
    const bool minus = (*tokens)[at].text == "-";
    if (minus || (*tokens)[at].text == "+") ++at;
    if ((*tokens)[at].type != TokenType::number) return {};
    Literal literal{minus ? -(*tokens)[at].number : (*tokens)[at].number, ""};
    ++at;
    const std::size_t count = unit_tokens(*tokens, at);
    literal.unit = unit_in(*tokens, at, count);
    at += count;
    if ((*tokens)[at].type != TokenType::end) return {};
    return literal;
}

std::string literal_text(const Literal& literal, int digits) {
    const std::string number = short_text(literal.number, digits);
    if (literal.unit.empty() || literal.unit == "°") return number + literal.unit;
    return number + ' ' + literal.unit;
}

Status check_name(std::string_view name) {
    const std::string place = "‘" + shortened(name, 80) + "’";
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

Status check_result_name(std::string_view name) {
    if (Status named = check_name(name); !named) return named;
    if (is_point_part(name))
        return Error{ErrorCode::bad_name, "‘" + std::string(name) + "’",
                     "is what formulas call a coordinate, a number or a share of a point",
                     "Choose another name."};
    return Done{};
}

std::string readable_name(std::string_view label) {
    std::string name = name_from(clipped(label, 60));
    if (name.empty() || (name.front() >= '0' && name.front() <= '9')) name.insert(0, "c");
    while (!check_result_name(name))
        name += '_';
    return name;
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
