#include "core/geometry/curves/outline.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>
#include <optional>

#include "core/base/numbers.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/whole_places.hpp"
#include "core/geometry/measures/best_fit.hpp"

namespace plume {
namespace {

double turn(FlatPoint a, FlatPoint b, FlatPoint c) {
    return (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
}

bool crossing(FlatPoint a, FlatPoint b, FlatPoint c, FlatPoint d) {
    const double side_c = turn(a, b, c), side_d = turn(a, b, d), side_a = turn(c, d, a),
                 side_b = turn(c, d, b);
    return ((side_c > 0 && side_d < 0) || (side_c < 0 && side_d > 0)) &&
           ((side_a > 0 && side_b < 0) || (side_a < 0 && side_b > 0));
}

// A bend of the line: where it comes from, where it is, where it goes on to.
struct Bend {
    FlatPoint from, at, to;
};

// Whether two bends at one place run through each other: one comes and goes on different sides of the other.
bool run_through(const Bend& one, const Bend& other) {
    const auto angle = [&](FlatPoint to) {
        const double turned = std::atan2(to.y - one.at.y, to.x - one.at.x) -
                              std::atan2(one.from.y - one.at.y, one.from.x - one.at.x);
        return turned < 0 ? turned + 2 * std::numbers::pi : turned;
    };
    const double onwards = angle(one.to), from = angle(other.from), to = angle(other.to);
    return from > 0 && to > 0 && from != onwards && to != onwards && (from < onwards) != (to < onwards);
}

// The first crossing of two edges that are not neighbours, or of two that meet in a corner. Edges sorted by
// their left ends: only those that overlap along x are compared.
std::optional<FlatPoint> self_crossing(const std::vector<FlatPoint>& corners) {
    const std::size_t count = corners.size();
    std::vector<std::size_t> order(count);
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto end_of = [&](std::size_t edge) { return corners[(edge + 1) % count]; };
    const auto bend_at = [&](std::size_t corner) {
        return Bend{corners[(corner + count - 1) % count], corners[corner], end_of(corner)};
    };
    const auto left = [&](std::size_t edge) { return std::min(corners[edge].x, end_of(edge).x); };
    const auto right = [&](std::size_t edge) { return std::max(corners[edge].x, end_of(edge).x); };
    std::ranges::sort(order, [&](std::size_t a, std::size_t b) { return left(a) < left(b); });
    const auto [low, high] = std::ranges::minmax(corners, {}, &FlatPoint::x);
    const double near = 1e-12 * (high.x - low.x);
    // Where a corner of one lies on the other, which begins in a corner of its own or runs straight through.
    const auto crossing_in_corner = [&](std::size_t corner, std::size_t edge) {
        const FlatPoint a = corners[edge], b = end_of(edge), p = corners[corner];
        if (p.y < std::min(a.y, b.y) - 2 * near || p.y > std::max(a.y, b.y) + 2 * near) return false;
        const double x = b.x - a.x, y = b.y - a.y, size = std::hypot(x, y);
        const double along = ((p.x - a.x) * x + (p.y - a.y) * y) / size;
        if (!(std::abs(turn(a, b, p)) <= near * size) || along < -near || along >= size - near) return false;
        return run_through(along <= near ? bend_at(edge) : Bend{a, p, b}, bend_at(corner));
    };
    for (std::size_t first = 0; first < count; ++first)
        for (std::size_t second = first + 1;
             second < count && left(order[second]) <= right(order[first]) + near; ++second) {
            const std::size_t a = order[first], b = order[second];
            if (crossing(corners[a], end_of(a), corners[b], end_of(b))) return corners[a];
            if (crossing_in_corner(b, a)) return corners[b];
            if (crossing_in_corner(a, b)) return corners[a];
        }
    return {};
}

std::string place_text(FlatPoint point, const Placement& plane) {
    return place_text(plane.to_world({point.x, point.y, 0}));
}

}  // namespace

double signed_area(const std::vector<FlatPoint>& corners) {
    double twice = 0;
    for (std::size_t at = 0; at < corners.size(); ++at) {
        const FlatPoint a = corners[at], b = corners[(at + 1) % corners.size()];
        twice += a.x * b.y - a.y * b.x;
    }
    return twice / 2;
}

Result<Outline> Outline::make(const CurveSet& set) {
    if (set.curves.empty()) return Error{ErrorCode::empty_input, "", "is no curve at all", "Draw one."};
    if (set.curves.size() > 1)
        return Error{ErrorCode::wrong_kind, "",
                     "is " + std::to_string(set.curves.size()) + " curves, and has to be one",
                     "Give it a single closed curve."};
    return make(set.curves.front());
}

Result<Outline> Outline::make(const SplineCurve& curve) {
    if (!curve.closed())
        return Error{ErrorCode::has_gaps, "", "is open: its last point does not meet its first",
                     "Close the curve."};
    const CurveSamples samples = sample(curve, usual_tolerance(curve) / 10);
    if (samples.points.size() < 3)
        return Error{ErrorCode::too_few_points, "", "needs three corners at different places",
                     "Add corners."};
    const BestFit fit = best_fit(samples.points);
    if (fit.worst > 1e-3 * (fit.spread.x + fit.spread.y))
        return Error{ErrorCode::unlike_arrangement, "",
                     "is not flat: it leaves its plane by " + short_text(fit.worst),
                     "Put its points on one plane."};
    Outline outline;
    // Outlines on the ground keep its axes, so that what is laid in them does too.
    const bool level = fit.placement.up.z > 1 - 1e-12;
    outline.plane_ = level ? Placement{{0, 0, fit.placement.origin.z}} : fit.placement;
    outline.smooth_ = curve.basis().degree > 1;
    for (const Vec3 point : samples.points) {
        const Vec3 local = outline.plane_.to_local(point);
        outline.corners_.push_back({local.x, local.y});
    }
    if (const auto where = self_crossing(outline.corners_))
        return Error{ErrorCode::unlike_arrangement, "",
                     "crosses itself near " + place_text(*where, outline.plane_),
                     "Move its corners so that no two edges cross."};
    outline.area_ = signed_area(outline.corners_);
    if (outline.area_ < 0) std::ranges::reverse(outline.corners_);
    outline.area_ = std::abs(outline.area_);
    outline.sort_into_bands();
    if (!(outline.area_ > 0))
        return Error{ErrorCode::too_few_points, "", "encloses nothing: its corners lie on one line",
                     "Move a corner off the line."};
    return outline;
}

void Outline::sort_into_bands() {
    low_ = high_ = corners_.front();
    for (const FlatPoint corner : corners_) {
        low_ = {std::min(low_.x, corner.x), std::min(low_.y, corner.y)};
        high_ = {std::max(high_.x, corner.x), std::max(high_.y, corner.y)};
    }
    const std::size_t count = std::clamp<std::size_t>(corners_.size(), 1, 4096);
    bands_.assign(count, {});
    band_height_ = (high_.y - low_.y) / static_cast<double>(count);
    if (!(band_height_ > 0)) return;
    const auto band_of = [&](double y) {
        return static_cast<std::size_t>(
            std::clamp((y - low_.y) / band_height_, 0.0, static_cast<double>(count - 1)));
    };
    for (std::size_t edge = 0; edge < corners_.size(); ++edge) {
        const double a = corners_[edge].y, b = corners_[(edge + 1) % corners_.size()].y;
        for (std::size_t band = band_of(std::min(a, b)); band <= band_of(std::max(a, b)); ++band)
            bands_[band].push_back(edge);
    }
}

bool Outline::contains(FlatPoint point) const {
    if (!(point.x >= low_.x && point.x <= high_.x && point.y >= low_.y && point.y <= high_.y)) return false;
    const auto band = static_cast<std::size_t>(
        std::clamp((point.y - low_.y) / band_height_, 0.0, static_cast<double>(bands_.size() - 1)));
    bool inside = false;
    for (const std::size_t edge : bands_[band]) {
        const FlatPoint a = corners_[edge], b = corners_[(edge + 1) % corners_.size()];
        if ((a.y > point.y) == (b.y > point.y)) continue;
        if (point.x < a.x + (b.x - a.x) * (point.y - a.y) / (b.y - a.y)) inside = !inside;
    }
    return inside;
}

Result<std::vector<std::vector<FlatPoint>>> offset_loops(const Outline& outline, double distance,
                                                         OffsetCorners corners, double round_to) {
    namespace clip = ClipperLib;
    const double extent = std::max({std::abs(outline.low().x), std::abs(outline.low().y),
                                    std::abs(outline.high().x), std::abs(outline.high().y)}) +
                          std::abs(distance) * 4;
    const WholePlaces places(extent);
    const double reach = distance * places.scale();
    clip::ClipperOffset offset(4, std::max({1.0, std::abs(reach) * 1e-4, round_to * places.scale()}));
    offset.AddPath(places.whole(outline.corners()),
                   corners == OffsetCorners::round ? clip::jtRound : clip::jtMiter, clip::etClosedPolygon);
    clip::Paths paths;
    offset.Execute(paths, reach);
    std::vector<std::vector<FlatPoint>> loops = places.rings(paths);
    if (loops.empty())
        return Error{ErrorCode::out_of_range, "",
                     "Nothing is left of the outline " + short_text(-distance) + " further in",
                     "Type a smaller distance."};
    return loops;
}

}  // namespace plume
