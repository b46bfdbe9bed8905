// Soap films: against the catenoid, planes and what has no film.

#include "core/forces/smallest_surface.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

namespace plume::test {
namespace {

struct Tube {
    std::vector<Vec3> places;
    std::vector<std::array<std::uint32_t, 3>> triangles;
    std::vector<std::uint8_t> held;
};

// A cylinder of radius 1 between two rings, `apart` from each other.
Tube tube(std::size_t around, std::size_t along, double apart) {
    Tube made;
    for (std::size_t j = 0; j <= along; ++j)
        for (std::size_t i = 0; i < around; ++i) {
            const double turn = 2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(around);
            made.places.push_back({std::cos(turn), std::sin(turn),
                                   apart * static_cast<double>(j) / static_cast<double>(along)});
            made.held.push_back(j == 0 || j == along ? 1 : 0);
        }
    const auto at = [&](std::size_t i, std::size_t j) {
        return static_cast<std::uint32_t>(i % around + j * around);
    };
    for (std::size_t j = 0; j < along; ++j)
        for (std::size_t i = 0; i < around; ++i) {
            made.triangles.push_back({at(i, j), at(i + 1, j), at(i + 1, j + 1)});
            made.triangles.push_back({at(i, j), at(i + 1, j + 1), at(i, j + 1)});
        }
    return made;
}

// a cosh(1 / 2a) = 1: the catenoid between rings of radius 1 that are 1 apart.
TEST(SmallestSurface, BetweenTwoRingsIsACatenoid) {
    double low = 0.6, high = 1;
    for (int halving = 0; halving < 100; ++halving) {
        const double a = (low + high) / 2;
        (a * std::cosh(0.5 / a) > 1 ? high : low) = a;
    }
    const double waist = low, area = std::numbers::pi * waist * (1 + waist * std::sinh(1 / waist));
    double before = 0;
    for (const std::size_t fine : {1, 2}) {
        const Tube start = tube(48 * fine, 16 * fine, 1);
        const auto made = smallest_surface(start.places, start.triangles, start.held, 500, plume::Run());
        ASSERT_TRUE(made) << sentence(made.error());
        EXPECT_TRUE(made->settled);
        EXPECT_LT(made->area, made->area_before);
        const double off = std::abs(made->area - area) / area;
        EXPECT_LT(off, 6e-3 / static_cast<double>(fine * fine));
        if (before > 0) {
            EXPECT_NEAR(before / off, 4, 0.3);
        }
        before = off;
        const Vec3 middle = made->places[48 * fine * 8 * fine];
        EXPECT_NEAR(std::hypot(middle.x, middle.y), waist, 8e-3 / static_cast<double>(fine * fine));
    }
}

TEST(SmallestSurface, WithinAFlatBorderIsFlat) {
    Tube sheet;
    constexpr std::uint32_t side = 9;
    for (std::uint32_t j = 0; j < side; ++j)
        for (std::uint32_t i = 0; i < side; ++i) {
            const bool rim = i == 0 || j == 0 || i + 1 == side || j + 1 == side;
            sheet.places.push_back({double(i), double(j), rim ? 0 : std::sin(3.0 * i + 5.0 * j)});
            sheet.held.push_back(rim ? 1 : 0);
            if (i == 0 || j == 0) continue;
            const std::uint32_t at = i + j * side;
            sheet.triangles.push_back({at - side - 1, at - side, at});
            sheet.triangles.push_back({at - side - 1, at, at - 1});
        }
    const auto made = smallest_surface(sheet.places, sheet.triangles, sheet.held, 100, plume::Run());
    ASSERT_TRUE(made);
    for (const Vec3 place : made->places)
        EXPECT_NEAR(place.z, 0, 1e-12);
    EXPECT_NEAR(made->area, 64, 1e-10);
}

TEST(SmallestSurface, RingsThatAreTooFarApartHaveNone) {
    const Tube start = tube(32, 24, 3);
    const auto made = smallest_surface(start.places, start.triangles, start.held, 60, plume::Run());
    ASSERT_TRUE(made) << sentence(made.error());
    for (const Vec3 place : made->places)
        EXPECT_TRUE(is_finite(place));
    EXPECT_LT(made->area, 2.2 * std::numbers::pi) << "drawn to the two discs and a thread";
}

TEST(SmallestSurface, RefusesWithTheMend) {
    Tube start = tube(8, 2, 1);
    std::vector<std::uint8_t> none(start.held.size(), 0);
    EXPECT_EQ(smallest_surface(start.places, start.triangles, none, 10, plume::Run()).error().code,
              ErrorCode::empty_input);
    EXPECT_EQ(smallest_surface(start.places, {}, start.held, 10, plume::Run()).error().code,
              ErrorCode::empty_input);
    start.places[9].z = std::nan("");
    EXPECT_EQ(smallest_surface(start.places, start.triangles, start.held, 10, plume::Run()).error().code,
              ErrorCode::not_finite);
}

}  // namespace
}  // namespace plume::test
