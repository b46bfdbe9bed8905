#include "core/picture/sun.hpp"

#include <erfa.h>

#include <algorithm>
#include <array>
#include <chrono>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

constexpr double degrees = std::numbers::pi / 180;

Error out_of_range(std::string_view slot, std::string message, std::string mend) {
    return about_slot(Error{ErrorCode::out_of_range, "", std::move(message), std::move(mend)}, slot);
}

Status check(const SunMoment& moment) {
    if (!(std::abs(moment.latitude_rad) <= 90 * degrees))
        return out_of_range("latitude", "runs from 90° south to 90° north",
                            "Type from -90° to 90°, south of the equator with a minus.");
    if (!(std::abs(moment.longitude_rad) <= 180 * degrees))
        return out_of_range("longitude", "runs from 180° west to 180° east",
                            "Type from -180° to 180°, west of Greenwich with a minus.");
    if (!(moment.hour >= 0 && moment.hour <= 24))
        return out_of_range("hour", "runs from 0 to 24", "Type 15.5 for half past three in the afternoon.");
    if (!(std::abs(moment.hours_ahead_utc) <= 14))
        return out_of_range("zone", "is at most 14 hours from Universal Time",
                            "Type by how many hours the clocks there are ahead, behind with a minus.");
    // For which the library's theory of the earth's way is good.
    if (moment.year < 1900 || moment.year > 2100)
        return out_of_range("year", "runs from 1900 to 2100", "Type a year such as 2026.");
    using namespace std::chrono;
    const year_month_day date{year(moment.year), month(static_cast<unsigned>(moment.month)),
                              day(static_cast<unsigned>(moment.day))};
    if (!date.ok())
        return out_of_range("day", "is no day of that month", "Type one of its days, the first being 1.");
    return Done{};
}

// Two parts of a Julian date, as the library has them.
struct Instant {
    double day = 0, rest = 0;
};

Instant universal_of(const SunMoment& moment) {
    double epoch = 0, days = 0;
    eraCal2jd(moment.year, moment.month, moment.day, &epoch, &days);
    return {epoch + days, (moment.hour - moment.hours_ahead_utc) / 24};
}

Instant terrestrial_of(const Instant& universal) {
    Instant atomic, terrestrial;
    eraUtctai(universal.day, universal.rest, &atomic.day, &atomic.rest);
    eraTaitt(atomic.day, atomic.rest, &terrestrial.day, &terrestrial.rest);
    return terrestrial;
}

// Towards the sun as it is seen from the middle of the earth, in the frame of the stars.
std::array<double, 3> apparent_sun(const Instant& terrestrial) {
    constexpr double light_days_a_unit = 0.005775518331436995;  // that light takes for the mean distance
    double around_sun[2][3], around_middle[2][3];
    eraEpv00(terrestrial.day, terrestrial.rest, around_sun, around_middle);
    double distance = 0;
    std::array<double, 3> towards{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        distance = std::hypot(distance, around_sun[0][axis]);
    std::array<double, 3> speed{};  // of the earth, of light's
    double square = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        towards[axis] = -around_sun[0][axis] / distance;
        speed[axis] = around_middle[1][axis] * light_days_a_unit;
        square += speed[axis] * speed[axis];
    }
    std::array<double, 3> seen{};
    eraAb(towards.data(), speed.data(), distance, std::sqrt(1 - square), seen.data());
    return seen;
}

// How much air lifts what stands so high; less and less of it below the horizon, where nobody looks.
double refraction(double height_rad) {
    constexpr double least = -1, none = -6;
    const double height = height_rad / degrees, bent = std::max(least, height);
    const double minutes = 1.02 / std::tan((bent + 10.3 / (bent + 5.11)) * degrees);
    return minutes / 60 * degrees * std::clamp((height - none) / (least - none), 0.0, 1.0);
}

}  // namespace

Result<SunPlace> sun_place(const SunMoment& moment) {
    if (Status fine = check(moment); !fine) return fine.error();
    const Instant universal = universal_of(moment), terrestrial = terrestrial_of(universal);
    double to_date[3][3];
    eraPnm06a(terrestrial.day, terrestrial.rest, to_date);
    std::array<double, 3> stars = apparent_sun(terrestrial), equatorial{};
    eraRxp(to_date, stars.data(), equatorial.data());
    double ascension = 0, declination = 0, bearing = 0, height = 0;
    eraC2s(equatorial.data(), &ascension, &declination);
    const double turned = eraGst06a(universal.day, universal.rest, terrestrial.day, terrestrial.rest);
    eraHd2ae(turned + moment.longitude_rad - ascension, declination, moment.latitude_rad, &bearing, &height);
    // Seen from the ground, not from the middle of the earth.
    constexpr double parallax = 8.794 / 3600 * degrees;
    height -= parallax * std::cos(height);
    return SunPlace{bearing, height + refraction(height)};
}

Vec3 direction_of(const SunPlace& sun) {
    const double level = std::cos(sun.height_rad);
    return {level * std::sin(sun.bearing_rad), level * std::cos(sun.bearing_rad), std::sin(sun.height_rad)};
}

SunPlace place_of(Vec3 towards) {
    const double bearing = std::atan2(towards.x, towards.y);
    return {bearing < 0 ? bearing + 2 * std::numbers::pi : bearing,
            std::atan2(towards.z, std::hypot(towards.x, towards.y))};
}

}  // namespace plume
