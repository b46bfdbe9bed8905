#include "core/geometry/curves/nearest_on_curve.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

std::vector<Vec3> places_at(const CurveEvaluator& curve, const std::vector<double>& parameters) {
    std::vector<Vec3> places;
    for (const double t : parameters)
        places.push_back(curve.place(t));
    return places;
}

// A step of Newton's is followed by one of its square: after one as small as this nothing is left; of a
// distance, which is least at its foot, not even after the other.
constexpr double to_rounding = 1e-9, to_a_distance = 1e-3;

void keep_nearer(PlaceOnCurve& best, double t, Vec3 place, Vec3 point) {
    const double distance = length(place - point);
    if (distance < best.distance) best = {t, place, distance, best.chord};
}

// By Newton's steps from a place on between two parameters, of whose distance the last is such a share.
PlaceOnCurve foot_of_perpendicular(const CurveEvaluator& curve, Vec3 point, PlaceOnCurve best, double low,
                                   double high, double last_share) {
    const double last_step = last_share * (high - low);
    PlaceOnCurve foot = best;
    for (int round = 0; round < 8; ++round) {
        const CurveBend here = curve.bend_at(foot.parameter);
        const Vec3 apart = here.position - point;
        const double slope = dot(apart, here.along),
                     bend = dot(here.along, here.along) + dot(apart, here.bend);
        if (!(bend > 0)) break;
        const double next = std::clamp(foot.parameter - slope / bend, low, high);
        if (next == foot.parameter) break;
        const bool last = std::abs(next - foot.parameter) < last_step;
        foot.parameter = next;
        foot.place = curve.place(next);
        keep_nearer(best, next, foot.place, point);
        if (last) break;
    }
    // Distances are the same to rounding long before parameters are.
    foot.distance = length(foot.place - point);
    return foot.distance <= best.distance * (1 + 1e-12) ? foot : best;
}

}  // namespace

NearestOnCurve::NearestOnCurve(const SplineCurve& curve)
    : curve_(curve), parameters_(chord_ends(curve_)), chords_(places_at(curve_, parameters_)) {}

PlaceOnCurve NearestOnCurve::nearest(Vec3 point, std::size_t guess) const {
    const NearestPlace near = chords_.nearest(point, guess);
    const std::size_t bay = near.segment;
    const double span = dot(near.along, near.along);
    const Vec3 corner = curve_.place(parameters_[bay]);
    const double share = span > 0 ? std::clamp(dot(near.place - corner, near.along) / span, 0.0, 1.0) : 0;
    PlaceOnCurve best{parameters_[bay], corner, length(corner - point), bay};
    for (const double t : {parameters_[bay + 1], std::lerp(parameters_[bay], parameters_[bay + 1], share)})
        keep_nearer(best, t, curve_.place(t), point);
    // The foot of the perpendicular may lie in a neighbouring bay.
    return foot_of_perpendicular(curve_, point, best, parameters_[bay > 0 ? bay - 1 : 0],
                                 parameters_[std::min(bay + 2, parameters_.size() - 1)], to_rounding);
}

std::vector<double> probes_of(const SplineCurve& curve, std::size_t per_bay) {
    const std::vector<double> breaks = breaks_of(curve.basis());
    std::vector<double> probes;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (std::size_t probe = 0; probe < per_bay; ++probe)
            probes.push_back(std::lerp(breaks[bay], breaks[bay + 1],
                                       static_cast<double>(probe) / static_cast<double>(per_bay)));
    return probes;
}

namespace {

double one_way(const CurveEvaluator& from, const NearestOnCurve& to, std::size_t per_bay) {
    PlaceOnCurve found = to.nearest(from.place(from.curve().basis().end()));
    double most = found.distance;
    for (const double t : probes_of(from.curve(), per_bay)) {
        found = to.nearest(from.place(t), found.chord);
        most = std::max(most, found.distance);
    }
    return most;
}

double one_way(const MatchedCurve& from, const MatchedCurve& to, std::size_t per_bay) {
    double most = 0;
    std::size_t piece = 0;
    for (const double t : probes_of(from.curve.curve(), per_bay)) {
        while (piece + 2 < from.parameters.size() && t >= from.parameters[piece + 1])
            ++piece;
        const double size = from.parameters[piece + 1] - from.parameters[piece],
                     share = size > 0 ? std::clamp((t - from.parameters[piece]) / size, 0.0, 1.0) : 0,
                     start = std::lerp(to.parameters[piece], to.parameters[piece + 1], share);
        const Vec3 point = from.curve.place(t), place = to.curve.place(start);
        const PlaceOnCurve found = foot_of_perpendicular(
            to.curve, point, {start, place, length(place - point)}, to.parameters[piece > 0 ? piece - 1 : 0],
            to.parameters[std::min(piece + 2, to.parameters.size() - 1)], to_a_distance);
        most = std::max(most, found.distance);
    }
    return most;
}

}  // namespace

double largest_deviation(const MatchedCurve& a, const MatchedCurve& b, std::size_t per_bay) {
    return std::max(one_way(a, b, per_bay), one_way(b, a, per_bay));
}

double largest_deviation(const SplineCurve& a, const SplineCurve& b, std::size_t per_bay) {
    const NearestOnCurve on_a(a), on_b(b);
    return std::max(one_way(on_a.curve(), on_b, per_bay), one_way(on_b.curve(), on_a, per_bay));
}

}  // namespace plume
