#include "core/picture/ramp.hpp"

#include <algorithm>
#include <cmath>

namespace plume {
namespace {

struct Lab {
    double lightness, a, b;
};

using Stations = std::array<Lab, 5>;

// Lightness even by construction; a and b chosen for the colours a ramp is named after.
constexpr std::array<Stations, ramp_count> ramps{{
    // slate, teal, moss, straw, sand
    {{{0.34, -0.020, -0.055},
      {0.46, -0.069, -0.029},
      {0.58, -0.080, 0.032},
      {0.70, -0.055, 0.095},
      {0.82, 0.005, 0.125}}},
    // plum, rose, terracotta, apricot, straw
    {{{0.30, 0.060, -0.070},
      {0.445, 0.130, -0.030},
      {0.59, 0.130, 0.050},
      {0.735, 0.065, 0.110},
      {0.88, -0.010, 0.110}}},
    // deep blue, light blue, pale, light ochre, deep ochre: blue against orange is told apart by everyone
    {{{0.44, -0.030, -0.120},
      {0.69, -0.030, -0.060},
      {0.94, 0.000, 0.010},
      {0.69, 0.050, 0.090},
      {0.44, 0.075, 0.085}}},
    {{{0.25, 0, 0}, {0.4125, 0, 0}, {0.575, 0, 0}, {0.7375, 0, 0}, {0.90, 0, 0}}},
}};

double to_srgb(double linear) {
    const double value = std::clamp(linear, 0.0, 1.0);
    return value <= 0.0031308 ? 12.92 * value : 1.055 * std::pow(value, 1 / 2.4) - 0.055;
}

Rgb srgb_of(const Lab& lab) {
    const double l = std::pow(lab.lightness + 0.3963377774 * lab.a + 0.2158037573 * lab.b, 3);
    const double m = std::pow(lab.lightness - 0.1055613458 * lab.a - 0.0638541728 * lab.b, 3);
    const double s = std::pow(lab.lightness - 0.0894841775 * lab.a - 1.2914855480 * lab.b, 3);
    return {static_cast<float>(to_srgb(4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s)),
            static_cast<float>(to_srgb(-1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s)),
            static_cast<float>(to_srgb(-0.0041960863 * l - 0.7034186147 * m + 1.7076147010 * s))};
}

}  // namespace

Rgb ramp_colour(Ramp ramp, double at) {
    const Stations& stations = ramps[static_cast<std::size_t>(ramp)];
    const double place = std::clamp(at, 0.0, 1.0) * static_cast<double>(stations.size() - 1);
    const auto index = std::min(static_cast<std::size_t>(place), stations.size() - 2);
    const double share = place - static_cast<double>(index);
    const Lab &from = stations[index], &to = stations[index + 1];
    return srgb_of({std::lerp(from.lightness, to.lightness, share), std::lerp(from.a, to.a, share),
                    std::lerp(from.b, to.b, share)});
}

Rgb ramp_colour(const RampStyle& style, double at) {
    double place = std::clamp(at, 0.0, 1.0);
    if (style.steps > 0) {
        const double step = std::min(std::floor(place * style.steps), style.steps - 1.0);
        place = style.steps == 1 ? 0.5 : step / (style.steps - 1.0);
    }
    return ramp_colour(style.ramp, style.reversed ? 1 - place : place);
}

Rgb plain_colour_of(const std::optional<Material>& material) {
    if (!material) return plain_colour;
    const auto part = [&](unsigned shift) {
        return static_cast<float>((material->colour >> shift) & 0xFFU) / 255.0F;
    };
    return {part(16), part(8), part(0)};
}

}  // namespace plume
