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

std::string unit_text(Dimension dimension, const Units& units) {
    std::string text = power_text(symbol(units.length), dimension.length);
    const std::string angle = power_text(symbol(units.angle), dimension.angle);
    if (!text.empty() && !angle.empty()) text += "·";
    return text + angle;
}

std::string dimension_name(Dimension dimension, const Units& units) {
    if (dimension == plain_number) return "a plain number";
    if (dimension == a_length) return "a length";
    if (dimension == an_angle) return "an angle";
    if (dimension == Dimension{2, 0}) return "an area";
    return "a quantity in " + unit_text(dimension, units);
}

double shown_per_internal(Dimension dimension, const Units& units) {
    return std::pow(radians_per(units.angle), -dimension.angle);
}

double internal_per_plain(Dimension dimension, const Units& plain, const Units& study) {
    if (plain.length == study.length) return 1 / shown_per_internal(dimension, plain);
    const double lengths = metres_per(plain.length) / metres_per(study.length);
    return std::pow(lengths, dimension.length) / shown_per_internal(dimension, plain);
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
