#include "core/geometry/curves/base_line.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/nearest_on_curve.hpp"

namespace plume {
namespace {

Vec3 lift_of(LiftAxis lift, Vec3 along) {
    if (lift == LiftAxis::x) return {1, 0, 0};
    if (lift == LiftAxis::y) return {0, 1, 0};
    const Vec3 up{0, 0, 1};
    if (lift == LiftAxis::up) return up;
    const Vec3 square = cross(along, cross(up, along));
    return length(square) > 1e-9 * dot(along, along) ? square : Vec3{1, 0, 0};  // an upright curve
}

}  // namespace

LiftAxis lift_axis_from(std::string_view key) {
    if (key == "square") return LiftAxis::square;
    if (key == "x") return LiftAxis::x;
    return key == "y" ? LiftAxis::y : LiftAxis::up;
}

BaseLine::BaseLine(const SplineCurve& curve, LiftAxis lift) : curve_(curve), length_(curve), lift_(lift) {}

Placement BaseLine::frame(double share) const {
    const CurvePoint at = evaluate(curve_, length_.parameter_at(share * length_.total()));
    return placement_of(at.position, lift_of(lift_, at.along), at.along);
}

Vec3 BaseLine::place(Vec3 told) const {
    return frame(told.x).to_world({0, told.y, told.z});
}

Vec3 BaseLine::told(Vec3 place) const {
    double share = length_.length_at(NearestOnCurve(curve_).nearest(place).parameter) / length_.total();
    for (int round = 0; round < 30; ++round) {
        // What a share more moves the frame along itself: less than its length where the lift leans.
        const Placement here = frame(share);
        const Vec3 along = evaluate(curve_, length_.parameter_at(share * length_.total())).along;
        const double rate = length_.total() * dot(unit_or_zero(along), here.along);
        if (!(rate > 0)) break;
        const double step = here.to_local(place).x / rate;
        const double next =
            curve_.closed() ? share + step - std::floor(share + step) : std::clamp(share + step, 0.0, 1.0);
        if (std::abs(next - share) < 1e-14) break;
        share = next;
    }
    const Vec3 local = frame(share).to_local(place);
    return {share, local.y, local.z};
}

}  // namespace plume
