// What a sheet resists as it lies, multiplied in single precision, against the same in double precision.

#include "core/sheets/sheet_stiffness.hpp"

#include <random>

#include "core/geometry/meshes/vertex_places.hpp"
#include "core/support.hpp"

namespace plume {
namespace {

constexpr double inertia = 0.2;  // N/m

// Two rows of four triangles, thrown about, held together by springs a million times as stiff as that.
struct Thrown {
    Thrown() {
        Mesh::Parts parts;
        std::vector<Vec3> places;
        for (int row = 0; row < 3; ++row)
            for (int column = 0; column < 3; ++column)
                places.push_back({0.1 * column, 0.1 * row, 0.03 * thrown(random)});
        set_vertices(parts, places);
        for (const std::uint32_t a : {0U, 1U, 3U, 4U})
            for (const auto& corners : {std::array{a, a + 1, a + 4}, std::array{a, a + 4, a + 3}}) {
                parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
                parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
            }
        const Mesh mesh = *Mesh::make(std::move(parts));
        sheet = *make_sheet(mesh, vertex_places(mesh), {0.15, 2e5, 4e4, 0.5});
        at = vertex_places(mesh);
    }
    SheetStiffness stiffness() const {
        SheetStiffness made(sheet);
        made.set_pushing({});
        StiffnessBlock inert;
        inert.add(inertia);
        for (std::uint32_t vertex = 0; vertex < sheet.vertex_count; ++vertex) {
            made.own[vertex] = inert;
            made.without_links[vertex] = BlockLanes(inert);
            for (std::uint32_t k = sheet.springs_at.first[vertex]; k < sheet.springs_at.first[vertex + 1];
                 ++k) {
                const Vec3 along = unit_or_zero(at[sheet.ring.of[k]] - at[vertex]);
                made.links[k] = {along * std::sqrt(2e5), 1e3};
                made.own[vertex].add(1, made.links[k].axis());
                made.own[vertex].add(made.links[k].across());
            }
            made.own[vertex].add(made.bends().own[vertex]);
        }
        return made;
    }
    std::mt19937 random{7};
    std::uniform_real_distribution<double> thrown{-1, 1};
    Sheet sheet;
    std::vector<Vec3> at;
};

TEST(SheetStiffness, AProductIsThatOfItsBlocks) {
    Thrown thrown;
    const SheetStiffness stiffness = thrown.stiffness();
    std::vector<Vec3> ways;
    for (std::size_t vertex = 0; vertex < thrown.sheet.vertex_count; ++vertex)
        ways.push_back(
            {thrown.thrown(thrown.random), thrown.thrown(thrown.random), thrown.thrown(thrown.random)});
    std::vector<Lanes> lanes(ways.begin(), ways.end());
    const auto& bends = stiffness.bends();
    for (std::uint32_t vertex = 0; vertex < thrown.sheet.vertex_count; ++vertex) {
        Vec3 wanted = stiffness.own[vertex] * ways[vertex];
        for (std::uint32_t k = thrown.sheet.springs_at.first[vertex];
             k < thrown.sheet.springs_at.first[vertex + 1]; ++k) {
            const SheetStiffness::Link& link = stiffness.links[k];
            const Vec3 other = ways[thrown.sheet.ring.of[k]];
            wanted = wanted - other * link.across() - link.axis() * dot(link.axis(), other);
        }
        for (std::uint32_t k = bends.first[vertex]; k < bends.first[vertex + 1]; ++k)
            wanted = wanted + ways[bends.other[k]] * bends.weight[k];
        const Lanes found = stiffness.times(lanes, vertex);
        EXPECT_LT(length(found.vec3() - wanted), 1e-5 * length(wanted)) << vertex;
        EXPECT_GT(length(wanted), 1e4) << "of what is stiff";
        EXPECT_EQ(found.fourth(), 0);
    }
}

TEST(SheetStiffness, WhatGoesAlongMeetsWithNothingHoweverStiffItIs) {
    Thrown thrown;
    SheetStiffness stiffness = thrown.stiffness();
    const Vec3 way{0.3, -0.7, 0.1};
    const std::vector<Lanes> ways(thrown.sheet.vertex_count, Lanes(way));
    for (std::uint32_t vertex = 0; vertex < thrown.sheet.vertex_count; ++vertex)
        EXPECT_LT(length(stiffness.times(ways, vertex).vec3() - way * inertia), 1e-7) << vertex;
    stiffness.stays[4] = 1;
    EXPECT_EQ(length(stiffness.times(ways, 4).vec3()), 0);
}

}  // namespace
}  // namespace plume
