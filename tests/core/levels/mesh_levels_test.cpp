// Lines on meshes: closed forms, and shapes that are no surface.

#include <array>
#include <cmath>
#include <limits>
#include <numbers>

#include "core/geometry/levels/mesh_levels.hpp"
#include "core/geometry/surfaces/facets.hpp"
#include "core/made_forms.hpp"

namespace plume {
namespace {

using test::mesh_of_faces;

// Four by four, two high, without its foot.
Mesh pyramid() {
    return mesh_of_faces({{-2, -2, 0}, {2, -2, 0}, {2, 2, 0}, {-2, 2, 0}, {0, 0, 2}},
                         {{0, 1, 4}, {1, 2, 4}, {2, 3, 4}, {3, 0, 4}});
}

MeshLevels heights_at(const Mesh& mesh, const std::vector<double>& levels) {
    const auto made = mesh_levels(mesh, mesh.z().span(), levels, plume::Run());
    EXPECT_TRUE(made);
    return *made;
}
std::vector<Vec3> line_of(const MeshLevels& made, std::size_t line) {
    return {made.points.begin() + static_cast<std::ptrdiff_t>(made.starts[line]),
            made.points.begin() + static_cast<std::ptrdiff_t>(made.starts[line + 1])};
}
double length_of(const MeshLevels& made, std::size_t line) {
    const std::vector<Vec3> points = line_of(made, line);
    double total = made.closed[line] != 0 ? length(points.back() - points.front()) : 0;
    for (std::size_t at = 1; at < points.size(); ++at)
        total += length(points[at] - points[at - 1]);
    return total;
}
// Above 0 where it runs anticlockwise in plan.
double area_of(const MeshLevels& made, std::size_t line) {
    const std::vector<Vec3> points = line_of(made, line);
    double area = 0;
    for (std::size_t at = 0; at < points.size(); ++at) {
        const Vec3 a = points[at], b = points[(at + 1) % points.size()];
        area += (a.x * b.y - b.x * a.y) / 2;
    }
    return area;
}

TEST(MeshLevels, OfAPyramidAreSquares) {
    const MeshLevels made = heights_at(pyramid(), {0.5, 1, 1.5});
    ASSERT_EQ(made.count(), 3U);
    for (std::uint32_t line = 0; line < 3; ++line) {
        EXPECT_EQ(made.level[line], line);
        EXPECT_EQ(made.closed[line], 1);
        EXPECT_NEAR(length_of(made, line), 4 * (3 - line), 1e-12);
        EXPECT_NEAR(area_of(made, line), (3 - line) * (3 - line), 1e-12) << "the top is at the left";
        EXPECT_EQ(line_of(made, line).size(), 4U);
    }
}

TEST(MeshLevels, ExactlyAtVerticesAndEdges) {
    EXPECT_EQ(heights_at(pyramid(), {2}).count(), 0U) << "the top is a place";
    EXPECT_EQ(heights_at(pyramid(), {0}).count(), 0U) << "nothing lies below the foot";
    EXPECT_EQ(heights_at(pyramid(), {-1, 3}).count(), 0U);
    // A roof whose ridge has the height of its eaves' neighbours: a level along whole edges.
    const Mesh tent = mesh_of_faces({{0, 0, 0}, {4, 0, 0}, {4, 1, 1}, {0, 1, 1}, {4, 2, 2}, {0, 2, 2}},
                                    {{0, 1, 2, 3}, {3, 2, 4, 5}});
    const MeshLevels edge = heights_at(tent, {1});
    ASSERT_EQ(edge.count(), 1U);
    EXPECT_EQ(edge.closed[0], 0);
    EXPECT_NEAR(length_of(edge, 0), 4, 1e-12);
    // Through two corners of every face.
    const Mesh diagonal = mesh_of_faces({{0, 0, 0}, {1, 0, 1}, {1, 1, 2}, {0, 1, 1}}, {{0, 1, 2}, {0, 2, 3}});
    const MeshLevels middle = heights_at(diagonal, {1});
    ASSERT_EQ(middle.count(), 1U);
    EXPECT_NEAR(length_of(middle, 0), std::numbers::sqrt2, 1e-12);
}

TEST(MeshLevels, FlatFacesAndNumbersThatAreNotFinite) {
    const Mesh table = mesh_of_faces({{0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}, {2, 0, 0}, {2, 1, 0}},
                                     {{0, 1, 2, 3}, {1, 4, 5, 2}});
    const MeshLevels made = heights_at(table, {0.5, 1});
    EXPECT_EQ(made.level_faces, 1U);
    ASSERT_EQ(made.count(), 2U);
    EXPECT_NEAR(length_of(made, 0), 1, 1e-12);
    EXPECT_NEAR(length_of(made, 1), 1, 1e-12) << "the rim of the table";
    const std::vector<double> odd{0, 0, 1, 1, std::numeric_limits<double>::quiet_NaN(), 1};
    const auto without = mesh_levels(table, odd, std::array{0.5}, plume::Run());
    EXPECT_EQ(without->faces_without, 1U);
    ASSERT_EQ(without->count(), 1U);
    EXPECT_NEAR(length_of(*without, 0), 1, 1e-12);
}

TEST(MeshLevels, OfATorusByCavalieri) {
    const Mesh ring = *facets(test::torus(120, 60, 3, 1), FacetShape::triangles, plume::Run());
    const MeshLevels equator = heights_at(ring, {1e-9});
    ASSERT_EQ(equator.count(), 2U);
    std::vector<double> levels;
    constexpr int count = 400;
    for (int level = 0; level < count; ++level)
        levels.push_back(-1 + 2 * (level + 0.5) / count);
    const MeshLevels made = heights_at(ring, levels);
    double total = 0;
    for (std::size_t line = 0; line < made.count(); ++line) {
        EXPECT_EQ(made.closed[line], 1);
        total +=
            std::abs(area_of(made, line)) * (std::abs(area_of(made, line)) > 9 * std::numbers::pi ? 1 : -1);
    }
    EXPECT_NEAR(total * 2 / count, test::volume(ring), 2e-3 * test::volume(ring));
}

TEST(MeshLevels, NoSurfaceIsNoHarm) {
    // A book of three leaves: three faces at one edge.
    const Mesh book = mesh_of_faces(
        {{0, 0, 0}, {0, 0, 1}, {1, 0, 0}, {1, 0, 1}, {-1, 1, 0}, {-1, 1, 1}, {-1, -1, 0}, {-1, -1, 1}},
        {{0, 2, 3, 1}, {0, 4, 5, 1}, {0, 6, 7, 1}});
    const MeshLevels leaves = heights_at(book, {0.5});
    double total = 0;
    for (std::size_t line = 0; line < leaves.count(); ++line)
        total += length_of(leaves, line);
    EXPECT_NEAR(total, 1 + 2 * std::numbers::sqrt2, 1e-12);
    EXPECT_EQ(leaves.count(), 2U) << "two leaves make one line, the third its own";
    // A face without area, and a strip that is turned over.
    const Mesh thin = mesh_of_faces({{0, 0, 0}, {0, 0, 1}, {0, 0, 2}}, {{0, 1, 2}});
    EXPECT_EQ(heights_at(thin, {0.5}).count(), 0U) << "its line has no length";
    for (const auto& [name, lattice] : test::pathological()) {
        const auto mesh = facets(lattice, FacetShape::triangles, plume::Run());
        if (!mesh) continue;
        const auto made = mesh_levels(*mesh, mesh->x().span(), std::array{-0.5, 0.0, 0.5, 1.0}, plume::Run());
        ASSERT_TRUE(made) << name;
        for (const Vec3 point : made->points)
            EXPECT_TRUE(is_finite(point)) << name;
    }
    const plume::Run cancelled;
    cancelled.cancel();
    EXPECT_EQ(mesh_levels(pyramid(), pyramid().z().span(), std::array{1.0}, cancelled).error().code,
              ErrorCode::cancelled);
}

}  // namespace
}  // namespace plume
