#pragma once
// Units. Every quantity inside the core is in study lengths (the study's length unit), radians and
// kilonewtons; a Dimension says which powers of length, angle and force it is. Metres per unit are exact by
// definition (international foot of 1959: 0.3048 m).

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>

namespace plume {

enum class LengthUnit { metre, centimetre, millimetre, foot, inch };
enum class AngleUnit { degree, radian };

struct Units {
    LengthUnit length = LengthUnit::metre;
    AngleUnit angle = AngleUnit::degree;
    bool operator==(const Units&) const = default;
};

// Powers of length, angle and force: {1, 0} a length, {2, 0} an area, {0, 1} an angle, {0, 0} a plain number.
struct Dimension {
    std::int16_t length = 0;
    std::int16_t angle = 0;
    std::int16_t force = 0;
    bool operator==(const Dimension&) const = default;
};
inline constexpr Dimension plain_number{0, 0};
inline constexpr Dimension a_length{1, 0};
inline constexpr Dimension an_angle{0, 1};
inline constexpr Dimension a_force{0, 0, 1};
inline constexpr Dimension a_force_per_length{-1, 0, 1};
// Of a times b to this power; a to a power.
Dimension product_of(Dimension a, Dimension b, int power = 1);
Dimension power_of(Dimension dimension, double power);

struct Quantity {
    double value = 0;  // in study lengths to their power, radians and kilonewtons to theirs
    Dimension dimension;
};

double metres_per(LengthUnit unit);
double radians_per(AngleUnit unit);

std::string_view symbol(LengthUnit unit);      // "m"
std::string_view symbol(AngleUnit unit);       // "°", "rad"
std::string_view plain_name(LengthUnit unit);  // "metres"
std::string_view plain_name(AngleUnit unit);   // "degrees"
std::string unit_names(const Units& units);    // "metres and degrees"
std::optional<LengthUnit> length_unit_from(std::string_view symbol);
std::optional<AngleUnit> angle_unit_from(std::string_view symbol);  // "°", "deg", "rad"
// One of a unit as it stands behind a number: "m", "m²", "°", "kN", "kN/m"; nothing for other words.
std::optional<Quantity> unit_quantity(std::string_view text, LengthUnit study);

// "m", "m²", "°", "m⁻¹", "kN/m", "" for a plain number.
std::string unit_text(Dimension dimension, const Units& units);
// "a length", "an angle", "a plain number", "an area", "a force", or the unit's text.
std::string dimension_name(Dimension dimension, const Units& units);
// How many of the shown units one internal unit is: 1 for lengths, 180/pi for an angle in degrees.
double shown_per_internal(Dimension dimension, const Units& units);
// How many internal units of a study a plain number 1 is that counts `plain` units.
double internal_per_plain(Dimension dimension, const Units& plain, const Units& study);
// "3.2 m", "30°", "24"
std::string quantity_text(const Quantity& quantity, const Units& units, int digits = 4);
// "0 m … 19.4 m"; an end that is nothing but rounding beside the other one reads 0.
std::string range_text(double least, double most, Dimension dimension, const Units& units);

}  // namespace plume
