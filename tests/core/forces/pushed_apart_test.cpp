// Circles and spheres pushed apart until they touch.

#include "core/forces/pushed_apart.hpp"

#include <gtest/gtest.h>
#include <oneapi/tbb/global_control.h>

#include <cmath>

namespace plume::test {
namespace {

Spheres row(std::size_t count, double apart, double radius) {
    Spheres spheres;
    for (std::size_t at = 0; at < count; ++at)
        spheres.places.push_back({static_cast<double>(at) * apart, 0.1 * static_cast<double>(at % 3), 0});
    spheres.radii.assign(count, radius);
    spheres.stays.assign(count, 0);
    return spheres;
}
Vec3 flat(std::size_t /*number*/, Vec3 place) {
    return {place.x, place.y, 0};
}
PushedApart pushed(const Spheres& spheres, const PushingRule& rule) {
    const auto made = pushed_apart(spheres, rule, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return made ? *made : PushedApart{};
}
// Every pair, one by one.
double worst_overlap(const Spheres& spheres, const std::vector<Vec3>& places) {
    double worst = 0;
    for (std::size_t a = 0; a < places.size(); ++a)
        for (std::size_t b = a + 1; b < places.size(); ++b)
            worst = std::max(worst, (spheres.radii[a] + spheres.radii[b] - length(places[a] - places[b])) /
                                        std::min(spheres.radii[a], spheres.radii[b]));
    return worst;
}

TEST(PushedApart, TwoThatOverlapTouch) {
    const Spheres spheres = row(2, 0.5, 1);
    const PushedApart made = pushed(spheres, {.kept = flat});
    EXPECT_NEAR(length(made.places[0] - made.places[1]), 2, 2e-6);
    EXPECT_EQ(made.touching, 1U);
    EXPECT_EQ(made.overlaps, 0U);
    // Both went as far: their middle stays.
    EXPECT_NEAR((made.places[0].x + made.places[1].x) / 2, 0.25, 1e-12);
}

TEST(PushedApart, TheSmallerGoesFurther) {
    Spheres spheres = row(2, 0.5, 1);
    spheres.radii[1] = 2;
    const PushedApart made = pushed(spheres, {.kept = flat});
    // By the squares of their sizes: four parts to one.
    EXPECT_NEAR(length(made.places[0] - spheres.places[0]) / length(made.places[1] - spheres.places[1]), 4,
                1e-6);
}

TEST(PushedApart, WhatStaysIsGivenWayTo) {
    Spheres spheres = row(2, 0.5, 1);
    spheres.stays[0] = 1;
    const PushedApart made = pushed(spheres, {.kept = flat});
    EXPECT_EQ(made.places[0], spheres.places[0]);
    EXPECT_NEAR(length(made.places[1] - made.places[0]), 2, 2e-6);
    spheres.stays[1] = 1;
    const PushedApart stuck = pushed_apart(spheres, {.kept = flat, .most_rounds = 3}, plume::Run()).value();
    EXPECT_EQ(stuck.overlaps, 1U) << "two that stay are told, and stay";
}

TEST(PushedApart, ThoseAtOnePlacePart) {
    Spheres spheres = row(40, 0, 0.3);
    for (Vec3& place : spheres.places)
        place = {5, 5, 5};
    const PushedApart made = pushed(spheres, {});
    EXPECT_LE(worst_overlap(spheres, made.places), 1e-6);
}

TEST(PushedApart, NoneOverlapWhateverTheirSizes) {
    Spheres spheres = row(300, 0.05, 1);
    for (std::size_t at = 0; at < 300; ++at)
        spheres.radii[at] = 0.1 + 0.3 * static_cast<double>((at * 7) % 11) / 11;
    for (const bool in_plane : {true, false}) {
        PushingRule rule;
        if (in_plane) rule.kept = flat;
        const PushedApart made = pushed(spheres, rule);
        EXPECT_LE(worst_overlap(spheres, made.places), 1e-6);
        EXPECT_EQ(made.overlaps, 0U);
    }
}

// Seven drawn together lie around one of them, as coins do: twelve pairs touch.
TEST(PushedApart, SevenCoinsLieAroundOne) {
    Spheres spheres = row(7, 0, 1);
    for (std::size_t at = 1; at < 7; ++at)
        spheres.places[at] = {4 * std::cos(static_cast<double>(at)), 4 * std::sin(static_cast<double>(at)),
                              0};
    const Vec3 middle;
    const PushedApart made = pushed(spheres, {.kept = flat, .drawn_to = &middle});
    EXPECT_EQ(made.touching, 12U);
    for (std::size_t at = 1; at < 7; ++at)
        EXPECT_NEAR(length(made.places[at] - made.places[0]), 2, 4e-3);
}

TEST(PushedApart, StayWhereTheyMay) {
    Spheres spheres = row(200, 0.01, 0.12);
    const auto on_ball = [](std::size_t, Vec3 place) { return unit_or_zero(place + Vec3{0, 0, 1e-9}) * 2; };
    const PushedApart made = pushed(spheres, {.kept = on_ball});
    for (const Vec3 place : made.places)
        EXPECT_NEAR(length(place), 2, 1e-12);
    EXPECT_LE(worst_overlap(spheres, made.places), 1e-6);
}

TEST(PushedApart, WhatHasNoRoomIsTold) {
    const Spheres spheres = row(20, 0.1, 1);
    const auto in_box = [](std::size_t, Vec3 place) {
        return Vec3{std::clamp(place.x, 0.0, 2.0), std::clamp(place.y, 0.0, 2.0), 0};
    };
    const PushedApart made =
        pushed_apart(spheres, {.kept = in_box, .most_rounds = 200}, plume::Run()).value();
    EXPECT_GT(made.overlaps, 0U);
    EXPECT_GT(made.overlap, 0.1);
    for (const Vec3 place : made.places)
        EXPECT_TRUE(is_finite(place));
}

TEST(PushedApart, IsTheSameOnAnyNumberOfThreads) {
    const Spheres spheres = row(3000, 0.02, 0.2);
    const Vec3 middle{30, 0, 0};
    const PushingRule rule{.kept = flat, .drawn_to = &middle, .most_rounds = 100};
    const auto many = pushed_apart(spheres, rule, plume::Run());
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    const auto alone = pushed_apart(spheres, rule, plume::Run());
    for (std::size_t at = 0; at < spheres.places.size(); ++at)
        ASSERT_EQ(many->places[at], alone->places[at]);
}

TEST(PushedApart, RefusesWithTheMend) {
    Spheres spheres = row(3, 1, 1);
    EXPECT_TRUE(pushed_apart({}, {}, plume::Run())) << "of none there is nothing to do";
    spheres.radii[1] = 0;
    EXPECT_EQ(pushed_apart(spheres, {}, plume::Run()).error().code, ErrorCode::out_of_range);
    spheres.radii[1] = std::nan("");
    EXPECT_EQ(pushed_apart(spheres, {}, plume::Run()).error().code, ErrorCode::not_finite);
    spheres.radii[1] = 1;
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(pushed_apart(spheres, {}, cancelled).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume::test
