#include "core/geometry/curve_frames.hpp"

#include <algorithm>

#include "core/geometry/curve_division.hpp"
#include "core/geometry/tube.hpp"

namespace plume {
namespace {

// Carrying needs small steps whatever the bays are: so many between two frames.
constexpr std::size_t steps_per_bay = 16;

}  // namespace

std::vector<Frame> frames_along(const SplineCurve& curve, std::size_t count, FrameTurning turning) {
    const CurveLength measure(curve);
    const std::size_t bays = std::max<std::size_t>(curve.closed() ? count : count - 1, 1);
    const double step = measure.total() / static_cast<double>(bays);
    const auto parameter = [&](double bay) {
        return measure.parameter_at(std::min(step * bay, measure.total()));
    };
    std::vector<CurveFrame> carried;
    if (turning == FrameTurning::least) {
        std::vector<Vec3> fine;
        const std::size_t fine_count = bays * steps_per_bay + (curve.closed() ? 0 : 1);
        for (std::size_t at = 0; at < fine_count; ++at)
            fine.push_back(
                evaluate(curve, parameter(static_cast<double>(at) / static_cast<double>(steps_per_bay)))
                    .position);
        carried = rotation_minimising_frames(fine, curve.closed());
    }
    std::vector<Frame> frames;
    for (std::size_t at = 0; at < count; ++at) {
        const CurvePoint point = evaluate(curve, parameter(static_cast<double>(at)));
        const Vec3 level = cross({0, 0, 1}, point.along);
        frames.push_back(
            frame_of(point.position, point.along,
                     turning == FrameTurning::upright ? level : carried[at * steps_per_bay].side));
    }
    return frames;
}

}  // namespace plume
