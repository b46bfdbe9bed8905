#include "core/picture/sun.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace plume {
namespace {

constexpr double degree = std::numbers::pi / 180;

// Reda & Andreas, Solar position algorithm for solar radiation applications, NREL/TP-560-34302, 2008,
// appendix A.5: 194.340241 degrees from north, 39.872046 high before the air bends it.
TEST(Sun, StandsWhereThePublishedExampleSays) {
    const auto sun = sun_place({39.742476 * degree, -105.1786 * degree, 2003, 10, 17, 12 + 30.5 / 60, -7});
    ASSERT_TRUE(sun);
    EXPECT_NEAR(sun->bearing_rad / degree, 194.340241, 0.005);
    EXPECT_NEAR(sun->height_rad / degree, 39.872046, 0.03) << "air lifts it by a fiftieth of a degree";
    EXPECT_GT(sun->height_rad / degree, 39.872046);
}

// Seen from the pole it stands as high as its declination, but for its parallax: Meeus, Astronomical
// algorithms, example 25.b (1992, October 13, 0 h of dynamical time: -7 degrees 47' 01.74"), and the solstice
// of 2024, which stands in every almanac (December 21, 9:21, the tilt of the earth's axis being 23.4359
// degrees then).
TEST(Sun, StandsAsHighAsItsDeclinationAtThePole) {
    // Universal time was 59 seconds behind.
    const double parallax = 8.794 / 3600;
    const auto example = sun_place({90 * degree, 0, 1992, 10, 12, 24 - 59.0 / 3600, 0});
    ASSERT_TRUE(example);
    EXPECT_NEAR(example->height_rad / degree, -(7 + 47 / 60.0 + 1.74 / 3600) - parallax, 1e-4);
    const auto solstice = sun_place({90 * degree, 0, 2024, 12, 21, 9.35, 0});
    ASSERT_TRUE(solstice);
    EXPECT_NEAR(solstice->height_rad / degree, -23.4359, 0.005);
}

TEST(Sun, ClocksAheadAreEarlier) {
    const SunMoment moment{54 * degree, degree, 2026, 6, 21, 13, 0};
    SunMoment ahead = moment;
    ahead.hour = 15;
    ahead.hours_ahead_utc = 2;
    EXPECT_NEAR(sun_place(moment)->height_rad, sun_place(ahead)->height_rad, 1e-9);
    // Past midnight it is another day there.
    SunMoment late = moment, early = moment;
    late.hour = 23;
    early.day = 22;
    early.hour = 1;
    early.hours_ahead_utc = 2;
    EXPECT_NEAR(sun_place(late)->bearing_rad, sun_place(early)->bearing_rad, 1e-9);
}

TEST(Sun, DirectionsAndPlacesAreEachOther) {
    for (const double bearing : {0.0, 1.0, 3.0, 6.0})
        for (const double height : {-0.4, 0.0, 1.2}) {
            const SunPlace back = place_of(direction_of({bearing, height}));
            EXPECT_NEAR(back.bearing_rad, bearing, 1e-12);
            EXPECT_NEAR(back.height_rad, height, 1e-12);
        }
    EXPECT_NEAR(direction_of({std::numbers::pi / 2, 0}).x, 1, 1e-12) << "east is +X";
}

TEST(Sun, WhatCannotBeIsNamed) {
    const auto wrong = [](auto change) {
        SunMoment moment;
        change(moment);
        const auto sun = sun_place(moment);
        return sun ? std::string() : sun.error().slot;
    };
    EXPECT_EQ(wrong([](SunMoment& m) { m.latitude_rad = 2; }), "latitude");
    EXPECT_EQ(wrong([](SunMoment& m) { m.longitude_rad = NAN; }), "longitude");
    EXPECT_EQ(wrong([](SunMoment& m) { m.hour = 25; }), "hour");
    EXPECT_EQ(wrong([](SunMoment& m) { m.hours_ahead_utc = 20; }), "zone");
    EXPECT_EQ(wrong([](SunMoment& m) { m.year = 99'999; }), "year");
    EXPECT_EQ(wrong([](SunMoment& m) {
                  m.month = 2;
                  m.day = 30;
              }),
              "day");
    EXPECT_EQ(wrong([](SunMoment& m) {
                  m.year = 2024;
                  m.month = 2;
                  m.day = 29;
              }),
              "");
}

}  // namespace
}  // namespace plume
