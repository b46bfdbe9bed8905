// Lines spread evenly: rows in a rectangle, circles that grow, a line folded into a disc.

#include "core/forces/spread_lines.hpp"

#include <gtest/gtest.h>
#include <oneapi/tbb/global_control.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

namespace plume::test {
namespace {

LinesSpread spread(const std::vector<SpreadLine>& lines, const SpreadingRule& rule) {
    const auto made = spread_lines(lines, rule, plume::Run());
    EXPECT_TRUE(made) << sentence(made.error());
    return made ? *made : LinesSpread{};
}
SpreadLine straight(Vec3 from, Vec3 to) {
    return {{from, to}, false};
}
SpreadLine circle(double radius, std::size_t count) {
    SpreadLine line{{}, true};
    for (std::size_t at = 0; at < count; ++at) {
        const double turn = 2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(count);
        line.at.push_back({radius * std::cos(turn), radius * std::sin(turn), 0});
    }
    return line;
}
double length_along(const SpreadLine& line) {
    double total = line.closed ? length(line.at.front() - line.at.back()) : 0;
    for (std::size_t at = 1; at < line.at.size(); ++at)
        total += length(line.at[at] - line.at[at - 1]);
    return total;
}
Vec3 flat(Vec3 /*from*/, Vec3 to, double /*from_edge*/) {
    return {to.x, to.y, 0};
}
double to_edge(Vec3 place, Vec3 a, Vec3 b) {
    const Vec3 along = b - a;
    return length(place - a - along * std::clamp(dot(place - a, along) / dot(along, along), 0.0, 1.0));
}
// Between points of a line and edges of another, or of itself farther along than that; one by one.
double nearest_other(const std::vector<SpreadLine>& lines, double along_more_than) {
    double nearest = std::numeric_limits<double>::infinity();
    for (const SpreadLine& one : lines)
        for (const SpreadLine& other : lines) {
            const double edge = length_along(one) / static_cast<double>(one.at.size());
            for (std::size_t a = 0; a < one.at.size(); ++a)
                for (std::size_t b = 0; b + (other.closed ? 0 : 1) < other.at.size(); ++b) {
                    const std::size_t apart = a > b ? a - b : b - a;
                    const std::size_t round = one.closed ? std::min(apart, one.at.size() - apart) : apart;
                    if (&one == &other && static_cast<double>(round) * edge < along_more_than) continue;
                    nearest = std::min(nearest,
                                       to_edge(one.at[a], other.at[b], other.at[(b + 1) % other.at.size()]));
                }
        }
    return nearest;
}

// 10 by 6, lines from side to side that slide on it.
Vec3 in_rectangle(Vec3 /*from*/, Vec3 to, double from_edge) {
    return {std::clamp(to.x, from_edge, 10 - from_edge), std::clamp(to.y, from_edge, 6 - from_edge), 0};
}
Vec3 on_sides(Vec3 place) {
    return {place.x < 5 ? 0.0 : 10.0, std::clamp(place.y, 0.0, 6.0), 0};
}

TEST(SpreadLines, AsFarAsThereIsRoomRowsStandEvenly) {
    std::vector<SpreadLine> lines;
    for (const double y : {0.3, 0.5, 1.1, 4.9, 5.1})
        lines.push_back(straight({0, y, 0}, {10, y, 0}));
    const SpreadingRule rule{.gap = 0.5,
                             .as_far_as_room = true,
                             .lengths = LineLengths::shortest,
                             .ends = LineEnds::sliding,
                             .kept = in_rectangle,
                             .on_edge = on_sides,
                             .most_rounds = 20000};
    const LinesSpread made = spread(lines, rule);
    EXPECT_TRUE(made.at_rest);
    EXPECT_EQ(made.close, 0U);
    // Half a gap below and above, four between: a fifth of the height each.
    EXPECT_NEAR(made.gap, 1.2, 0.012);
    for (std::size_t line = 0; line < 5; ++line)
        for (const Vec3 at : made.lines[line].at)
            EXPECT_NEAR(at.y, 0.6 + 1.2 * static_cast<double>(line), 0.02);
}

TEST(SpreadLines, ACircleGrowsAsLongAsWished) {
    const LinesSpread made = spread({circle(1, 90)}, {.gap = 0.3,
                                                      .lengths = LineLengths::growing,
                                                      .times = 2,
                                                      .ends = LineEnds::loose,
                                                      .kept = flat,
                                                      .most_rounds = 8000});
    EXPECT_TRUE(made.at_rest);
    EXPECT_FALSE(made.no_room);
    EXPECT_NEAR(made.times, 2, 0.01);
    EXPECT_NEAR(length_along(made.lines[0]), 4 * std::numbers::pi, 0.1);
    EXPECT_EQ(made.close, 0U) << "however it folded";
}

TEST(SpreadLines, OneThatGrowsFoldsIntoADiscAndKeepsItsGap) {
    const auto in_disc = [](Vec3 /*from*/, Vec3 to, double from_edge) {
        const double far = std::hypot(to.x, to.y), most = 3 - from_edge;
        return far > most ? Vec3{to.x * most / far, to.y * most / far, 0} : Vec3{to.x, to.y, 0};
    };
    const LinesSpread made = spread({circle(2, 90)}, {.gap = 0.4,
                                                      .lengths = LineLengths::growing,
                                                      .times = 50,
                                                      .ends = LineEnds::loose,
                                                      .kept = in_disc,
                                                      .most_rounds = 4000});
    EXPECT_TRUE(made.no_room);
    EXPECT_EQ(made.close, 0U);
    EXPECT_NEAR(nearest_other(made.lines, 1.8 * 0.4), 0.4, 0.02);
    // Points stand about evenly all round, its seam too.
    const SpreadLine& line = made.lines[0];
    for (std::size_t at = 0; at < line.at.size(); ++at) {
        const double edge = length(line.at[(at + 1) % line.at.size()] - line.at[at]);
        EXPECT_GT(edge, 0.4 * 0.4 / 5) << at;
        EXPECT_LT(edge, 2 * 0.4 / 5) << at;
    }
    // No denser than lines a gap apart can be, and more than half as dense.
    const double filled = length_along(made.lines[0]) * 0.4 / (9 * std::numbers::pi);
    EXPECT_GT(filled, 0.6);
    EXPECT_LT(filled, 1);
    EXPECT_NEAR(made.times, length_along(made.lines[0]) / length_along(circle(2, 90)), 1e-9);
}

TEST(SpreadLines, DrawnShortItLiesRoundWhatStays) {
    const SpreadLine over{{{-4, 0, 0}, {-2, 3, 0}, {2, 3, 0}, {4, 0, 0}}, false};
    const LinesSpread made = spread({over}, {.gap = 0.5,
                                             .lengths = LineLengths::shortest,
                                             .kept = flat,
                                             .around = {circle(1, 400)},
                                             .most_rounds = 5000});
    EXPECT_TRUE(made.at_rest);
    // Two tangents from (4, 0) to a circle of 1.5, and the arc between them.
    const double tangent = std::sqrt(16 - 2.25), arc = 1.5 * (std::numbers::pi - 2 * std::acos(1.5 / 4));
    EXPECT_NEAR(length_along(made.lines[0]), 2 * tangent + arc, 0.005);
    for (const Vec3 at : made.lines[0].at)
        EXPECT_GT(length(at), 1.5 * 0.99);
    EXPECT_EQ(made.lines[0].at.front(), over.at.front()) << "held";
    EXPECT_EQ(made.lines[0].at.back(), over.at.back()) << "held";
}

TEST(SpreadLines, GetLongerWhereTheyHaveToAndNoShorter) {
    const LinesSpread ring = spread({circle(2, 90)}, {.gap = 0.3, .kept = flat});
    EXPECT_TRUE(ring.at_rest);
    EXPECT_NEAR(length_along(ring.lines[0]), length_along(circle(2, 90)), 0.02) << "nothing is near it";
    // Two that are held 10 cm from each other bulge, and go no farther apart than is asked.
    const LinesSpread two = spread({straight({0, 0, 0}, {6, 0, 0}), straight({0, 0.1, 0}, {6, 0.1, 0})},
                                   {.gap = 0.5, .kept = flat});
    EXPECT_TRUE(two.at_rest) << "their ends are as near as they are held";
    EXPECT_GT(length_along(two.lines[0]), 6.001);
    EXPECT_LT(length_along(two.lines[0]), 6.3);
    const SpreadLine& below = two.lines[0];
    EXPECT_NEAR(below.at[below.at.size() / 2].y, -0.2, 0.02);
    EXPECT_EQ(below.at.back(), (Vec3{6, 0, 0}));
}

TEST(SpreadLines, StayOnASphereAndKeepTheirLengths) {
    const auto on_sphere = [](Vec3 /*from*/, Vec3 to, double /*from_edge*/) { return to * (5 / length(to)); };
    std::vector<SpreadLine> parallels;
    for (const double z : {-0.1, 0.1}) {
        SpreadLine line = circle(std::sqrt(25 - z * z), 200);
        for (Vec3& at : line.at)
            at.z = z;
        parallels.push_back(line);
    }
    const LinesSpread made = spread(parallels, {.gap = 1,
                                                .lengths = LineLengths::kept,
                                                .ends = LineEnds::loose,
                                                .kept = on_sphere,
                                                .most_rounds = 5000});
    for (const SpreadLine& line : made.lines)
        for (const Vec3 at : line.at)
            EXPECT_NEAR(length(at), 5, 1e-12);
    EXPECT_GT(nearest_other({made.lines[0], made.lines[1]}, 8), 0.98);
    EXPECT_NEAR(made.times, 1, 0.02);
}

TEST(SpreadLines, AreTheSameOnAnyNumberOfThreads) {
    std::vector<SpreadLine> lines;
    for (std::size_t line = 0; line < 8; ++line) {
        const double at = static_cast<double>(line);
        lines.push_back(straight({0, 3 + 0.3 * at, 0}, {10, 3 - 0.25 * at, 0}));
    }
    const SpreadingRule rule{.gap = 0.1,
                             .lengths = LineLengths::growing,
                             .times = 2,
                             .ends = LineEnds::loose,
                             .kept = in_rectangle,
                             .most_rounds = 60};
    const LinesSpread many = spread(lines, rule);
    const tbb::global_control one(tbb::global_control::max_allowed_parallelism, 1);
    const LinesSpread alone = spread(lines, rule);
    for (std::size_t line = 0; line < lines.size(); ++line)
        EXPECT_EQ(many.lines[line].at, alone.lines[line].at);
}

TEST(SpreadLines, PointsThatAreTooNearOrTooFarAreMended) {
    SpreadLine round = circle(2, 12);  // points 1.04 from each other
    round.at.insert(round.at.begin() + 1, round.at[0] + Vec3{0, 0.1, 0});
    round.at.push_back(round.at[0] - Vec3{0, 0.1, 0});
    round.at.erase(round.at.begin() + 6);
    mend_spacing(round, 1);
    ASSERT_EQ(round.at.size(), 12U) << "without those beside the seam, with another in the gap";
    for (std::size_t at = 0; at < 12; ++at) {
        EXPECT_NEAR(length(round.at[at] - circle(2, 12).at[at]), 0, at == 5 ? 0.2 : 1e-12) << at;
    }
    SpreadLine held{{{0, 0, 0}, {1, 0, 0}, {1.1, 0, 0}}, false};
    mend_spacing(held, 1);
    EXPECT_EQ(held.at.back(), (Vec3{1.1, 0, 0})) << "ends stay";
}

TEST(SpreadLines, RefuseWithTheMend) {
    const auto code = [](const std::vector<SpreadLine>& lines, const SpreadingRule& rule) {
        return spread_lines(lines, rule, plume::Run()).error().code;
    };
    const std::vector<SpreadLine> one{straight({0, 0, 0}, {1, 0, 0})};
    const double not_a_number = std::numeric_limits<double>::quiet_NaN();
    EXPECT_TRUE(spread_lines({}, {.gap = 1}, plume::Run())) << "of none there is nothing to do";
    EXPECT_EQ(code(one, {.gap = 0}), ErrorCode::out_of_range);
    EXPECT_EQ(code(one, {.gap = not_a_number}), ErrorCode::out_of_range);
    EXPECT_EQ(code(one, {.gap = 1, .stiffness = 2}), ErrorCode::out_of_range);
    EXPECT_EQ(code(one, {.gap = 1, .lengths = LineLengths::shortest, .ends = LineEnds::loose}),
              ErrorCode::unlike_arrangement);
    EXPECT_EQ(code({straight({0, 0, 0}, {0, 0, 0})}, {.gap = 1}), ErrorCode::too_few_points);
    EXPECT_EQ(code({straight({0, 0, 0}, {not_a_number, 0, 0})}, {.gap = 1}), ErrorCode::not_finite);
    EXPECT_EQ(code(one, {.gap = 1, .around = {SpreadLine{{{0, 0, 0}}, false}}}), ErrorCode::too_few_points);
    plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(spread_lines(one, {.gap = 1}, cancelled).error().code, ErrorCode::cancelled);
}

// One that lies on another, and one far longer than the gap.
TEST(SpreadLines, WhatLiesOnItselfOrIsFarTooLongStaysFinite) {
    const SpreadLine row = straight({0, 1, 0}, {10, 1, 0});
    const LinesSpread made =
        spread({row, row}, {.gap = 0.5, .lengths = LineLengths::kept, .ends = LineEnds::loose, .kept = flat});
    for (const SpreadLine& line : made.lines)
        for (const Vec3 at : line.at)
            ASSERT_TRUE(is_finite(at));
    EXPECT_GT(nearest_other(made.lines, 20), 0.45) << "they part";
}

}  // namespace
}  // namespace plume::test
