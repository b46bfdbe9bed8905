#include "core/picture/still.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/base/machine.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/picture/sun.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

using test::grid;
constexpr double degree = std::numbers::pi / 180;

Drawable drawn(const Value& value) {
    return *make_drawable(value, {.colour_by = "-"}, plume::Run());
}

// A face through four corners, in the order of a grid of two by two.
Drawable face(std::array<Vec3, 4> corners) {
    const PointLattice flat = grid(2, 2);
    Doubles x, y, z;
    for (const Vec3 corner : corners) {
        x.push_back(corner.x);
        y.push_back(corner.y);
        z.push_back(corner.z);
    }
    return drawn(*facets(flat.moved(x, y, z), FacetShape::quads, plume::Run()));
}
// East to west through the origin, upright.
Drawable wall(double width, double height) {
    const double half = width / 2;
    return face({Vec3{-half, 0, 0}, {half, 0, 0}, {-half, 0, height}, {half, 0, height}});
}
Drawable floor_of(double side) {
    const double half = side / 2;
    return face({Vec3{-half, -half, 0}, {half, -half, 0}, {-half, half, 0}, {half, half, 0}});
}

int sum_at(const Image& image, int x, int y) {
    const std::size_t at = 4 * (static_cast<std::size_t>(x) +
                                static_cast<std::size_t>(image.width) * static_cast<std::size_t>(y));
    return image.rgba[at] + image.rgba[at + 1] + image.rgba[at + 2];
}

StillItem faces_of(const Drawable& drawable) {
    return {&drawable, false, false, true};
}

// A wall 2 high in the sun from the south: its shadow is 2 / tan(height) long, northwards, in plan.
TEST(StillLight, ShadowsAreAsLongAsTheSunSays) {
    const Drawable high = wall(4, 2), ground = floor_of(20);
    StillOptions options;
    options.camera = seen_from(StandardView::plan, options.camera);
    options.pixels_per_length = 20;
    options.width = options.height = 440;
    options.passes = 16;
    for (const double height : {20.0, 35.0, 60.0}) {
        options.sun = direction_of({180 * degree, height * degree});
        const Image image = *render_still({faces_of(high), faces_of(ground)}, options, plume::Run());
        // Along the middle of the picture, northwards from the wall; lit floor is at its southern end.
        const int lit = sum_at(image, 220, 400);
        const int shade = sum_at(image, 220, 219 - 15);
        EXPECT_LT(shade, 0.85 * lit);
        int dark = 0;
        for (int y = 0; y < 219; ++y)
            dark += sum_at(image, 220, y) < (shade + lit) / 2 ? 1 : 0;
        EXPECT_NEAR(dark / 20.0, 2 / std::tan(height * degree), 0.12) << height;
        EXPECT_GT(sum_at(image, 220, 30), 0.9 * lit) << "beyond it the sun shines";
    }
}

// From the south-west the shadow lies to the north-east.
TEST(StillLight, NorthIsUpInPlan) {
    const Drawable post = face({Vec3{-0.2, 0.2, 0}, {0.2, -0.2, 0}, {-0.2, 0.2, 3}, {0.2, -0.2, 3}}),
                   ground = floor_of(20);
    StillOptions options;
    options.camera = seen_from(StandardView::plan, options.camera);
    options.pixels_per_length = 10;
    options.width = options.height = 220;
    options.sun = direction_of({225 * degree, 45 * degree});
    const Image image = *render_still({faces_of(post), faces_of(ground)}, options, plume::Run());
    const int lit = sum_at(image, 40, 180);
    EXPECT_LT(sum_at(image, 110 + 12, 110 - 12), 0.8 * lit);
    EXPECT_GT(sum_at(image, 110 - 12, 110 - 12), 0.9 * lit);
    EXPECT_GT(sum_at(image, 110 - 12, 110 + 12), 0.9 * lit);
}

TEST(StillLight, BelowTheHorizonOnlyTheSkyLights) {
    const Drawable high = wall(4, 2), ground = floor_of(20);
    StillOptions options;
    options.width = 160;
    options.height = 120;
    options.passes = 4;
    options.sun = direction_of({0, -5 * degree});
    const Image image = *render_still({faces_of(high), faces_of(ground)}, options, plume::Run());
    EXPECT_GT(sum_at(image, 80, 90), 150) << "still to be seen";
}

StillOptions small() {
    StillOptions options;
    options.width = 160;
    options.height = 100;
    return options;
}

TEST(Still, ClayIsOfOneColourWhateverIsShown) {
    const PointLattice plate = grid(2, 2).with_field({"f", Doubles{0, 1, 0, 1}, {}});
    const Drawable coloured =
        *make_drawable(*facets(plate, FacetShape::quads, plume::Run()), {}, plume::Run());
    StillItem item = faces_of(coloured);
    StillOptions options = small();
    options.camera = seen_from(StandardView::plan, options.camera);
    const auto difference = [&] {
        const Image image = *render_still({item}, options, plume::Run());
        return std::abs(sum_at(image, 50, 50) - sum_at(image, 110, 50));
    };
    EXPECT_GT(difference(), 60);
    options.clay = true;
    EXPECT_LT(difference(), 12);
    item.material = material_of({"glass", {}});
    const Image image = *render_still({item}, options, plume::Run());
    options.ground = StillGround::none;
    EXPECT_EQ(render_still({item}, options, plume::Run())->rgba[4 * (80 + 160 * 50) + 3], 255);
    EXPECT_NEAR(sum_at(image, 50, 50), sum_at(image, 110, 50), 12);
}

// Two plates, one above the other: the upper one's rim is drawn where the lower one goes on, and nothing is
// drawn on a plate that leans.
TEST(Still, OutlinesStandWhereSomethingEnds) {
    const Drawable low = floor_of(8), high = face({Vec3{-1, -1, 2}, {1, -1, 2}, {-1, 1, 2}, {1, 1, 2}});
    StillOptions options = small();
    options.camera = seen_from(StandardView::plan, options.camera);
    options.pixels_per_length = 10;
    const std::vector<StillItem> items{faces_of(low), faces_of(high)};
    const Image plain = *render_still(items, options, plume::Run());
    options.outlines = true;
    const Image lined = *render_still(items, options, plume::Run());
    const auto drawn_at = [&](int x, int y) { return sum_at(plain, x, y) - sum_at(lined, x, y); };
    EXPECT_GT(drawn_at(80 - 10, 50) + drawn_at(79 - 10, 50), 150) << "the upper rim";
    EXPECT_GT(drawn_at(80 - 40, 50) + drawn_at(79 - 40, 50), 150) << "the lower rim";
    EXPECT_EQ(drawn_at(80, 50), 0);
    EXPECT_EQ(drawn_at(60, 50), 0);
    const Drawable leaning = face({Vec3{-4, -4, 0}, {4, -4, 6}, {-4, 4, 0}, {4, 4, 6}});
    options.outlines = false;
    const Image bare = *render_still({faces_of(leaning)}, options, plume::Run());
    options.outlines = true;
    const Image ruled = *render_still({faces_of(leaning)}, options, plume::Run());
    std::size_t inside = 0;
    for (int y = 20; y < 80; ++y)
        for (int x = 50; x < 110; ++x)
            inside += sum_at(bare, x, y) != sum_at(ruled, x, y) ? 1 : 0;
    EXPECT_EQ(inside, 0U);
}

TEST(Still, APlainGoesOnToTheHorizon) {
    const Drawable high = wall(4, 2);
    StillOptions options = small();
    options.camera.elevation_rad = 0.1;
    options.sun = direction_of({200 * degree, 40 * degree});
    const Image shadow = *render_still({faces_of(high)}, options, plume::Run());
    options.ground = StillGround::plain;
    const Image plain = *render_still({faces_of(high)}, options, plume::Run());
    EXPECT_EQ(sum_at(shadow, 5, 2), sum_at(plain, 5, 2)) << "the sky is the same";
    EXPECT_LT(sum_at(plain, 5, 97), sum_at(shadow, 5, 97) - 30) << "the ground is its own";
}

// More passes, less noise: each halves what is left of it, about.
TEST(Still, EveryPassMakesItBetter) {
    const Drawable high = wall(4, 2), ground = floor_of(20);
    const std::vector<StillItem> items{faces_of(high), faces_of(ground)};
    StillOptions options = small();
    options.passes = 256;
    const Image best = *render_still(items, options, plume::Run());
    const auto noise = [&](const Image& image) {
        double sum = 0;
        for (std::size_t at = 0; at < image.rgba.size(); ++at)
            sum += std::pow(image.rgba[at] - best.rgba[at], 2);
        return std::sqrt(sum / static_cast<double>(image.rgba.size()));
    };
    StillWork work(items, options);
    std::vector<double> noises;
    for (int pass = 1; pass <= 16; ++pass) {
        ASSERT_TRUE(work.pass(plume::Run()));
        EXPECT_EQ(work.passes(), pass);
        if (pass == 1 || pass == 4 || pass == 16) noises.push_back(noise(*work.image()));
    }
    EXPECT_LT(noises[1], 0.6 * noises[0]);
    EXPECT_LT(noises[2], 0.6 * noises[1]);
    EXPECT_GE(work.rays(), 16U * 160 * 100);
}

TEST(Still, IsSeenWhileItIsMade) {
    const Drawable high = wall(4, 2);
    StillOptions options = small();
    options.passes = 6;
    std::vector<int> seen;
    const plume::Run run;
    const auto image = render_still({faces_of(high)}, options, run, [&](const StillSoFar& so_far) {
        seen.push_back(so_far.passes);
        EXPECT_EQ(so_far.image.width, 160);
        EXPECT_GE(so_far.seconds_left, 0);
        EXPECT_NEAR(run.fraction(), so_far.passes / 6.0, 0.01);
    });
    ASSERT_TRUE(image);
    ASSERT_FALSE(seen.empty());
    EXPECT_EQ(seen.front(), 1);
    EXPECT_EQ(image->rgba, render_still({faces_of(high)}, options, plume::Run())->rgba);
}

TEST(Still, WhatCannotBeKeptIsRefused) {
    const Drawable high = wall(4, 2);
    StillOptions options;
    options.width = options.height = 32768;
    if (machine_memory() > 100.0 * 32768 * 32768) GTEST_SKIP() << "this machine could keep it";
    const auto image = render_still({faces_of(high)}, options, plume::Run());
    ASSERT_FALSE(image);
    EXPECT_EQ(image.error().code, ErrorCode::out_of_memory);
}

// From every side all of it is in the picture.
TEST(Still, ATurnFramesItAllAround) {
    const Drawable high = wall(6, 2);
    const std::vector<StillItem> items{faces_of(high)};
    const Camera all_around = fitted_all_around(items, Camera(), 1.6, 12);
    for (int at = 0; at < 12; ++at) {
        Camera one = all_around;
        one.azimuth_rad += 2 * std::numbers::pi * at / 12;
        EXPECT_TRUE(one.sees(high.bounds, 1.6)) << at;
    }
}

}  // namespace
}  // namespace plume
