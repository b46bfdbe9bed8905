#include "core/growth/part_lanes.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/parallel.hpp"

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
    const std::vector<std::uint32_t> read = columns_read(graph, outputs);
    const std::size_t count = lanes.parts.size();
    Domain domain;
    domain.directions[0] = {count, 0, 1, false};
    if (!read.empty()) domain.columns.resize(1 + *std::ranges::max_element(read));
    std::vector<Doubles> made(read.size());
    const ColumnMaker maker(lanes, population, around);
    for (std::size_t at = 0; at < read.size(); ++at) {
        made[at].resize(count);
        const bool finished =
            parallel_blocks(count, usual_block, run, [&](std::size_t begin, std::size_t end) {
                for (std::size_t lane = begin; lane < end; ++lane)
                    made[at][lane] = maker.at(read[at], lane);
            });
        if (!finished) return cancelled_error();
        domain.columns[read[at]] = made[at];
    }
    return evaluate(graph, outputs, domain, Keep::columns, run);
}

}  // namespace plume
