#pragma once
// Where the sun stands, by place, day and hour: the earth's way, aberration, precession and nutation by ERFA
// (the IAU's Standards of Fundamental Astronomy), with the refraction of air at sea level (Saemundsson,
// Astronomical refraction, Sky & Telescope 72, 1986). East is +X, north +Y.

#include "core/base/error.hpp"
#include "core/data/vec3.hpp"

namespace plume {

struct SunMoment {
    double latitude_rad = 0;   // north
    double longitude_rad = 0;  // east
    int year = 2026, month = 6, day = 21;
    double hour = 12;            // of a clock
    double hours_ahead_utc = 0;  // how far that is ahead of Universal Time
};

struct SunPlace {
    double bearing_rad = 0;  // from north over east, 0 up to 2 pi
    double height_rad = 0;   // above the horizon, as it is seen there
};

// Errors: out_of_range, with the key of the moment's part as its slot: "latitude", "longitude", "day",
// "hour", "zone", "year".
Result<SunPlace> sun_place(const SunMoment& moment);

// Towards the sun, unit.
Vec3 direction_of(const SunPlace& sun);
SunPlace place_of(Vec3 towards);

}  // namespace plume
