#include "core/geometry/curves/curve_sampling.hpp"

#include <algorithm>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/data/box.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_evaluator.hpp"
#include "core/geometry/curves/spline_basis.hpp"

namespace plume {
namespace {

// Numbers of poles blended by basis functions, or by their derivatives.
double blended(const Column& poles, std::size_t first, const double* shares, int degree) {
    double sum = 0;
    for (std::size_t a = 0; a <= static_cast<std::size_t>(degree); ++a)
        sum += poles[first + a] * shares[a];
    return sum;
}

Vec3 blended(const SplineCurve& curve, std::size_t first, const double* shares) {
    const int degree = curve.basis().degree;
    return {blended(curve.x(), first, shares, degree), blended(curve.y(), first, shares, degree),
            blended(curve.z(), first, shares, degree)};
}

using Shares = std::array<double, highest_degree + 1>;

// Shares times the weights of their poles, and their sum.
struct Weighted {
    Shares shares{};
    double sum = 0;
};
Weighted weighted(const SplineCurve& curve, std::size_t first, const Shares& shares) {
    Weighted result;
    for (std::size_t a = 0; a <= static_cast<std::size_t>(curve.basis().degree); ++a) {
        result.shares[a] = shares[a] * curve.weights()[first + a];
        result.sum += result.shares[a];
    }
    return result;
}

// Shares by which poles count at a parameter: of a rational curve those of its weights.
BasisAt shares_at(const SplineCurve& curve, double parameter) {
    BasisAt at = basis_at(curve.basis(), parameter);
    if (!curve.rational()) return at;
    const Weighted weights = weighted(curve, at.first, at.values);
    for (std::size_t a = 0; a <= static_cast<std::size_t>(curve.basis().degree); ++a)
        at.values[a] = weights.shares[a] / weights.sum;
    return at;
}

Vec3 point_at(const SplineCurve& curve, const BasisAt& shares) {
    return blended(curve, shares.first, shares.values.data());
}

double distance_to_chord(Vec3 point, Vec3 from, Vec3 to) {
    const Vec3 along = to - from, offset = point - from;
    const double size = dot(along, along);
    const double share = size > 0 ? std::clamp(dot(offset, along) / size, 0.0, 1.0) : 0;
    return length(offset - along * share);
}

// The sagitta falls with the square of the number of pieces.
std::size_t pieces(const CurveEvaluator& curve, double from, double to, double tolerance) {
    if (curve.curve().basis().degree == 1) return 1;
    const Vec3 start = curve.place(from), end = curve.place(to);
    double sagitta = 0;
    for (const double share : {0.25, 0.5, 0.75})
        sagitta = std::max(sagitta, distance_to_chord(curve.place(std::lerp(from, to, share)), start, end));
    return static_cast<std::size_t>(std::clamp(std::ceil(std::sqrt(sagitta / tolerance)), 1.0, 64.0));
}

}  // namespace

CurvePoint evaluate(const SplineCurve& curve, double parameter) {
    const BasisAt at = basis_at(curve.basis(), parameter);
    if (!curve.rational()) return {point_at(curve, at), blended(curve, at.first, at.slopes.data())};
    const Weighted values = weighted(curve, at.first, at.values),
                   slopes = weighted(curve, at.first, at.slopes);
    const Vec3 place = blended(curve, at.first, values.shares.data()) * (1 / values.sum);
    return {place, (blended(curve, at.first, slopes.shares.data()) - place * slopes.sum) * (1 / values.sum)};
}

Vec3 start_of(const SplineCurve& curve) {
    return evaluate(curve, curve.basis().start()).position;
}
Vec3 end_of(const SplineCurve& curve) {
    return evaluate(curve, curve.basis().end()).position;
}

// By the quotient rule (The NURBS Book, eq. 4.8).
CurveBend evaluate_bend(const SplineCurve& curve, double parameter) {
    const BasisBends basis = basis_bends_at(curve.basis(), parameter);
    const std::size_t first = basis.at.first;
    if (!curve.rational())
        return {point_at(curve, basis.at), blended(curve, first, basis.at.slopes.data()),
                blended(curve, first, basis.bends.data())};
    const Weighted values = weighted(curve, first, basis.at.values),
                   slopes = weighted(curve, first, basis.at.slopes),
                   bends = weighted(curve, first, basis.bends);
    const double scale = 1 / values.sum;
    CurveBend result;
    result.position = blended(curve, first, values.shares.data()) * scale;
    result.along = (blended(curve, first, slopes.shares.data()) - result.position * slopes.sum) * scale;
    result.bend = (blended(curve, first, bends.shares.data()) - result.along * (2 * slopes.sum) -
                   result.position * bends.sum) *
                  scale;
    return result;
}

double curvature_of(const CurveBend& at) {
    const double speed = length(at.along);
    return length(cross(at.along, at.bend)) / (speed * speed * speed);
}

double field_at(const SplineCurve& curve, std::string_view name, double parameter) {
    const auto found = std::ranges::find(curve.fields(), name, &Field::name);
    if (found == curve.fields().end()) return std::numeric_limits<double>::quiet_NaN();
    const BasisAt shares = shares_at(curve, parameter);
    return blended(found->values, shares.first, shares.values.data(), curve.basis().degree);
}

std::vector<double> sample_parameters(const CurveEvaluator& curve, double tolerance_abs) {
    const std::vector<double> breaks = breaks_of(curve.curve().basis());
    std::vector<double> parameters;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay) {
        const std::size_t count = pieces(curve, breaks[bay], breaks[bay + 1], tolerance_abs);
        for (std::size_t piece = 0; piece < count; ++piece)
            parameters.push_back(std::lerp(breaks[bay], breaks[bay + 1],
                                           static_cast<double>(piece) / static_cast<double>(count)));
    }
    if (!curve.curve().closed()) parameters.push_back(breaks.back());
    return parameters;
}

std::vector<double> chord_ends(const CurveEvaluator& curve) {
    std::vector<double> ends = sample_parameters(curve, usual_tolerance(curve.curve()));
    if (curve.curve().closed()) ends.push_back(curve.curve().basis().end());
    return ends;
}

CurveSamples sample(const SplineCurve& curve, double tolerance_abs) {
    const CurveEvaluator places(curve);
    CurveSamples samples;
    samples.closed = curve.closed();
    samples.parameters = sample_parameters(places, tolerance_abs);
    samples.points.reserve(samples.parameters.size());
    for (const double parameter : samples.parameters)
        samples.points.push_back(places.place(parameter));
    samples.fields = places.numbers_at(samples.parameters);
    return samples;
}

std::size_t sample_count(const SplineCurve& curve, double tolerance_abs) {
    const std::vector<double> breaks = breaks_of(curve.basis());
    const CurveEvaluator places(curve);
    std::size_t count = curve.closed() ? 0 : 1;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        count += pieces(places, breaks[bay], breaks[bay + 1], tolerance_abs);
    return count;
}

double usual_tolerance(const SplineCurve& curve) {
    const double size = poles_box(curve).diagonal();
    return size > 0 ? size / 2000 : 1;
}

Result<FunctionSamples> sample_function(const CurveFunction& function, double from, double to,
                                        double tolerance_abs, std::size_t least_bays, std::size_t most,
                                        const Run& run) {
    FunctionSamples done;
    for (std::size_t bay = 0; bay <= least_bays; ++bay)
        done.parameters.push_back(
            std::lerp(from, to, static_cast<double>(bay) / static_cast<double>(least_bays)));
    auto first = function(done.parameters);
    if (!first) return first.error();
    done.points = *std::move(first);
    std::vector<bool> settled(least_bays, false);
    while (true) {
        if (run.cancelled()) return cancelled_error();
        // Quarters as well as the middle: a wave may cross the chord just there.
        std::vector<double> probes;
        std::vector<std::size_t> bays;
        for (std::size_t bay = 0; bay < settled.size(); ++bay) {
            if (settled[bay]) continue;
            bays.push_back(bay);
            for (const double share : {0.25, 0.5, 0.75})
                probes.push_back(std::lerp(done.parameters[bay], done.parameters[bay + 1], share));
        }
        if (bays.empty()) return done;
        const auto points = function(probes);
        if (!points) return points.error();
        FunctionSamples finer;
        std::vector<bool> finer_settled;
        std::size_t next = 0;
        for (std::size_t bay = 0; bay < settled.size(); ++bay) {
            finer.parameters.push_back(done.parameters[bay]);
            finer.points.push_back(done.points[bay]);
            if (settled[bay]) {
                finer_settled.push_back(true);
                continue;
            }
            const std::size_t probe = 3 * next++;
            double apart = 0;
            for (std::size_t part = 0; part < 3; ++part)
                apart = std::max(apart, distance_to_chord((*points)[probe + part], done.points[bay],
                                                          done.points[bay + 1]));
            // Two parameters without a number between them cannot be told apart any further.
            const bool last =
                !(done.parameters[bay] != probes[probe + 1] && probes[probe + 1] != done.parameters[bay + 1]);
            if (apart <= tolerance_abs || last) {
                finer_settled.push_back(true);
                continue;
            }
            finer.parameters.push_back(probes[probe + 1]);
            finer.points.push_back((*points)[probe + 1]);
            finer_settled.insert(finer_settled.end(), {false, false});
        }
        finer.parameters.push_back(done.parameters.back());
        finer.points.push_back(done.points.back());
        if (finer.points.size() > most)
            return Error{ErrorCode::over_budget, "",
                         "The curve would need more than " + grouped_text(static_cast<std::int64_t>(most)) +
                             " points to be that exact",
                         "Allow a larger tolerance, or look for a jump in the formula."};
        done = std::move(finer);
        settled = std::move(finer_settled);
    }
}

double polyline_length(const std::vector<Vec3>& points, bool closed) {
    double total = 0;
    for (std::size_t index = 1; index < points.size(); ++index)
        total += length(points[index] - points[index - 1]);
    if (closed && points.size() > 1) total += length(points.front() - points.back());
    return total;
}

}  // namespace plume
