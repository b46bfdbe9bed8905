// Placements applied to themselves: places in closed form.

#include "core/growth/iterated_maps.hpp"

#include <cmath>
#include <numbers>

#include "core/support.hpp"

namespace plume::test {
namespace {

Placement at(Vec3 origin, double turn = 0) {
    Placement placement;
    placement.origin = origin;
    placement.along = {std::cos(turn), std::sin(turn), 0};
    placement.across = {-std::sin(turn), std::cos(turn), 0};
    return placement;
}

Placements mapped(const MapSystem& system, std::size_t generations, double size = 1) {
    auto made = iterated_maps(system, {Placement{}}, size, generations, Units{}, plume::Run());
    EXPECT_TRUE(made);
    return *std::move(made);
}

TEST(IteratedMaps, ACantorDustStandsWhereTernaryDigitsSay) {
    // x / 3 and x / 3 + 2 / 3: the places of generation n are 2 sum d / 3^k.
    const Placements dust = mapped({{at({0, 0, 0}), at({2.0 / 3, 0, 0})}, {1.0 / 3, 1.0 / 3}}, 8);
    const PartTree& tree = *dust.tree();
    EXPECT_EQ(tree.generation_count(), 9U);
    const std::size_t first = tree.generations[8];
    ASSERT_EQ(tree.generations[9] - first, 256U);
    for (std::size_t word = 0; word < 256; ++word) {
        double place = 0;
        for (int digit = 0; digit < 8; ++digit)
            place += static_cast<double>((word >> (7 - digit)) & 1U) * 2.0 / std::pow(3, digit + 1);
        EXPECT_NEAR(dust.placement(first + word).origin.x, place, 1e-14) << word;
        EXPECT_NEAR(dust.origins().field("size")->values[first + word], std::pow(3, -8), 1e-18);
    }
}

TEST(IteratedMaps, TurnsAddUpAndSizesMultiply) {
    const double turn = 0.3;
    const MapSystem system{{at({1, 0, 0}, turn)}, {0.9}};
    const Placements spiral = mapped(system, 50, 2);
    // The sum of 0.9^k e^(i k turn), by the geometric series; in the lengths of the maps.
    double x = 0, y = 0;
    for (int k = 0; k < 50; ++k) {
        x += std::pow(0.9, k) * std::cos(k * turn);
        y += std::pow(0.9, k) * std::sin(k * turn);
    }
    const Placement& last = spiral.placement(50);
    EXPECT_NEAR(last.origin.x, x, 1e-12);
    EXPECT_NEAR(last.origin.y, y, 1e-12);
    EXPECT_NEAR(std::atan2(last.along.y, last.along.x), std::remainder(50 * turn, 2 * std::numbers::pi),
                1e-12);
    EXPECT_NEAR(spiral.origins().field("size")->values[50], 2 * std::pow(0.9, 50), 1e-12);
}

TEST(IteratedMaps, EachPartTellsTheMapsThatLedToIt) {
    const Placements gasket =
        mapped({{at({0, 0, 0}), at({0.5, 0, 0}), at({0.25, 0.433, 0})}, {0.5, 0.5, 0.5}}, 4);
    EXPECT_EQ(gasket.origins().address_count(), 121U);
    EXPECT_EQ(gasket.tree()->descent(120).size(), 5U);
    EXPECT_EQ(gasket.tree()->descent(120).back().substr(0, 5), "map 3");
}

}  // namespace
}  // namespace plume::test
