// Tips of cutters over planes, ramps, edges, valleys and domes, against closed forms; and against every place
// of the form.

#include "core/milling/tip_heights.hpp"

#include <random>

#include "core/milling/height_cells.hpp"
#include "core/milling/milled_forms.hpp"

namespace plume {
namespace {

const std::vector<Cutter> cutters = {Cutter::flat(6), Cutter::ball(6), {6, 2}};

TEST(TipHeights, OverALevelFaceTheTipTouchesIt) {
    const Mesh level = test::relief(100, 80, 4, 3, [](double, double) { return -7.0; });
    for (const Cutter& cutter : cutters) {
        const TipHeights tips(level, cutter);
        for (const double x : {10.0, 25.0, 50.0, 99.0})
            EXPECT_NEAR(tips.at(x, 33).z, -7, 1e-12);
        EXPECT_FALSE(tips.at(50, 40).on_rim);
        EXPECT_FALSE(std::isfinite(tips.at(-6.1, 40).z)) << "beyond its radius";
        EXPECT_FALSE(std::isfinite(tips.at(1e6, 40).z));
    }
}

TEST(TipHeights, OverARampItStandsOffAsItsSideRises) {
    // At an angle a: the flat side out by the flat, the corner by what a quarter of a circle is off a line.
    for (const double slope : {0.2, 1.0, 3.0}) {
        const Mesh ramp = test::ramp(100, 80, slope);
        const double angle = std::atan(slope);
        for (const Cutter& cutter : cutters) {
            const double off = cutter.flat_radius() * slope + cutter.corner * (1 / std::cos(angle) - 1);
            EXPECT_NEAR(TipHeights(ramp, cutter).at(40, 33).z, -slope * 40 + off, 1e-9)
                << slope << ' ' << cutter.corner;
        }
    }
}

TEST(TipHeights, InAValleyItTouchesBothSides) {
    for (const double slope : {0.5, 2.0}) {
        const Mesh valley = test::valley(60, 40, slope);
        const double angle = std::atan(slope);
        for (const Cutter& cutter : cutters) {
            const double off = cutter.flat_radius() * slope + cutter.corner * (1 / std::cos(angle) - 1);
            EXPECT_NEAR(TipHeights(valley, cutter).at(30, 20).z, -slope * 30 + off, 1e-9);
        }
    }
}

TEST(TipHeights, OverARidgeAndAStepItRollsOverTheEdge) {
    // A roof with its ridge at x 30; over it a ball passes at the height of a circle.
    const Mesh roof = test::relief(60, 40, 2, 1, [](double x, double) { return -std::abs(x - 30) * 2; });
    const TipHeights ball(roof, Cutter::ball(6));
    EXPECT_NEAR(ball.at(30, 20).z, 0, 1e-12);
    EXPECT_NEAR(ball.at(32, 20).z, std::sqrt(36.0 - 4) - 6, 1e-9);
    const TipHeights flat(roof, Cutter::flat(6));
    EXPECT_NEAR(flat.at(35.9, 20).z, 0, 1e-12) << "the ridge is under its flat";
    const TipHeights rounded(roof, {6, 2});
    EXPECT_NEAR(rounded.at(33.9, 20).z, 0, 1e-12);
    EXPECT_NEAR(rounded.at(35, 20).z, std::sqrt(4.0 - 1) - 2, 1e-9);
}

TEST(TipHeights, AlongASlopingEdgeTheBallTouchesUphill) {
    // An upright wall's upper side, rising along x by 1 in 2.
    const Mesh wall =
        test::mesh_of_faces({{0, 0, -60}, {100, 0, -60}, {100, 0, 0}, {0, 0, -50}}, {{0, 1, 2, 3}});
    // Tip under a line that rises by m: -R + R sqrt(1 + m2) above it.
    const TipHeights ball(wall, Cutter::ball(6));
    EXPECT_NEAR(ball.at(40, 0).z, -30 - 6 + 6 * std::sqrt(1.25), 1e-9);
    EXPECT_TRUE(ball.at(40, 0).on_rim);
    const TipHeights flat(wall, Cutter::flat(6));
    EXPECT_NEAR(flat.at(40, 0).z, -30 + 3, 1e-9);
}

TEST(TipHeights, OverADomeItIsADomeOfTheLargerRadius) {
    const double radius = 50;
    const Mesh dome = test::relief(60, 60, 240, 240, [&](double x, double y) {
        return std::sqrt(radius * radius - (x - 30) * (x - 30) - (y - 30) * (y - 30)) - radius;
    });
    const TipHeights tips(dome, Cutter::ball(6));
    // Facets of 0.25 mm stand at most 0.25^2 / 8 / 50 below the dome, a little more at its slope.
    for (const double out : {0.0, 5.0, 15.0, 20.0})
        EXPECT_NEAR(tips.at(30 + out, 30).z, std::sqrt(56.0 * 56 - out * out) - 56, 5e-4) << out;
}

// The form sampled densely: no sample is cut by more than rounding, and the cutter is not held up by more
// than samples are apart.
TEST(TipHeights, NothingIsCutAndNothingHoldsItUp) {
    std::mt19937 random(7);
    std::uniform_real_distribution<double> height(-8, 0), place(8, 32);
    const Mesh rough = test::relief(40, 40, 12, 12, [&](double, double) { return height(random); });
    const CellGrid grid = cells_over(0, 0, 40, 40, 640'000);
    const FormHeights form = form_heights(rough, grid);
    for (const Cutter& cutter : cutters) {
        const TipHeights tips(rough, cutter);
        for (int look = 0; look < 60; ++look) {
            const double x = place(random), y = place(random), tip = tips.at(x, y).z;
            double highest = -1e9;
            for (std::size_t row = 0; row < grid.rows; ++row)
                for (std::size_t column = 0; column < grid.columns; ++column) {
                    const double distance = std::hypot(grid.x(column) - x, grid.y(row) - y);
                    if (distance > cutter.radius) continue;
                    highest = std::max(highest, static_cast<double>(form.heights[grid.index(column, row)]) -
                                                    cutter.rise_at(distance));
                }
            EXPECT_LE(highest, tip + 1e-5);
            EXPECT_GE(highest, tip - 0.15) << cutter.corner;
        }
    }
}

TEST(TipHeights, WhichWayFacesAreTurnedDoesNotMatter) {
    const Mesh ramp = test::ramp(100, 80, 1);
    Mesh::Parts parts = ramp.parts();
    std::ranges::reverse(parts.corners);
    const Mesh turned = *Mesh::make(std::move(parts));
    EXPECT_EQ(TipHeights(ramp, cutters[1]).at(40, 33).z, TipHeights(turned, cutters[1]).at(40, 33).z);
}

TEST(Cutters, RidgesAndDistances) {
    const Cutter ball = Cutter::ball(6);
    const double apart = apart_for_ridge(ball, 0.03);
    EXPECT_NEAR(apart, 2 * std::sqrt(36 - 5.97 * 5.97), 1e-12);
    EXPECT_NEAR(ridge_between(ball, apart), 0.03, 1e-12);
    const Cutter rounded{6, 2};
    EXPECT_NEAR(ridge_between(rounded, apart_for_ridge(rounded, 0.1)), 0.1, 1e-12);
    EXPECT_EQ(ridge_between(rounded, 8), 0) << "as far as its flat is wide";
    EXPECT_EQ(apart_for_ridge(Cutter::flat(6), 0), 12);
}

TEST(FormHeights, CountEveryFaceOnce) {
    // Cells' middles on the sides of faces belong to one of two.
    const Mesh level = test::relief(8, 8, 4, 4, [](double, double) { return -1.0; });
    const CellGrid grid = cells_over(0, 0, 8, 8, 64);
    ASSERT_EQ(grid.columns, 8U);
    for (const std::uint8_t layers : form_heights(level, grid).layers)
        EXPECT_EQ(layers, 1);
    const CellGrid on_sides{-0.5, -0.5, 1, 8, 8};
    std::size_t sum = 0;
    for (const std::uint8_t layers : form_heights(level, on_sides).layers) {
        EXPECT_LE(layers, 1);
        sum += layers;
    }
    EXPECT_GE(sum, 49U);
    const FormHeights ramp = form_heights(test::ramp(8, 8, 0.5), grid);
    EXPECT_NEAR(static_cast<double>(ramp.heights[3]), -0.5 * 3.5, 1e-6);
}

}  // namespace
}  // namespace plume
