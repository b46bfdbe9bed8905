// Curves by rewriting: lengths in closed form, every cell of a grid visited once.

#include "core/growth/traced_line.hpp"

#include <cmath>
#include <set>

#include "core/growth/growth.hpp"
#include "core/support.hpp"

namespace plume::test {
namespace {

std::vector<TracedLine> traced(const std::string& text, std::size_t generations, double size = 1,
                               const std::set<std::string>& drawn = {}) {
    RulesSetting setting;
    setting.placed = false;
    const auto rules = check_rules(text, setting);
    EXPECT_TRUE(rules) << sentence(rules.error());
    GrowthLimits limits;
    limits.generations = generations;
    limits.most = 10'000'000;
    const auto grown = grow(*rules, {{Placement{}}, {1}, {}, size}, limits, {}, plume::Run());
    EXPECT_TRUE(grown);
    std::vector<std::uint8_t> of_name;
    for (const std::string& part : rules->parts)
        of_name.push_back(drawn.empty() || drawn.contains(part) ? 1 : 0);
    return traced_lines(grown->parts, of_name);
}

double length_of(const TracedLine& line) {
    double sum = line.closed ? length(line.points.front() - line.points.back()) : 0;
    for (std::size_t at = 1; at < line.points.size(); ++at)
        sum += length(line.points[at] - line.points[at - 1]);
    return sum;
}

TEST(TracedLine, AKochCurveIsFourThirdsAsLongEveryGeneration) {
    const std::string koch =
        "side becomes\nside, sized 1 / 3\nside, turned 60° about up, sized 1 / 3\n"
        "side, turned -60° about up, sized 1 / 3\nside, sized 1 / 3";
    for (std::size_t generations = 0; generations < 8; ++generations) {
        const auto lines = traced(koch, generations, 3);
        ASSERT_EQ(lines.size(), 1U);
        EXPECT_EQ(lines[0].points.size(), static_cast<std::size_t>(std::pow(4, generations)) + 1);
        EXPECT_NEAR(length_of(lines[0]), 3 * std::pow(4.0 / 3, generations), 1e-9);
        EXPECT_NEAR(length(lines[0].points.back() - Vec3{3, 0, 0}), 0, 1e-9);
    }
    // The top of the first peak.
    EXPECT_NEAR(traced(koch, 1, 3)[0].points[2].y, std::sqrt(3) / 2, 1e-12);
}

TEST(TracedLine, ASnowflakeIsClosed) {
    const auto lines = traced(
        "flake becomes\nside\nside, turned -120° about up\nside, turned 120° about up\n"
        "side becomes\nside, sized 1 / 3\nside, turned 60° about up, sized 1 / 3\n"
        "side, turned -60° about up, sized 1 / 3\nside, sized 1 / 3",
        4);
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_TRUE(lines[0].closed);
    EXPECT_EQ(lines[0].points.size(), 3U * 64U);
    EXPECT_NEAR(length_of(lines[0]), 3 * std::pow(4.0 / 3, 3), 1e-9);
}

// A piece goes along its cell from corner to corner; each turns into four and three paces between them.
const std::string hilbert =
    "cell becomes\n"
    "cell, turned 90° about up, mirrored across\n"
    "pace, turned 90° about up\n"
    "cell\n"
    "pace\n"
    "cell\n"
    "pace, turned -90° about up\n"
    "cell, turned -90° about up, mirrored across";

TEST(TracedLine, HilbertsCurveVisitsEveryCellOnce) {
    for (std::size_t order = 1; order < 8; ++order) {
        const auto lines = traced(hilbert, order, 1, {"pace"});
        ASSERT_EQ(lines.size(), 1U);
        const std::size_t side = std::size_t{1} << order;
        ASSERT_EQ(lines[0].points.size(), side * side);
        std::set<std::pair<long, long>> visited;
        for (std::size_t at = 0; at < lines[0].points.size(); ++at) {
            const Vec3 place = lines[0].points[at];
            visited.insert({std::lround(place.x), std::lround(place.y)});
            EXPECT_GE(std::lround(place.x), 0);
            EXPECT_LT(std::lround(place.y), static_cast<long>(side));
            if (at > 0) {
                EXPECT_NEAR(length(place - lines[0].points[at - 1]), 1, 1e-9);
            }
        }
        EXPECT_EQ(visited.size(), side * side);
    }
}

TEST(TracedLine, WhatIsMovedIsPassedWithoutALine) {
    const auto lines = traced("row becomes\ndash\ndash, moved size / 2 along\ndash, moved size / 2 along", 1);
    ASSERT_EQ(lines.size(), 3U);
    EXPECT_NEAR(lines[1].points[0].x, 1.5, 1e-12);
    EXPECT_NEAR(lines[2].points[1].x, 4, 1e-12);
}

TEST(TracedLine, GoesOnInSpaceAndForTenThousandGenerations) {
    const auto lines =
        traced("coil becomes\nbit\ncoil, turned 10° about up, turned 2° about across, sized 0.999\n", 10'000,
               1, {"bit"});
    ASSERT_EQ(lines.size(), 1U);
    EXPECT_EQ(lines[0].points.size(), 10'001U);
    double expected = 0;
    for (int at = 0; at < 10'000; ++at)
        expected += std::pow(0.999, at);
    EXPECT_NEAR(length_of(lines[0]), expected, 1e-6);
    // A screw: turned by the same every time, it would not stay in its plane.
    double high = 0;
    for (const Vec3& point : lines[0].points)
        high = std::max(high, std::abs(point.z));
    EXPECT_GT(high, 1);
}

TEST(TracedLine, LeavesNothingWhereNothingIsDrawn) {
    EXPECT_TRUE(traced("a becomes\nb", 3, 1, {"c"}).empty());
}

}  // namespace
}  // namespace plume::test
