#include "core/sheets/sheet_features.hpp"

#include <algorithm>
#include <utility>

namespace plume {

SheetFeatures features_of(std::vector<std::array<std::uint32_t, 3>> triangles, std::size_t vertex_count) {
    SheetFeatures made;
    made.triangles = std::move(triangles);
    struct Side {
        std::array<std::uint32_t, 2> ends;
        std::uint32_t triangle;
    };
    std::vector<Side> sides;
    sides.reserve(3 * made.triangles.size());
    for (std::uint32_t index = 0; index < made.triangles.size(); ++index) {
        const auto [a, b, c] = made.triangles[index];
        for (const auto& [from, to] : {std::minmax(a, b), std::minmax(b, c), std::minmax(c, a)})
            sides.push_back({{from, to}, index});
    }
    std::ranges::stable_sort(sides, {}, &Side::ends);
    sides.erase(std::unique(sides.begin(), sides.end(),
                            [](const Side& a, const Side& b) { return a.ends == b.ends; }),
                sides.end());
    for (const Side& side : sides)
        made.edges.push_back(side.ends);
    made.edges_of = incidence(made.triangles.size(), [&](auto use) {
        for (std::uint32_t edge = 0; edge < sides.size(); ++edge)
            use(sides[edge].triangle, edge);
    });
    made.vertices_of = incidence(made.triangles.size(), [&](auto use) {
        std::vector<char> owned(vertex_count, 0);
        for (std::uint32_t index = 0; index < made.triangles.size(); ++index)
            for (const std::uint32_t vertex : made.triangles[index])
                if (!std::exchange(owned[vertex], char{1})) use(index, vertex);
    });
    return made;
}

}  // namespace plume
