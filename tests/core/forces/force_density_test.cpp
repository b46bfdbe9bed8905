// Nets whose members pull with a force for each metre: against closed forms and a plain elimination.

#include "core/forces/force_density.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <limits>

#include "core/forces/nets.hpp"

namespace plume::test {
namespace {

Balance balanced(const Net& net, const std::vector<double>& densities) {
    auto made = balanced_by_densities(net, densities, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return made ? *made : Balance{};
}
Error error_of(const Net& net, const std::vector<double>& densities) {
    const auto made = balanced_by_densities(net, densities, plume::Run());
    EXPECT_FALSE(made);
    return made ? Error{} : made.error();
}

// Rows of a dense system, by elimination with the largest pivot.
std::vector<double> solved(std::vector<std::vector<double>> rows) {
    const std::size_t count = rows.size();
    for (std::size_t column = 0; column < count; ++column) {
        std::size_t pivot = column;
        for (std::size_t row = column; row < count; ++row)
            if (std::abs(rows[row][column]) > std::abs(rows[pivot][column])) pivot = row;
        std::swap(rows[column], rows[pivot]);
        for (std::size_t row = 0; row < count; ++row) {
            if (row == column) continue;
            const double times = rows[row][column] / rows[column][column];
            for (std::size_t at = column; at <= count; ++at)
                rows[row][at] -= times * rows[column][at];
        }
    }
    std::vector<double> found;
    for (std::size_t row = 0; row < count; ++row)
        found.push_back(rows[row][count] / rows[row][row]);
    return found;
}

TEST(ForceDensity, OneNodeLiesAtTheWeightedMeanOfWhatPullsAtIt) {
    Net net;
    net.places = {{0, 0, 0}, {4, 0, 1}, {0, 6, 2}, {9, 9, 9}};
    net.links = {{0, 3}, {3, 1}, {2, 3}};
    net.held = {1, 1, 1, 0};
    net.loads = {{}, {}, {}, {0, 0, -2}};
    const Balance made = balanced(net, {1, 2, 5});
    EXPECT_NEAR(made.places[3].x, 8.0 / 8, 1e-14);
    EXPECT_NEAR(made.places[3].y, 30.0 / 8, 1e-14);
    EXPECT_NEAR(made.places[3].z, (2.0 + 10 - 2) / 8, 1e-14);
    EXPECT_NEAR(made.forces[2], 5 * length(made.places[3] - made.places[2]), 1e-13);
    EXPECT_EQ(made.places[0], net.places[0]) << "held places stay to the bit";
}

// Of equal densities and loads: z of place i is -p i (n - i) / 2 q.
TEST(ForceDensity, AChainIsAParabola) {
    constexpr std::size_t links = 50;
    const Balance made = balanced(chain(links, 0.2, 0.3), std::vector<double>(links, 4));
    for (std::size_t at = 0; at <= links; ++at) {
        EXPECT_NEAR(made.places[at].x, 0.2 * static_cast<double>(at), 1e-11);
        EXPECT_NEAR(made.places[at].z, -0.3 * static_cast<double>(at * (links - at)) / (2 * 4), 1e-10);
    }
}

TEST(ForceDensity, IsWhatAPlainEliminationFinds) {
    const Net net = square_net(5, 4, 0.7);
    std::vector<double> densities;
    for (std::size_t link = 0; link < net.links.size(); ++link)
        densities.push_back(1 + 0.3 * static_cast<double>(link % 5));
    const Balance made = balanced(net, densities);
    for (const double Vec3::*part : {&Vec3::x, &Vec3::y, &Vec3::z}) {
        const std::size_t count = net.places.size();
        std::vector<std::vector<double>> rows(count, std::vector<double>(count + 1, 0));
        for (std::size_t link = 0; link < net.links.size(); ++link)
            for (const auto [here, there] :
                 {net.links[link], std::array{net.links[link][1], net.links[link][0]}}) {
                rows[here][here] += densities[link];
                rows[here][there] -= densities[link];
            }
        for (std::size_t place = 0; place < count; ++place) {
            rows[place][count] = net.loads[place].*part;
            if (net.held[place] < 1) continue;
            rows[place].assign(count + 1, 0);
            rows[place][place] = 1;
            rows[place][count] = net.places[place].*part;
        }
        const std::vector<double> found = solved(rows);
        for (std::size_t place = 0; place < count; ++place)
            EXPECT_NEAR(made.places[place].*part, found[place], 1e-11) << place;
    }
}

TEST(ForceDensity, WhatIsHeldLessFirmlyGivesWay) {
    Net net;
    net.places = {{2, 0, 0}, {0, 0, 0}};
    net.links = {{0, 1}};
    for (const double held : {0.2, 0.5, 0.9}) {
        net.held = {1, held};
        // A spring of h / (1 - h) times what pulls: the place goes 1 - h of the way.
        EXPECT_NEAR(balanced(net, {3}).places[1].x, 2 * (1 - held), 1e-14);
    }
}

TEST(ForceDensity, LargeNetsAreExactToo) {
    const Net net = square_net(300, 300, 0.01);
    const Balance made = balanced(net, std::vector<double>(net.links.size(), 1));
    EXPECT_LT(made.residual, 1e-12);
    double most = 0;
    for (const Vec3 left : unbalanced(net, made.places, std::vector<double>(net.links.size(), 1)))
        most = std::max(most, length(left));
    EXPECT_LT(most, 1e-10 * 0.01) << "of the load";
}

TEST(ForceDensity, MembersMayPush) {
    // A post between two ties: q = 2, 2 and -1 hold together.
    Net net;
    net.places = {{-1, 0, 0}, {1, 0, 0}, {0, 0, 1}, {0, 0, 0.2}};
    net.links = {{0, 3}, {1, 3}, {2, 3}};
    net.held = {1, 1, 1, 0};
    const Balance made = balanced(net, {2, 2, -1});
    EXPECT_NEAR(made.places[3].z, -1.0 / 3, 1e-14);
    EXPECT_LT(made.forces[2], 0);
}

TEST(ForceDensity, RefusesWithTheMend) {
    Net net = square_net(3, 3, 0);
    const std::vector<double> ones(net.links.size(), 1);
    Net free = net;
    free.held.assign(free.held.size(), 0);
    EXPECT_EQ(error_of(free, ones).code, ErrorCode::empty_input);
    EXPECT_NE(sentence(error_of(free, ones)).find("Hold points"), std::string::npos);
    Net loose = net;
    loose.places.insert(loose.places.end(), {{9, 9, 9}, {9, 9, 8}});
    loose.held.insert(loose.held.end(), {0, 0});
    loose.loads.insert(loose.loads.end(), {{}, {}});
    loose.links.push_back({9, 10});
    std::vector<double> more = ones;
    more.push_back(1);
    EXPECT_NE(sentence(error_of(loose, more)).find("has 1 part that is held nowhere"), std::string::npos)
        << sentence(error_of(loose, more));
    Net wild = net;
    wild.places[4].x = std::numeric_limits<double>::quiet_NaN();
    EXPECT_EQ(error_of(wild, ones).code, ErrorCode::not_finite);
    wild = net;
    wild.held[4] = 1.5;
    EXPECT_EQ(error_of(wild, ones).code, ErrorCode::out_of_range);
    std::vector<double> odd = ones;
    odd[2] = std::numeric_limits<double>::infinity();
    EXPECT_EQ(error_of(net, odd).code, ErrorCode::not_finite);
    EXPECT_EQ(error_of(net, std::vector<double>(net.links.size(), 0)).code, ErrorCode::not_converged);
    Net tied;
    tied.places = {{0, 0, 0}, {2, 0, 0}, {1, 1, 0}};
    tied.links = {{0, 2}, {1, 2}};
    tied.held = {1, 1, 0};
    EXPECT_EQ(error_of(tied, {1, -1}).code, ErrorCode::not_converged) << "they cancel";
    Net empty;
    EXPECT_EQ(error_of(empty, {}).code, ErrorCode::empty_input);
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(balanced_by_densities(net, ones, cancelled).error().code, ErrorCode::cancelled);
}

TEST(ForceDensity, NothingFreeIsLeftAlone) {
    Net net = chain(1, 3, 0);
    const Balance made = balanced(net, {2});
    EXPECT_EQ(made.places[1], net.places[1]);
    EXPECT_NEAR(made.forces[0], 6, 1e-14);
}

}  // namespace
}  // namespace plume::test
