#include "core/geometry/meshes/tube.hpp"

#include <algorithm>
#include <numbers>

namespace plume {
namespace {

Vec3 reflected(Vec3 v, Vec3 mirror, double mirror_squared) {
    return v - mirror * (2 / mirror_squared * dot(mirror, v));
}

// Directions along the curve: of a straight piece between neighbours' directions, weighted towards the
// shorter one, which is exact for samples of a parabola.
std::vector<Vec3> directions_of(const std::vector<Vec3>& points, bool closed) {
    const std::size_t count = points.size();
    std::vector<Vec3> directions(count);
    for (std::size_t at = 0; at < count; ++at) {
        const bool first = at == 0 && !closed, last = at + 1 == count && !closed;
        const Vec3 before = first ? Vec3{} : points[at] - points[(at + count - 1) % count];
        const Vec3 after = last ? Vec3{} : points[(at + 1) % count] - points[at];
        const double b = length(before), a = length(after);
        Vec3 direction = first ? after : last ? before : before * (a / b) + after * (b / a);
        // A turn straight back has no direction of its own.
        if (length(direction) <= 1e-12 * (a + b)) direction = after;
        directions[at] = unit_or_zero(direction);
    }
    return directions;
}

Vec3 any_side(Vec3 along) {
    const Vec3 level = cross({0, 0, 1}, along);
    return unit_or_zero(length(level) > 1e-9 ? level : cross({1, 0, 0}, along));
}

// The angle by which `from` has to turn about `along` to lie on `to`.
double angle_about(Vec3 along, Vec3 from, Vec3 to) {
    return std::atan2(dot(along, cross(from, to)), dot(from, to));
}

Vec3 turned(Vec3 side, Vec3 up, double angle) {
    return side * std::cos(angle) + up * std::sin(angle);
}

Vec3 next_side(Vec3 side, Vec3 from, Vec3 to, Vec3 along, Vec3 next_along) {
    const Vec3 step = to - from;
    const double step_squared = dot(step, step);
    const Vec3 side_left = reflected(side, step, step_squared),
               along_left = reflected(along, step, step_squared);
    const Vec3 second = next_along - along_left;
    const double second_squared = dot(second, second);
    const Vec3 carried = second_squared > 1e-30 ? reflected(side_left, second, second_squared) : side_left;
    // Rounding may tilt it; what is left across the direction is made unit again.
    return unit_or_zero(carried - next_along * dot(carried, next_along));
}

Status check(const CurveSamples& samples, const TubePlan& plan) {
    assert(plan.radii.size() == samples.points.size() && plan.sides >= 3);
    if (samples.points.size() < (samples.closed ? 3U : 2U))
        return Error{ErrorCode::too_few_points, "", "A tube needs a curve with a length",
                     "Give the curve more points."};
    bool any = false;
    for (std::size_t at = 0; at < plan.radii.size(); ++at) {
        const double radius = plan.radii[at];
        const std::string where = "The radius at sample " + std::to_string(at);
        if (!std::isfinite(radius))
            return Error{ErrorCode::not_finite, "", where + " is not finite",
                         "Look at the formula of the radius."};
        if (radius < 0)
            return Error{ErrorCode::out_of_range, "", where + " is below zero",
                         "Keep the radius at zero or above, for example with max(0, ...)."};
        any = any || radius > 0;
    }
    if (!any)
        return Error{ErrorCode::out_of_range, "", "The radius is zero all along", "Give the tube a radius."};
    return Done{};
}

// Vertices and faces of one tube while it is made.
class Builder {
public:
    Builder(const CurveSamples& samples, const TubePlan& plan) : samples_(samples), plan_(plan) {
        numbers_.resize(samples.fields.size());
    }

    Result<Mesh> make(const Run& run) {
        const auto frames = rotation_minimising_frames(samples_.points, samples_.closed);
        for (std::size_t at = 0; at < samples_.points.size(); ++at)
            add_ring(at, frames[at]);
        const std::size_t rings = first_.size(), bays = samples_.closed ? rings : rings - 1;
        for (std::size_t at = 0; at < bays; ++at) {
            if (at % 4096 == 0 && run.cancelled()) return cancelled_error();
            join(at, (at + 1) % rings);
        }
        if (!samples_.closed && plan_.ends == TubeEnds::capped) {
            cap(0, true);
            cap(rings - 1, false);
        }
        parts_.x = std::move(x_);
        parts_.y = std::move(y_);
        parts_.z = std::move(z_);
        for (std::size_t field = 0; field < numbers_.size(); ++field)
            parts_.fields.push_back(
                {samples_.fields[field].name, std::move(numbers_[field]), samples_.fields[field].dimension});
        return Mesh::make(std::move(parts_));
    }

private:
    bool pointed(std::size_t ring) const { return plan_.radii[ring] == 0; }

    void add_ring(std::size_t at, const CurveFrame& frame) {
        first_.push_back(static_cast<std::uint32_t>(x_.size()));
        const std::size_t count = pointed(at) ? 1 : plan_.sides;
        for (std::size_t side = 0; side < count; ++side) {
            const double angle =
                2 * std::numbers::pi * static_cast<double>(side) / static_cast<double>(plan_.sides);
            const Vec3 p = samples_.points[at] + turned(frame.side, frame.up, angle) * plan_.radii[at];
            x_.push_back(p.x);
            y_.push_back(p.y);
            z_.push_back(p.z);
            for (std::size_t field = 0; field < numbers_.size(); ++field)
                numbers_[field].push_back(samples_.fields[field].values[at]);
        }
    }

    std::uint32_t vertex(std::size_t ring, std::size_t side) const {
        return first_[ring] + static_cast<std::uint32_t>(pointed(ring) ? 0 : side % plan_.sides);
    }

    void face(std::initializer_list<std::uint32_t> corners) {
        parts_.corners.insert(parts_.corners.end(), corners);
        parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
    }

    void join(std::size_t ring, std::size_t next) {
        if (pointed(ring) && pointed(next)) return;
        for (std::size_t side = 0; side < plan_.sides; ++side) {
            const std::uint32_t a = vertex(ring, side), b = vertex(ring, side + 1),
                                c = vertex(next, side + 1), d = vertex(next, side);
            if (pointed(ring))
                face({a, c, d});
            else if (pointed(next))
                face({a, b, c});
            else
                face({a, b, c, d});
        }
    }

    // Seen from outside, the first cap runs against the ring.
    void cap(std::size_t ring, bool first) {
        if (pointed(ring)) return;
        for (std::size_t side = 0; side < plan_.sides; ++side)
            parts_.corners.push_back(vertex(ring, first ? plan_.sides - side : side));
        parts_.first.push_back(static_cast<std::uint32_t>(parts_.corners.size()));
    }

    const CurveSamples& samples_;
    const TubePlan& plan_;
    Mesh::Parts parts_;
    Doubles x_, y_, z_;
    std::vector<Doubles> numbers_;
    std::vector<std::uint32_t> first_;  // vertex of each ring
};

}  // namespace

std::vector<CurveFrame> rotation_minimising_frames(const std::vector<Vec3>& points, bool closed) {
    const std::vector<Vec3> directions = directions_of(points, closed);
    std::vector<CurveFrame> frames(points.size());
    Vec3 side = any_side(directions.front());
    for (std::size_t at = 0; at < points.size(); ++at) {
        if (at > 0) side = next_side(side, points[at - 1], points[at], directions[at - 1], directions[at]);
        frames[at] = {directions[at], side, cross(directions[at], side)};
    }
    if (!closed) return frames;
    const Vec3 home = next_side(side, points.back(), points.front(), directions.back(), directions.front());
    const double missing = angle_about(directions.front(), home, frames.front().side);
    for (std::size_t at = 0; at < frames.size(); ++at) {
        CurveFrame& frame = frames[at];
        const double share = missing * static_cast<double>(at) / static_cast<double>(frames.size());
        frame.side = turned(frame.side, frame.up, share);
        frame.up = cross(frame.along, frame.side);
    }
    return frames;
}

Result<Mesh> tube(const CurveSamples& samples, const TubePlan& plan, const Run& run) {
    if (Status status = check(samples, plan); !status) return status.error();
    return Builder(samples, plan).make(run);
}

}  // namespace plume
