#include "core/sheets/sheet_features.hpp"

#include <algorithm>
#include <tuple>
#include <utility>

namespace plume {

std::vector<TriangleSide> sides_of(const std::vector<std::array<std::uint32_t, 3>>& triangles) {
    std::vector<TriangleSide> given;
    given.reserve(3 * triangles.size());
    std::size_t vertices = 0;
    for (std::uint32_t index = 0; index < triangles.size(); ++index)
        for (std::size_t side = 0; side < 3; ++side) {
            const auto& corners = triangles[index];
            const std::uint32_t a = corners[side], b = corners[(side + 1) % 3];
            vertices = std::max(vertices, a + std::size_t{1});
            if (a != b) given.push_back({{std::min(a, b), std::max(a, b)}, index, corners[(side + 2) % 3]});
        }
    // By their lower ends first: few have the same.
    const Incidence at_lower = incidence(vertices, [&](auto use) {
        for (std::uint32_t index = 0; index < given.size(); ++index)
            use(given[index].ends[0], index);
    });
    std::vector<TriangleSide> sides;
    sides.reserve(given.size());
    for (const std::uint32_t index : at_lower.of)
        sides.push_back(given[index]);
    for (std::size_t vertex = 0; vertex < vertices; ++vertex)
        std::sort(sides.begin() + at_lower.first[vertex], sides.begin() + at_lower.first[vertex + 1],
                  [](const TriangleSide& a, const TriangleSide& b) {
                      return std::tie(a.ends[1], a.triangle) < std::tie(b.ends[1], b.triangle);
                  });
    return sides;
}

SheetFeatures features_of(std::vector<std::array<std::uint32_t, 3>> triangles, std::size_t vertex_count) {
    SheetFeatures made;
    made.triangles = std::move(triangles);
    std::vector<TriangleSide> sides = sides_of(made.triangles);
    sides.erase(std::unique(sides.begin(), sides.end(),
                            [](const TriangleSide& a, const TriangleSide& b) { return a.ends == b.ends; }),
                sides.end());
    Incidence owned = incidence(made.triangles.size(), [&](auto use) {
        for (std::uint32_t side = 0; side < sides.size(); ++side)
            use(sides[side].triangle, side);
    });
    made.edges.reserve(sides.size());
    for (const std::uint32_t side : owned.of)
        made.edges.push_back(sides[side].ends);
    made.first_edge = std::move(owned.first);
    made.vertices_of = incidence(made.triangles.size(), [&](auto use) {
        std::vector<char> taken(vertex_count, 0);
        for (std::uint32_t index = 0; index < made.triangles.size(); ++index)
            for (const std::uint32_t vertex : made.triangles[index])
                if (!std::exchange(taken[vertex], char{1})) use(index, vertex);
    });
    return made;
}

}  // namespace plume
