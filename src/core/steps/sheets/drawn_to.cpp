#include "core/steps/sheets/drawn_to.hpp"

#include <optional>

#include "core/geometry/curves/segment_tree.hpp"

namespace plume {

std::vector<Vec3> loads_towards(const Attractors& attractors, double pull, double reach, double metres,
                                const Sheet& sheet, const std::vector<Vec3>& at) {
    std::vector<Vec3> loads(at.size());
    for (const Attractor& item : attractors.items()) {
        const auto path = item.path ? std::optional<SegmentTree>(*item.path) : std::nullopt;
        for (std::size_t vertex = 0; vertex < at.size(); ++vertex) {
            const Vec3 place = at[vertex] * (1 / metres);
            const Vec3 way = (path ? path->nearest(place).place : item.position) - place;
            const double share = length(way) / reach;
            if (share >= 1) continue;
            loads[vertex] = loads[vertex] + unit_or_zero(way) * (pull * item.weight * sheet.area[vertex] *
                                                                 (1 - share) * (1 - share));
        }
    }
    return loads;
}

}  // namespace plume
