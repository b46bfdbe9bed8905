#include "core/base/units.hpp"

#include <array>
#include <cmath>
#include <numbers>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

struct LengthRow {
    LengthUnit unit;
    double metres;
    std::string_view symbol, name;
};
constexpr std::array<LengthRow, 5> lengths{{{LengthUnit::metre, 1, "m", "metres"},
                                            {LengthUnit::centimetre, 0.01, "cm", "centimetres"},
                                            {LengthUnit::millimetre, 0.001, "mm", "millimetres"},
                                            {LengthUnit::foot, 0.3048, "ft", "feet"},
                                            {LengthUnit::inch, 0.0254, "in", "inches"}}};

constexpr std::string_view force_symbol = "kN";

const LengthRow& row_of(LengthUnit unit) {
    return lengths[static_cast<std::size_t>(unit)];
}

std::string power_text(std::string_view unit, int power) {
    static constexpr std::array<std::string_view, 10> digits{"⁰", "¹", "²", "³", "⁴",
                                                             "⁵", "⁶", "⁷", "⁸", "⁹"};
    if (power == 0) return {};
    std::string text(unit);
    if (power == 1) return text;
    if (power < 0) text += "⁻";
    for (const char digit : std::to_string(std::abs(power)))
        text += digits[static_cast<std::size_t>(digit - '0')];
    return text;
}

}  // namespace

double metres_per(LengthUnit unit) {
    return row_of(unit).metres;
}

double radians_per(AngleUnit unit) {
    return unit == AngleUnit::degree ? std::numbers::pi / 180 : 1;
}

std::string_view symbol(LengthUnit unit) {
    return row_of(unit).symbol;
}

std::string_view symbol(AngleUnit unit) {
    return unit == AngleUnit::degree ? "°" : "rad";
}

std::string_view plain_name(LengthUnit unit) {
    return row_of(unit).name;
}

std::string_view plain_name(AngleUnit unit) {
    return unit == AngleUnit::degree ? "degrees" : "radians";
}

std::string unit_names(const Units& units) {
    return std::string(plain_name(units.length)) + " and " + std::string(plain_name(units.angle));
}

std::optional<LengthUnit> length_unit_from(std::string_view text) {
    for (const LengthRow& row : lengths)
        if (row.symbol == text) return row.unit;
    return {};
}

std::optional<AngleUnit> angle_unit_from(std::string_view text) {
    if (text == "°" || text == "deg") return AngleUnit::degree;
    if (text == "rad") return AngleUnit::radian;
    return {};
}

Dimension product_of(Dimension a, Dimension b, int power) {
    const auto sum = [&](std::int16_t of_a, std::int16_t of_b) {
        return static_cast<std::int16_t>(of_a + power * of_b);
    };
    return {sum(a.length, b.length), sum(a.angle, b.angle), sum(a.force, b.force)};
}

Dimension power_of(Dimension dimension, double power) {
    const auto times = [&](std::int16_t of) { return static_cast<std::int16_t>(std::lround(of * power)); };
    return {times(dimension.length), times(dimension.angle), times(dimension.force)};
}

namespace {

std::optional<Quantity> single_unit(std::string_view text, LengthUnit study) {
    constexpr std::pair<std::string_view, int> powers[] = {{"²", 2}, {"³", 3}};
    for (const auto& [sign, power] : powers)
        if (text.ends_with(sign)) {
            text.remove_suffix(sign.size());
            const auto length = length_unit_from(text);
            if (!length) return {};
            return Quantity{std::pow(metres_per(*length) / metres_per(study), power),
                            {static_cast<std::int16_t>(power), 0}};
        }
    if (const auto length = length_unit_from(text))
        return Quantity{metres_per(*length) / metres_per(study), a_length};
    if (const auto angle = angle_unit_from(text)) return Quantity{radians_per(*angle), an_angle};
    if (text == force_symbol) return Quantity{1, a_force};
    return {};
}

}  // namespace

std::optional<Quantity> unit_quantity(std::string_view text, LengthUnit study) {
    const std::size_t stroke = text.find('/');
    auto unit = single_unit(text.substr(0, stroke), study);
    if (!unit || stroke == std::string_view::npos) return unit;
    const auto below = unit_quantity(text.substr(stroke + 1), study);
    if (!below) return {};
    return Quantity{unit->value / below->value, product_of(unit->dimension, below->dimension, -1)};
}

std::string unit_text(Dimension dimension, const Units& units) {
    std::string text;
    const auto add = [&](const std::string& part, const char* between) {
        text += (text.empty() || part.empty() ? "" : between) + part;
    };
    add(power_text(force_symbol, dimension.force), "");
    const bool per_length = dimension.force > 0 && dimension.length < 0;
    add(power_text(symbol(units.length), per_length ? -dimension.length : dimension.length),
        per_length ? "/" : "·");
    add(power_text(symbol(units.angle), dimension.angle), "·");
    return text;
}

std::string dimension_name(Dimension dimension, const Units& units) {
    if (dimension == plain_number) return "a plain number";
    if (dimension == a_length) return "a length";
    if (dimension == an_angle) return "an angle";
    if (dimension == Dimension{2, 0}) return "an area";
    if (dimension == a_force) return "a force";
    if (dimension == a_force_per_length) return "a force per length";
    return "a quantity in " + unit_text(dimension, units);
}

double shown_per_internal(Dimension dimension, const Units& units) {
    return std::pow(radians_per(units.angle), -dimension.angle);
}

double internal_per_plain(Dimension dimension, const Units& plain, const Units& study) {
    if (plain.length == study.length) return 1 / shown_per_internal(dimension, plain);
    const double ratio = metres_per(plain.length) / metres_per(study.length);
    return std::pow(ratio, dimension.length) / shown_per_internal(dimension, plain);
}

std::string quantity_text(const Quantity& quantity, const Units& units, int digits) {
    const std::string number =
        short_text(quantity.value * shown_per_internal(quantity.dimension, units), digits);
    const std::string unit = unit_text(quantity.dimension, units);
    if (unit.empty() || unit == "°") return number + unit;
    return number + ' ' + unit;
}

std::string range_text(double least, double most, Dimension dimension, const Units& units) {
    constexpr double rounding = 1e-14;
    const double size = std::max(std::abs(least), std::abs(most));
    const auto text = [&](double value) {
        return quantity_text({std::abs(value) < rounding * size ? 0 : value, dimension}, units);
    };
    return text(least) + " … " + text(most);
}

}  // namespace plume
