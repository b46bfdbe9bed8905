#include "core/geometry/levels/level_places.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// Of a stretch: the middle of a line is foretold much nearer. What is not comes of a surface that is folded
// there.
constexpr double foretold_within = 0.1;

double within(double at, const SplineBasis& basis) {
    if (basis.closed) at -= range_of(basis) * std::floor((at - basis.start()) / range_of(basis));
    return std::clamp(at, basis.start(), basis.end());
}

}  // namespace

// Newton's step from a place that is hardly off to where the surface is at the level, in the plane through a
// wanted place square to `along`.
struct LevelPlaces::Step {
    SurfacePoint here;
    double du = 0, dv = 0;
    // After the step, as far as the surface is flat there.
    Vec3 there() const { return here.position + here.along_u * du + here.along_v * dv; }
};

LevelPlaces::LevelPlaces(const SplinePatch& patch, const SplinePatch& function, double least_apart)
    : patch_(patch), evaluator_(patch), function_(function), least_apart_(least_apart) {}

bool LevelPlaces::is_tip(LevelPlace at, int direction) const {
    const SplineBasis& across = direction == 0 ? patch_.v() : patch_.u();
    const double t = direction == 0 ? at.v : at.u, near = 1e-9 * range_of(across);
    if (across.closed || (t > across.start() + near && t < across.end() - near)) return false;
    const SurfacePoint here = evaluator_.at(at.u, at.v);
    const Vec3 along =
        direction == 0 ? here.along_u * range_of(patch_.u()) : here.along_v * range_of(patch_.v());
    return length(along) <= least_apart_;
}

LevelPlace LevelPlaces::come_to_tip(LevelPlace at, LevelPlace other) const {
    constexpr int most_steps = 8;
    for (const int along : {0, 1}) {
        if (!is_tip(at, along)) continue;
        const SplineBasis& rim = along == 0 ? patch_.u() : patch_.v();
        double& t = along == 0 ? at.u : at.v;
        t = along == 0 ? other.u : other.v;
        for (int step = 0; step < most_steps; ++step) {
            const SurfaceBend here = function_.bend_at(at.u, at.v);
            const double by = (along == 0 ? here.point.along_v.x : here.point.along_u.x) / here.bend_uv.x;
            if (!(std::abs(by) <= range_of(rim) / 4)) break;
            t = within(t - by, rim);
        }
    }
    return at;
}

LevelPlace LevelPlaces::inside(LevelPlace at) const {
    return {within(at.u, patch_.u()), within(at.v, patch_.v())};
}

std::optional<LevelPlaces::Step> LevelPlaces::step_to_level(LevelPlace at, Vec3 wanted, Vec3 along,
                                                            double level) const {
    Step step{evaluator_.at(at.u, at.v), 0, 0};
    const SurfacePoint value = function_.at(at.u, at.v);
    const double off = level - value.position.x, ahead = dot(wanted - step.here.position, along);
    const double fu = value.along_u.x, fv = value.along_v.x, au = dot(step.here.along_u, along),
                 av = dot(step.here.along_v, along), area = fu * av - fv * au;
    step.du = (off * av - fv * ahead) / area;
    step.dv = (fu * ahead - off * au) / area;
    return std::isfinite(step.du) && std::isfinite(step.dv) ? std::optional(step) : std::nullopt;
}

// A step against the size of a stretch, over the parameters.
double LevelPlaces::share_of(const Step& step, const Stretch& stretch) const {
    const auto square = [&](double u, double v) {
        const double of_u = u / range_of(patch_.u()), of_v = v / range_of(patch_.v());
        return of_u * of_u + of_v * of_v;
    };
    return std::sqrt(square(step.du, step.dv) /
                     square(stretch.to.u - stretch.from.u, stretch.to.v - stretch.from.v));
}

LevelPlace LevelPlaces::moved(LevelPlace at, double du, double dv) const {
    return {std::clamp(at.u + du, patch_.u().start(), patch_.u().end()),
            std::clamp(at.v + dv, patch_.v().start(), patch_.v().end())};
}

std::optional<LevelPlace> LevelPlaces::at_level(const Stretch& stretch, LevelPlace at, Vec3 wanted,
                                                Vec3 along, double level) const {
    constexpr int most_steps = 8;
    constexpr double arrived = 1e-10;  // of the domain
    for (int count = 0; count < most_steps; ++count) {
        const auto step = step_to_level(at, wanted, along, level);
        if (!step || !(share_of(*step, stretch) <= foretold_within)) return {};
        at = moved(at, step->du, step->dv);
        if (std::abs(step->du) <= arrived * range_of(patch_.u()) &&
            std::abs(step->dv) <= arrived * range_of(patch_.v()))
            break;
    }
    return at;
}

// Over the parameters, beside the middle of a stretch: wherever the number has a slope there is one.
LevelPlace LevelPlaces::middle_at_level(const Stretch& stretch, double level) const {
    constexpr int most_steps = 8;
    LevelPlace at{std::midpoint(stretch.from.u, stretch.to.u), std::midpoint(stretch.from.v, stretch.to.v)};
    const double per_u = range_of(patch_.u()), per_v = range_of(patch_.v());
    for (int count = 0; count < most_steps; ++count) {
        const SurfacePoint value = function_.at(at.u, at.v);
        const double fu = value.along_u.x * per_u, fv = value.along_v.x * per_v,
                     share = (level - value.position.x) / (fu * fu + fv * fv);
        if (!std::isfinite(share)) break;
        at = moved(at, share * fu * per_u, share * fv * per_v);
    }
    return at;
}

LevelPlaces::Beside LevelPlaces::beside(const Stretch& stretch, LevelPlace guess, Vec3 wanted, Vec3 along,
                                        double level, double tolerance) const {
    const auto step = step_to_level(guess, wanted, along, level);
    const double share = step ? share_of(*step, stretch) : Box::infinite;
    // After so short a step the surface is as flat as doubles tell.
    constexpr double hardly = 1e-5;
    if (share <= hardly && length(step->there() - wanted) <= tolerance)
        return {length(step->there() - wanted), {}};
    if (share <= foretold_within)
        if (const auto found = at_level(stretch, guess, wanted, along, level))
            return {length(place(*found) - wanted), in_bay_of(stretch, *found)};
    const LevelPlace found = middle_at_level(stretch, level);
    return {length(place(found) - wanted), found};
}

bool LevelPlaces::stands_apart(const Stretch& stretch, LevelPlace at) const {
    const Vec3 there = place(at);
    return std::min(length(there - place(stretch.from)), length(there - place(stretch.to))) > least_apart_;
}

// A place across a seam stands for the one at the seam's other side.
LevelPlace LevelPlaces::in_bay_of(const Stretch& stretch, LevelPlace at) const {
    const auto on_side_of = [](double from, double t, const SplineBasis& basis) {
        const double turns = basis.closed ? std::round((from - t) / range_of(basis)) : 0;
        return std::clamp(t + turns * range_of(basis), basis.start(), basis.end());
    };
    return {on_side_of(stretch.from.u, at.u, patch_.u()), on_side_of(stretch.from.v, at.v, patch_.v())};
}

}  // namespace plume
