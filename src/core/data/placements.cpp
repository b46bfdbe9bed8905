#include "core/data/placements.hpp"

namespace plume {
namespace {

bool orthonormal(const Frame& frame) {
    constexpr double slack = 1e-9;
    const auto near = [](double value, double wanted) { return std::abs(value - wanted) <= slack; };
    return near(dot(frame.along, frame.along), 1) && near(dot(frame.across, frame.across), 1) &&
           near(dot(frame.up, frame.up), 1) && near(dot(frame.along, frame.across), 0) &&
           near(dot(frame.along, frame.up), 0) && near(dot(cross(frame.along, frame.across), frame.up), 1);
}

}  // namespace

Frame frame_of(Vec3 origin, Vec3 up, Vec3 along) {
    Frame frame;
    frame.origin = origin;
    const Vec3 z = unit_or_zero(up);
    frame.up = z == Vec3{} ? Vec3{0, 0, 1} : z;
    const auto without_up = [&](Vec3 axis) { return axis - frame.up * dot(axis, frame.up); };
    Vec3 x = without_up(unit_or_zero(along));
    // Less than a ten-thousandth of the axis is left when it is all but parallel to up.
    for (const Vec3 other : {Vec3{1, 0, 0}, Vec3{0, 1, 0}})
        if (length(x) < 1e-4) x = without_up(other);
    frame.along = unit_or_zero(x);
    frame.across = cross(frame.up, frame.along);
    return frame;
}

Result<Placements> Placements::make(const PointLattice& arrangement, std::vector<Frame> frames) {
    if (arrangement.point_count() == 0)
        return Error{ErrorCode::empty_input, "", "There is no point to place a frame on", "Keep a point."};
    if (frames.size() != arrangement.address_count())
        return Error{ErrorCode::broken_invariant, "Placements", "need one frame per address", ""};
    Doubles x(frames.size()), y(frames.size()), z(frames.size());
    for (std::size_t index = 0; index < frames.size(); ++index) {
        const Vec3 origin = frames[index].origin;
        x[index] = origin.x;
        y[index] = origin.y;
        z[index] = origin.z;
        if (!arrangement.present(index)) continue;
        if (!is_finite(origin))
            return Error{ErrorCode::not_finite, "", "A frame stands on a point that is not finite",
                         "Mend the coordinates of that point."};
        if (!orthonormal(frames[index]))
            return Error{ErrorCode::broken_invariant, "Placements", "have a frame that is not orthonormal",
                         ""};
    }
    Placements result(arrangement.moved(std::move(x), std::move(y), std::move(z)));
    result.frames_ = std::make_shared<const std::vector<Frame>>(std::move(frames));
    return result;
}

std::vector<Frame> Placements::present_frames() const {
    std::vector<Frame> frames;
    frames.reserve(origins_.point_count());
    for (std::size_t index = 0; index < frames_->size(); ++index)
        if (origins_.present(index)) frames.push_back(frame(index));
    return frames;
}

}  // namespace plume
