// Nets of elastic links at rest: against their stiffness, the catenary, what force densities find.

#include "core/forces/relaxation.hpp"

#include <gtest/gtest.h>
#include <oneapi/tbb/global_control.h>

#include <cmath>

#include "core/forces/force_density.hpp"
#include "core/forces/nets.hpp"

namespace plume::test {
namespace {

Balance at_rest(const Net& net, const Elasticity& elasticity) {
    auto made = relaxed_net(net, elasticity, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return made ? *made : Balance{};
}
Elasticity elastic(const Net& net, double rest_m, double stiffness_kn) {
    return {std::vector<double>(net.links.size(), rest_m),
            std::vector<double>(net.links.size(), stiffness_kn)};
}

TEST(Relaxation, ABarIsAsMuchLongerAsItsStiffnessSays) {
    Net net;
    net.places = {{0, 0, 5}, {0.4, 0.3, 3}};
    net.links = {{0, 1}};
    net.held = {1, 0};
    net.loads = {{}, {0, 0, -5}};
    const Balance made = at_rest(net, elastic(net, 2, 100));
    // 2 m + 5 kN 2 m / 100 kN, straight below.
    EXPECT_NEAR(made.places[1].z, 5 - 2.1, 1e-9);
    EXPECT_NEAR(std::hypot(made.places[1].x, made.places[1].y), 0, 1e-8);
    EXPECT_NEAR(made.forces[0], 5, 1e-8);
}

TEST(Relaxation, BarsThatPushAreShorter) {
    // A tripod under a weight: each leg takes F l / 3 h, and is shorter by that times l / E A.
    Net net;
    net.places = {{1, 0, 0}, {-0.5, std::sqrt(0.75), 0}, {-0.5, -std::sqrt(0.75), 0}, {0, 0, 2}};
    net.links = {{0, 3}, {1, 3}, {2, 3}};
    net.held = {1, 1, 1, 0};
    net.loads = {{}, {}, {}, {0, 0, -3}};
    Elasticity elasticity = elastic(net, std::sqrt(5.0), 1e6);
    elasticity.pushes = true;
    const Balance made = at_rest(net, elasticity);
    const double high = made.places[3].z, leg = std::hypot(1, high);
    EXPECT_NEAR(made.forces[0], -3 * leg / (3 * high), 1e-6);
    EXPECT_NEAR(leg, std::sqrt(5.0) * (1 + made.forces[0] / 1e6), 1e-12);
}

// A rope of 12 m between posts 10 m apart: 2 a sinh(5 / a) = 12 gives a = 4.69542, and a sag of 2.92344 m.
TEST(Relaxation, AStiffChainHangsInACatenary) {
    double before = 0;
    for (const std::size_t links : {40, 80}) {
        Net net = chain(links, 10.0 / static_cast<double>(links), 0);
        for (std::size_t at = 1; at < links; ++at)
            net.loads[at].z = -12.0 / static_cast<double>(links);
        const Balance made = at_rest(net, elastic(net, 12.0 / static_cast<double>(links), 1e7));
        const double off = std::abs(made.places[links / 2].z + 2.923437976009289);
        EXPECT_LT(off, 3e-3);
        // Chords of a chain: twice as many are four times as near.
        if (before > 0) {
            EXPECT_NEAR(before / off, 4, 0.2);
        }
        before = off;
        // What pulls along the ground is the same all along.
        const auto across = [&](std::size_t link) {
            const Vec3 along = made.places[link + 1] - made.places[link];
            return made.forces[link] * along.x / length(along);
        };
        for (std::size_t link = 1; link < links; ++link)
            EXPECT_NEAR(across(link), across(0), 1e-6 * across(0));
    }
}

TEST(Relaxation, FindsTheFormOfForceDensities) {
    const Net net = square_net(9, 7, 0.2);
    const std::vector<double> densities(net.links.size(), 1.5);
    const auto linear = balanced_by_densities(net, densities, plume::Run());
    ASSERT_TRUE(linear);
    Elasticity elasticity = elastic(net, 0, 50);
    for (std::size_t link = 0; link < net.links.size(); ++link) {
        const auto [from, to] = net.links[link];
        const double length_there = length(linear->places[to] - linear->places[from]);
        elasticity.rest_m[link] = length_there / (1 + linear->forces[link] / 50);
    }
    const Balance made = at_rest(net, elasticity);
    for (std::size_t place = 0; place < net.places.size(); ++place)
        EXPECT_LT(length(made.places[place] - linear->places[place]), 1e-7) << place;
}

TEST(Relaxation, CablesThatAreTooLongHangSlack) {
    Net net;
    net.places = {{0, 0, 3}, {4, 0, 3}, {2, 0, 1}, {2, 0, 0}};
    // Two cables carry the weight; one to the ground is longer than it needs.
    net.links = {{0, 2}, {1, 2}, {3, 2}};
    net.held = {1, 1, 0, 1};
    net.loads = {{}, {}, {0, 0, -2}, {}};
    Elasticity elasticity{{2.5, 2.5, 4}, {1e5, 1e5, 1e5}};
    const Balance made = at_rest(net, elasticity);
    EXPECT_EQ(made.forces[2], 0);
    EXPECT_EQ(slack_links(net, made, elasticity), 1U);
    EXPECT_NEAR(made.places[2].z, 3 - 1.5, 1e-3);
}

TEST(Relaxation, IsTheSameOnAnyNumberOfThreads) {
    const Net net = square_net(40, 40, 0.05);
    const Elasticity elasticity = elastic(net, 1.05, 200);
    const Balance many = at_rest(net, elasticity);
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    const Balance alone = at_rest(net, elasticity);
    for (std::size_t place = 0; place < net.places.size(); ++place)
        ASSERT_EQ(many.places[place], alone.places[place]) << place;
}

TEST(Relaxation, WhatIsHeldStaysToTheBit) {
    const Net net = square_net(6, 6, 1);
    const Balance made = at_rest(net, elastic(net, 0.9, 30));
    for (std::size_t place = 0; place < net.places.size(); ++place)
        if (net.held[place] >= 1) {
            EXPECT_EQ(made.places[place], net.places[place]);
        }
}

TEST(Relaxation, PinsThatAreTooFarApartStretchIt) {
    // A thread of 1 m between pins 50 m apart.
    Net net = chain(10, 5, 0);
    const Balance made = at_rest(net, elastic(net, 0.1, 1000));
    EXPECT_NEAR(made.forces[4], 1000 * 49, 1e-3);
}

TEST(Relaxation, RefusesWithTheMend) {
    const Net net = square_net(3, 3, 1);
    const auto refused = [&](Net given, const Elasticity& elasticity) {
        const auto made = relaxed_net(given, elasticity, plume::Run());
        EXPECT_FALSE(made);
        return made ? ErrorCode::number_of_codes : made.error().code;
    };
    EXPECT_EQ(refused(net, elastic(net, 1, 0)), ErrorCode::out_of_range);
    EXPECT_EQ(refused(net, elastic(net, 1, -5)), ErrorCode::out_of_range);
    EXPECT_EQ(refused(net, elastic(net, -1, 5)), ErrorCode::out_of_range);
    EXPECT_EQ(refused(net, elastic(net, std::nan(""), 5)), ErrorCode::out_of_range);
    Net free = net;
    free.held.assign(free.held.size(), 0);
    EXPECT_EQ(refused(free, elastic(net, 1, 5)), ErrorCode::empty_input);
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(relaxed_net(net, elastic(net, 1, 5), cancelled).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume::test
