#include "general_nesting.hpp"

#include <cmath>

#include "core/geometry/meshes/nesting_library.hpp"

namespace plume::bench {

std::size_t sheets_by_general_nesting(const std::vector<std::vector<FlatPoint>>& outlines,
                                      const StockSheet& sheet) {
    constexpr double units_a_length = 1e7;
    const auto whole = [](double length) {
        return static_cast<ClipperLib::cInt>(std::llround(length * units_a_length));
    };
    std::vector<libnest2d::Item> items;
    for (const auto& outline : outlines) {
        // Clockwise, and its first corner again at the end.
        libnest2d::PathImpl path;
        path.emplace_back(whole(outline.front().x), whole(outline.front().y));
        for (std::size_t at = outline.size(); at-- > 0;)
            path.emplace_back(whole(outline[at].x), whole(outline[at].y));
        items.emplace_back(libnest2d::PolygonImpl(path));
    }
    const libnest2d::Box box({0, 0}, {whole(sheet.width), whole(sheet.length)});
    return libnest2d::nest(items, box, whole(sheet.spacing));
}

}  // namespace plume::bench
