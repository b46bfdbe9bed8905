#include "core/geometry/curves/curve_rebuild.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <numeric>

#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/nearest_on_curve.hpp"

namespace plume {
namespace {

// Places on a curve with its numbers.
CurvePoints places_on(const CurveEvaluator& places, const std::vector<double>& parameters) {
    CurvePoints item;
    item.closed = places.curve().closed();
    for (const double parameter : parameters)
        item.points.push_back(places.place(parameter));
    item.fields = places.numbers_at(parameters);
    return item;
}

// Marks the corners that are needed between two that are kept.
void keep_needed(const std::vector<Vec3>& corners, std::size_t first, std::size_t last, double tolerance,
                 std::vector<std::uint8_t>& kept) {
    std::vector<std::pair<std::size_t, std::size_t>> open{{first, last}};
    while (!open.empty()) {
        const auto [from, to] = open.back();
        open.pop_back();
        const Vec3 along = corners[to] - corners[from];
        const double size = dot(along, along);
        double most = tolerance;
        std::size_t furthest = 0;
        for (std::size_t at = from + 1; at < to; ++at) {
            const Vec3 offset = corners[at] - corners[from];
            const double share = size > 0 ? std::clamp(dot(offset, along) / size, 0.0, 1.0) : 0;
            const double apart = length(offset - along * share);
            if (apart <= most) continue;
            most = apart;
            furthest = at;
        }
        if (furthest == 0) continue;
        kept[furthest] = 1;
        open.emplace_back(from, furthest);
        open.emplace_back(furthest, to);
    }
}

SplineCurve simpler_polyline(const SplineCurve& curve, double tolerance) {
    const CurveSamples samples = sample(curve, tolerance);
    std::vector<Vec3> corners = samples.points;
    std::vector<std::uint8_t> kept(corners.size() + 1, 0);
    kept[0] = 1;
    if (curve.closed()) {
        // The corner furthest from the first is sure to stay.
        std::size_t furthest = 0;
        for (std::size_t at = 1; at < corners.size(); ++at)
            if (length(corners[at] - corners[0]) > length(corners[furthest] - corners[0])) furthest = at;
        corners.push_back(corners.front());
        kept[furthest] = 1;
        keep_needed(corners, 0, furthest, tolerance, kept);
        keep_needed(corners, furthest, corners.size() - 1, tolerance, kept);
        corners.pop_back();
    } else {
        kept[corners.size() - 1] = 1;
        keep_needed(corners, 0, corners.size() - 1, tolerance, kept);
    }
    std::vector<double> parameters;
    for (std::size_t at = 0; at < corners.size(); ++at)
        if (kept[at] != 0) parameters.push_back(samples.parameters[at]);
    const auto made = curve_through(places_on(CurveEvaluator(curve), parameters), CurveShape::straight);
    return made ? *made : curve;  // what closes on two corners is not made simpler
}

// Nodes with one more in the middle of every bay in which the two are further apart than the tolerance.
std::vector<double> nodes_where_apart(const SplineCurve& piece, const SplineCurve& simpler,
                                      const std::vector<double>& nodes, const std::vector<double>& probes,
                                      double tolerance) {
    std::vector<double> finer;
    std::size_t probe = 0;
    for (std::size_t bay = 0; bay < nodes.size(); ++bay) {
        finer.push_back(nodes[bay]);
        const double end = bay + 1 < nodes.size() ? nodes[bay + 1] : piece.basis().end();
        bool apart = false;
        for (; probe < probes.size() && probes[probe] < end; ++probe)
            apart = apart || length(evaluate(piece, probes[probe]).position -
                                    evaluate(simpler, probes[probe]).position) > tolerance;
        if (apart) finer.push_back(std::midpoint(nodes[bay], end));
    }
    return finer;
}

// Interpolated over its own parameter through few places, and more where it is not yet near enough.
Result<SplineCurve> simpler_piece(const SplineCurve& piece, double tolerance, const Run& run) {
    const double start = piece.basis().start(), end = piece.basis().end();
    constexpr std::size_t per_bay = 4;
    const std::vector<double> probes = probes_of(piece, per_bay);
    const CurveEvaluator places(piece);
    std::vector<double> nodes{start, std::midpoint(start, end), end};
    if (piece.closed())
        nodes = {start, std::lerp(start, end, 0.25), std::lerp(start, end, 0.5), std::lerp(start, end, 0.75)};
    while (nodes.size() < piece.x().size()) {
        if (run.cancelled()) return cancelled_error();
        CurvePoints item = places_on(places, nodes);
        item.parameters = nodes;
        if (piece.closed()) item.parameters.push_back(end);
        const auto made = curve_through(std::move(item), CurveShape::smooth);
        if (!made) return piece;  // two places fall on one
        std::vector<double> finer = nodes_where_apart(piece, *made, nodes, probes, tolerance);
        if (finer.size() == nodes.size()) return made->x().size() < piece.x().size() ? *made : piece;
        nodes = std::move(finer);
    }
    return piece;
}

std::vector<double> even_parameters(const SplineCurve& curve, const CurveLength& measure, std::size_t bays) {
    std::vector<double> parameters;
    const std::size_t count = bays + (curve.closed() ? 0 : 1);
    for (std::size_t at = 0; at < count; ++at)
        parameters.push_back(
            measure.parameter_at(measure.total() * static_cast<double>(at) / static_cast<double>(bays)));
    return parameters;
}

// A curve that has no corner to be kept.
Result<RebuiltCurve> rebuilt_in_one(const SplineCurve& curve, std::vector<double> parameters,
                                    CurveShape shape) {
    const CurveEvaluator places(curve);
    const auto made = curve_through(places_on(places, parameters), shape);
    if (!made) return made.error();
    if (curve.closed()) parameters.push_back(curve.basis().end());
    // Points that fall on one are one.
    const std::vector<double> nodes = breaks_of(made->basis());
    const double deviation =
        nodes.size() == parameters.size()
            ? largest_deviation({places, parameters}, MatchedCurve{CurveEvaluator(*made), nodes})
            : largest_deviation(curve, *made);
    return RebuiltCurve{*made, deviation};
}

}  // namespace

CurvePoints even_points(const SplineCurve& curve, std::size_t bays) {
    return places_on(CurveEvaluator(curve), even_parameters(curve, CurveLength(curve), bays));
}

Result<RebuiltCurve> rebuilt_evenly(const SplineCurve& curve, const CurveLength& measure, std::size_t bays,
                                    CurveShape shape, double least_corner_rad, const Run& run) {
    if (run.cancelled()) return cancelled_error();
    const std::vector<CurveCorner> corners = corners_of(curve, least_corner_rad);
    if (corners.empty()) return rebuilt_in_one(curve, even_parameters(curve, measure, bays), shape);
    std::vector<SplineCurve> pieces;
    for (const SplineCurve& piece : cut_at_corners(curve, corners)) {
        const double share = length_of(piece) / measure.total() * static_cast<double>(bays);
        const auto made = curve_through(
            even_points(piece, std::max<std::size_t>(1, static_cast<std::size_t>(std::lround(share)))),
            shape);
        if (!made) return made.error();
        pieces.push_back(*made);
    }
    const SplineCurve whole = end_to_end(pieces);
    const SplineCurve made = curve.closed() ? closed_up(whole) : whole;
    return RebuiltCurve{made, largest_deviation(curve, made)};
}

Result<RebuiltCurve> simplified(const SplineCurve& curve, double tolerance, const Run& run) {
    if (curve.basis().degree == 1) {
        const SplineCurve made = simpler_polyline(curve, tolerance);
        return RebuiltCurve{made, largest_deviation(curve, made, 1)};
    }
    const std::vector<CurveCorner> corners = corners_of(curve, std::numbers::pi / 180);
    std::vector<SplineCurve> pieces;
    for (const SplineCurve& piece : cut_at_corners(curve, corners)) {
        const auto simpler = simpler_piece(piece, tolerance, run);
        if (!simpler) return simpler.error();
        pieces.push_back(*simpler);
    }
    if (corners.empty()) return RebuiltCurve{pieces.front(), largest_deviation(curve, pieces.front())};
    const SplineCurve whole = end_to_end(pieces);
    const SplineCurve made = curve.closed() ? closed_up(whole) : whole;
    return RebuiltCurve{made, largest_deviation(curve, made)};
}

Result<SplineCurve> softened(const SplineCurve& curve, double strength, std::size_t times, const Run& run) {
    const std::size_t repeated = curve.closed() ? static_cast<std::size_t>(curve.basis().degree) : 0;
    const std::size_t count = curve.x().size() - repeated;
    std::vector<Vec3> poles(count);
    for (std::size_t pole = 0; pole < count; ++pole)
        poles[pole] = curve.pole(pole);
    for (std::size_t time = 0; time < times; ++time) {
        if (run.cancelled()) return cancelled_error();
        std::vector<Vec3> next = poles;
        for (std::size_t pole = 0; pole < count; ++pole) {
            const bool end = pole == 0 || pole + 1 == count;
            if (end && !curve.closed()) continue;
            const Vec3 middle = (poles[(pole + count - 1) % count] + poles[(pole + 1) % count]) * 0.5;
            next[pole] = poles[pole] + (middle - poles[pole]) * strength;
        }
        poles = std::move(next);
    }
    Doubles x, y, z;
    for (std::size_t pole = 0; pole < count + repeated; ++pole) {
        x.push_back(poles[pole % count].x);
        y.push_back(poles[pole % count].y);
        z.push_back(poles[pole % count].z);
    }
    SplineBasis basis = curve.basis();
    basis.nodes.clear();  // it goes through none of its points any more
    return SplineCurve::make(
        {std::move(basis), std::move(x), std::move(y), std::move(z), curve.weights(), curve.fields()});
}

}  // namespace plume
