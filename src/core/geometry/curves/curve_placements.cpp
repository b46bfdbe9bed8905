#include "core/geometry/curves/curve_placements.hpp"

#include <algorithm>

#include "core/base/parallel.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/meshes/tube.hpp"

namespace plume {
namespace {

// Carrying needs small steps whatever the bays are: its error falls with their fourth power, and so many over
// the whole curve leave nothing of it. Between two placements there are never more than the second number.
constexpr std::size_t steps_in_all = 8192, most_steps_per_bay = 16;

std::size_t steps_per_bay(std::size_t bays) {
    return std::clamp<std::size_t>(steps_in_all / bays, 1, most_steps_per_bay);
}

}  // namespace

Result<std::vector<Placement>> placements_along(const SplineCurve& curve, std::size_t count,
                                                PlacementTurning turning, const Run& run) {
    const CurveLength measure(curve);
    const std::size_t bays = std::max<std::size_t>(curve.closed() ? count : count - 1, 1);
    const std::size_t steps = turning == PlacementTurning::least ? steps_per_bay(bays) : 1;
    const std::size_t fine_count = bays * steps + (curve.closed() ? 0 : 1);
    std::vector<CurvePoint> fine(fine_count);
    const bool finished = parallel_blocks(fine_count, 1024, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const double share = static_cast<double>(at) / static_cast<double>(bays * steps);
            fine[at] = evaluate(curve, measure.parameter_at(std::min(share, 1.0) * measure.total()));
        }
    });
    if (!finished) return cancelled_error();
    std::vector<CurveFrame> carried;
    if (turning == PlacementTurning::least) {
        std::vector<Vec3> places;
        places.reserve(fine.size());
        for (const CurvePoint& point : fine)
            places.push_back(point.position);
        carried = rotation_minimising_frames(places, curve.closed());
    }
    std::vector<Placement> placements;
    placements.reserve(count);
    for (std::size_t at = 0; at < count; ++at) {
        const CurvePoint& point = fine[at * steps];
        const Vec3 level = cross({0, 0, 1}, point.along);
        placements.push_back(
            placement_of(point.position, point.along,
                         turning == PlacementTurning::upright ? level : carried[at * steps].side));
    }
    return placements;
}

}  // namespace plume
