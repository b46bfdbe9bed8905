#include "core/growth/part_lanes.hpp"

#include <cmath>

#include "core/growth/lane_columns.hpp"

namespace plume {
namespace {

class ColumnMaker {
public:
    ColumnMaker(const PartLanes& lanes, const Population& population, const Surroundings& around)
        : lanes_(lanes), parts_(population), around_(around), first_(population.last_begin()) {}

    double at(std::uint32_t column, std::size_t lane) const {
        const std::size_t local = lanes_.parts[lane], part = first_ + local;
        const Placement& placement = parts_.placements[part];
        switch (column) {
            case part_input::x:
                return placement.origin.x;
            case part_input::y:
                return placement.origin.y;
            case part_input::z:
                return placement.origin.z;
            case part_input::size:
                return parts_.sizes[part];
            case part_input::depth:
                return static_cast<double>(parts_.depth());
            case part_input::number:
                return parts_.numbers[part];
            case part_input::siblings:
                return parts_.siblings[local];
            case part_input::share:
                return parts_.siblings[local] < 2 ? 0 : parts_.numbers[part] / (parts_.siblings[local] - 1.0);
            case part_input::leaning:
                return std::atan2(std::hypot(placement.up.x, placement.up.y), placement.up.z);
            case part_input::to_attractor:
                return length(around_.attractors->nearest(placement.origin) - placement.origin);
            case part_input::copy:
                return lanes_.copy.empty() ? 0 : lanes_.copy[lane];
            case part_input::copies:
                return lanes_.copies.empty() ? 1 : lanes_.copies[lane];
            case part_input::line:
                return parts_.lines[part];
            case part_input::identity:
                return static_cast<double>(parts_.identities[local]);
            default:
                break;
        }
        const std::size_t own = column - part_input::first_own;
        if (own < parts_.values.size()) return parts_.values[own][part];
        return around_.numbers->fields()[own - parts_.values.size()]
            .values[around_.numbers->nearest(placement.origin)];
    }

private:
    const PartLanes& lanes_;
    const Population& parts_;
    const Surroundings& around_;
    std::size_t first_;
};

}  // namespace

Result<Evaluated> evaluate_for(const Graph& graph, std::span<const NodeId> outputs, const PartLanes& lanes,
                               const Population& population, const Surroundings& around, const Run& run) {
    const ColumnMaker maker(lanes, population, around);
    return evaluate_lanes(
        graph, outputs, lanes.parts.size(),
        [&maker](std::uint32_t column, std::size_t lane) { return maker.at(column, lane); }, run);
}

}  // namespace plume
