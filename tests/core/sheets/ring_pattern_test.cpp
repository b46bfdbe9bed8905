// Rings of triangles and rings of polygons: how many of what there are, and how they are joined.

#include "core/sheets/ring_pattern.hpp"

#include <complex>
#include <map>
#include <numbers>

#include "core/sheets/patchwork.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

std::map<std::uint32_t, int> triangles_at(const RingSheet& sheet) {
    std::map<std::uint32_t, int> at;
    for (const auto& triangle : sheet.triangles)
        for (const std::uint32_t corner : triangle)
            ++at[corner];
    return at;
}

TEST(RingPatterns, SixTwelveEighteenAreTheTriangularLattice) {
    const auto sheet = ring_sheet({{6, 12, 18, 24, 30}, true, true});
    ASSERT_TRUE(sheet);
    EXPECT_EQ(sheet->ring.size(), 1U + 6 * 15);
    EXPECT_EQ(sheet->triangles.size(), 6U * 25);
    for (const auto& [vertex, count] : triangles_at(*sheet))
        EXPECT_TRUE(sheet->ring[vertex] == 5 || count == 6) << vertex;
    EXPECT_EQ(sheet->ring[0], 0U);
    EXPECT_EQ(sheet->stitch[7 + 5], 5U);
    EXPECT_DOUBLE_EQ(sheet->share[7 + 3], 3.0 / 12);
}

// Between two rings there are as many triangles as both have edges, whatever they count; each edge of a ring
// is one of a triangle towards it.
TEST(RingPatterns, RingsOfAnyCountsAreJoined) {
    for (const bool closed : {true, false}) {
        const std::vector<std::size_t> counts{7, 12, 3, 40, 40, 5};
        const auto sheet = ring_sheet({counts, closed, false});
        ASSERT_TRUE(sheet);
        std::size_t expected = 0;
        for (std::size_t ring = 0; ring + 1 < counts.size(); ++ring)
            expected += counts[ring] + counts[ring + 1] - (closed ? 0 : 2);
        EXPECT_EQ(sheet->triangles.size(), expected);
        std::map<std::pair<std::uint32_t, std::uint32_t>, int> sides;
        for (const auto& t : sheet->triangles)
            for (std::size_t side = 0; side < 3; ++side)
                ++sides[std::minmax(t[side], t[(side + 1) % 3])];
        for (const auto& [ends, count] : sides)
            EXPECT_LE(count, 2) << ends.first << ' ' << ends.second;
        // Euler: a tube has vertices - edges + faces = 0, a strip 1.
        EXPECT_EQ(static_cast<long>(sheet->ring.size()) - static_cast<long>(sides.size()) +
                      static_cast<long>(sheet->triangles.size()),
                  closed ? 0 : 1);
        EXPECT_DOUBLE_EQ(sheet->share[6], closed ? 6.0 / 7 : 1);
    }
}

TEST(RingPatterns, TooFewStitchesAreRefused) {
    EXPECT_EQ(ring_sheet({{6, 2}, true, true}).error().code, ErrorCode::too_few_points);
    EXPECT_NE(sentence(ring_sheet({{6, 2}, true, true}).error()).find("2 stitches in ring 2"),
              std::string::npos);
    EXPECT_TRUE(ring_sheet({{2, 2}, false, false}));
    EXPECT_EQ(ring_sheet({{2, 1}, false, false}).error().code, ErrorCode::too_few_points);
    EXPECT_EQ(ring_sheet({{8}, true, false}).error().code, ErrorCode::too_few_points);
    EXPECT_EQ(ring_sheet({{}, true, true}).error().code, ErrorCode::too_few_points);
}

double hyperbolic(Vec3 a, Vec3 b) {
    const double apart = dot(a - b, a - b);
    return std::acosh(1 + 2 * apart / ((1 - dot(a, a)) * (1 - dot(b, b))));
}

// Of {sides, around}: 2 acosh(cos(pi / sides) / sin(pi / around)).
TEST(Patchworks, AllSidesAreOfTheLengthThatHyperbolicGeometryAsks) {
    for (const auto& [sides, around] :
         {std::pair<std::size_t, std::size_t>{7, 3}, {3, 7}, {4, 5}, {5, 4}, {8, 8}}) {
        const auto made = patchwork(sides, around, 2, plume::Run());
        ASSERT_TRUE(made);
        const double pi = std::numbers::pi;
        const double expected = 2 * std::acosh(std::cos(pi / static_cast<double>(sides)) /
                                               std::sin(pi / static_cast<double>(around)));
        for (const auto& face : made->faces)
            for (std::size_t side = 0; side < face.size(); ++side)
                ASSERT_NEAR(hyperbolic(made->at[face[side]], made->at[face[(side + 1) % face.size()]]),
                            expected, 1e-9 * expected);
    }
}

// Rings grow by recurrences: {7, 3} 1, 7, 21, 56 … (3 times the last less the one before), {4, 5} 1, 12, 48,
// 180 … and {5, 4} 1, 10, 40 … (4 times).
TEST(Patchworks, RingsHaveAsManyAsRecurrencesSay) {
    const auto counts = [](std::size_t sides, std::size_t around, std::size_t rings) {
        const auto made = patchwork(sides, around, rings, plume::Run());
        std::vector<std::size_t> of(rings + 1, 0);
        for (const std::uint32_t ring : made->ring)
            ++of[ring];
        return of;
    };
    EXPECT_EQ(counts(7, 3, 5), (std::vector<std::size_t>{1, 7, 21, 56, 147, 385}));
    EXPECT_EQ(counts(4, 5, 4), (std::vector<std::size_t>{1, 12, 48, 180, 672}));
    EXPECT_EQ(counts(5, 4, 3), (std::vector<std::size_t>{1, 10, 40, 150}));
}

TEST(Patchworks, AsManyPolygonsAreAroundEachCornerWithin) {
    const auto made = patchwork(4, 5, 3, plume::Run());
    std::map<std::uint32_t, std::size_t> at;
    std::set<std::uint32_t> within;
    for (std::size_t face = 0; face < made->faces.size(); ++face)
        for (const std::uint32_t corner : made->faces[face]) {
            ++at[corner];
            if (made->ring[face] < 3) within.insert(corner);
        }
    EXPECT_EQ(at.size(), made->at.size());
    for (const auto& [corner, count] : at)
        EXPECT_EQ(count == 5, within.contains(corner)) << corner;
}

TEST(Patchworks, WhatLiesFlatOrClosesUpIsRefused) {
    for (const auto& [sides, around] :
         {std::pair<std::size_t, std::size_t>{3, 6}, {4, 4}, {6, 3}, {5, 3}, {3, 5}, {2, 9}})
        EXPECT_EQ(patchwork(sides, around, 1, plume::Run()).error().code, ErrorCode::out_of_range);
    EXPECT_EQ(patchwork(7, 7, 40, plume::Run()).error().code, ErrorCode::over_budget);
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(patchwork(7, 3, 4, cancelled).error().code, ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
