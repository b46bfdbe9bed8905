#include "core/geometry/curves/nearest_on_curve.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// The samples, the seam of a closed curve at both ends.
CurveSamples chords_of(const SplineCurve& curve) {
    CurveSamples samples = sample(curve, usual_tolerance(curve));
    if (samples.closed) {
        samples.parameters.push_back(curve.basis().end());
        samples.points.push_back(samples.points.front());
    }
    return samples;
}

double one_way(const SplineCurve& from, const NearestOnCurve& to, std::size_t per_bay) {
    const std::vector<double> breaks = breaks_of(from.basis());
    double most = 0;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (std::size_t at = 0; at <= per_bay; ++at) {
            const double t = std::lerp(breaks[bay], breaks[bay + 1],
                                       static_cast<double>(at) / static_cast<double>(per_bay));
            most = std::max(most, to.nearest(evaluate(from, t).position).distance);
        }
    return most;
}

}  // namespace

NearestOnCurve::NearestOnCurve(const SplineCurve& curve) : NearestOnCurve(curve, chords_of(curve)) {}

NearestOnCurve::NearestOnCurve(const SplineCurve& curve, CurveSamples chords)
    : curve_(curve), parameters_(std::move(chords.parameters)), chords_(chords.points) {}

PlaceOnCurve NearestOnCurve::nearest(Vec3 point) const {
    const NearestPlace near = chords_.nearest(point);
    const std::size_t bay = near.segment;
    const double span = dot(near.along, near.along);
    const Vec3 corner = evaluate(curve_, parameters_[bay]).position;
    const double share = span > 0 ? std::clamp(dot(near.place - corner, near.along) / span, 0.0, 1.0) : 0;
    double at = std::lerp(parameters_[bay], parameters_[bay + 1], share);
    // The foot of the perpendicular may lie in a neighbouring bay.
    const double low = parameters_[bay > 0 ? bay - 1 : 0],
                 high = parameters_[std::min(bay + 2, parameters_.size() - 1)];
    PlaceOnCurve best{at, evaluate(curve_, at).position, 0};
    best.distance = length(best.place - point);
    const auto keep_better = [&](double t) {
        const Vec3 place = evaluate(curve_, t).position;
        const double distance = length(place - point);
        if (distance < best.distance) best = {t, place, distance};
    };
    keep_better(parameters_[bay]);
    keep_better(parameters_[bay + 1]);
    at = best.parameter;
    for (int round = 0; round < 8; ++round) {
        const CurveBend here = evaluate_bend(curve_, at);
        const Vec3 apart = here.position - point;
        const double slope = dot(apart, here.along),
                     bend = dot(here.along, here.along) + dot(apart, here.bend);
        if (!(bend > 0)) break;
        const double next = std::clamp(at - slope / bend, low, high);
        if (next == at) break;
        at = next;
        keep_better(at);
    }
    // Distances are the same to rounding long before parameters are.
    const Vec3 foot = evaluate(curve_, at).position;
    const double distance = length(foot - point);
    return distance <= best.distance * (1 + 1e-12) ? PlaceOnCurve{at, foot, distance} : best;
}

double largest_deviation(const SplineCurve& a, const SplineCurve& b, std::size_t per_bay) {
    const NearestOnCurve on_a(a), on_b(b);
    return std::max(one_way(a, on_b, per_bay), one_way(b, on_a, per_bay));
}

}  // namespace plume
