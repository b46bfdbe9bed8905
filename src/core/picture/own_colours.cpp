#include "core/picture/own_colours.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/picture/drawable.hpp"

namespace plume {
namespace {

constexpr double steps = 127;

const Field* field_named(const std::vector<Field>& fields, const char* name) {
    const auto found = std::ranges::find(fields, name, &Field::name);
    return found == fields.end() ? nullptr : &*found;
}

// A channel of the hue circle: red is full within a sixth of a turn of its place, and falls straight to zero
// over the next sixth.
double channel(double turns, double place) {
    const double apart = std::abs(turns - place - std::round(turns - place));
    return std::clamp(2 - 6 * apart, 0.0, 1.0);
}

float packed(double turns, double saturation, double brightness) {
    if (!std::isfinite(turns) || !std::isfinite(saturation) || !std::isfinite(brightness))
        return not_finite_coordinate;
    double code = 0;
    for (const double place : {0.0, 1.0 / 3, 2.0 / 3}) {
        const double full = 1 - std::clamp(saturation, 0.0, 1.0) * (1 - channel(turns, place));
        code = code * 128 + std::round(std::clamp(brightness, 0.0, 1.0) * full * steps);
    }
    return first_own_coordinate - static_cast<float>(code);
}

}  // namespace

std::optional<std::vector<float>> own_colour_coordinates(const std::vector<Field>& fields) {
    const Field *hue = field_named(fields, "hue"), *saturation = field_named(fields, "saturation"),
                *brightness = field_named(fields, "brightness");
    const Field* any = hue ? hue : saturation ? saturation : brightness;
    if (!any) return {};
    std::vector<float> coordinates(any->values.size());
    for (std::size_t at = 0; at < coordinates.size(); ++at)
        coordinates[at] = packed(hue ? hue->values[at] / (2 * std::numbers::pi) : 0,
                                 saturation ? saturation->values[at] : (hue ? 1 : 0),
                                 brightness ? brightness->values[at] : 1);
    return coordinates;
}

float own_colour_coordinate(Rgb colour) {
    float code = 0;
    for (const float part : {colour.red, colour.green, colour.blue})
        code = code * 128 + std::round(std::clamp(part, 0.0F, 1.0F) * static_cast<float>(steps));
    return first_own_coordinate - code;
}

Rgb own_colour(float coordinate) {
    const int code = static_cast<int>(first_own_coordinate - coordinate);
    const auto share = [](int bits) { return static_cast<float>(bits & 127) / static_cast<float>(steps); };
    return {share(code >> 14), share(code >> 7), share(code)};
}

}  // namespace plume
