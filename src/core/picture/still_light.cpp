#include "core/picture/still_light.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

float luminance(Colour c) {
    return 0.2126F * c.r + 0.7152F * c.g + 0.0722F * c.b;
}

// How many times as much air as straight up a ray passes (Kasten & Young, Revised optical air mass tables
// and approximation formula, Applied Optics 28, 1989).
double air_mass(double height_rad) {
    const double degrees = std::max(0.0, height_rad) * 180 / std::numbers::pi;
    return 1 / (std::sin(std::max(0.0, height_rad)) + 0.50572 * std::pow(degrees + 6.07995, -1.6364));
}

// What clear air lets through of red, green and blue, straight down: it scatters blue most.
Colour through_air(double mass) {
    const auto left = [&](double depth) { return static_cast<float>(std::exp(-depth * mass)); };
    return {left(0.10), left(0.15), left(0.26)};
}

constexpr double sun_spread = 0.00465;  // 0.533 degrees across

}  // namespace

Colour StillLight::sky(Vec3 from) const {
    if (from.z < 0) return mix(horizon, below, static_cast<float>(std::min(1.0, -8 * from.z)));
    return mix(horizon, zenith, static_cast<float>(std::sqrt(from.z)));
}

StillLight soft_light(const Camera& camera) {
    StillLight light;
    light.towards = camera.light();
    light.spread = 0.07;
    light.direct = {0.52F, 0.52F, 0.52F};
    light.ambient = {0.26F, 0.26F, 0.26F};
    light.zenith = light.horizon = light.below = {0.36F, 0.36F, 0.36F};
    light.ground_left = 0.55F;
    light.ground_direct = 0.22F;
    return light;
}

StillLight sun_light(Vec3 towards) {
    const double height = std::asin(std::clamp(towards.z, -1.0, 1.0));
    StillLight light;
    light.towards = towards;
    light.spread = sun_spread;
    // Below the horizon there is twilight, for some 18 degrees.
    if (towards.z > 0) light.direct = through_air(air_mass(height));
    const auto warm = static_cast<float>(std::exp(-std::max(0.0, height) / 0.16));
    light.zenith = mix({0.20F, 0.27F, 0.40F}, {0.16F, 0.19F, 0.30F}, warm);
    light.horizon = mix({0.40F, 0.44F, 0.48F}, {0.46F, 0.39F, 0.33F}, warm);
    const auto level = static_cast<float>(std::max(0.0, towards.z));
    light.below = (light.direct * level + light.horizon) * 0.22F;
    const float sky = luminance(mix(light.horizon, light.zenith, 0.7F));
    // As a camera that is set for what faces the light halfway.
    const float exposure = 1.08F / (luminance(light.direct) * std::max(level, 0.5F) + sky);
    for (Colour* colour : {&light.direct, &light.zenith, &light.horizon, &light.below})
        *colour = *colour * exposure;
    light.blocked = mix(light.horizon, light.zenith, 0.5F) * 0.35F + light.direct * (0.12F * level);
    const float lit = luminance(light.direct) * level, open = sky * exposure;
    light.ground_left = 0.30F;
    light.ground_direct = (1 - light.ground_left) * lit / (lit + open);
    light.sky_seen = 1.7F;
    return light;
}

}  // namespace plume
