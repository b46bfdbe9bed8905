#include "core/geometry/curves/curve_corners.hpp"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/geometry/curves/curve_crossings.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/exact_curves.hpp"
#include "core/geometry/measures/bounds.hpp"

namespace plume {
namespace {

// The direction just before a parameter: that of the last pole of the piece that ends there.
Vec3 direction_before(const SplineCurve& curve, double parameter) {
    const double start = curve.basis().start(), end = curve.basis().end();
    const double at = parameter <= start ? end : parameter;
    const std::vector<double> breaks = knot_breaks(curve.basis());
    const auto next = std::ranges::lower_bound(breaks, at);
    const double from = next == breaks.begin() ? start : *(next - 1);
    const SplineCurve piece = part_of(curve, from, at);
    for (std::size_t pole = piece.x().size() - 1; pole > 0; --pole) {
        const Vec3 along = piece.pole(piece.x().size() - 1) - piece.pole(pole - 1);
        if (length(along) > 0) return unit_or_zero(along);
    }
    return {};
}

Vec3 direction_behind(const SplineCurve& curve, double parameter) {
    const double end = curve.basis().end();
    const double at = parameter >= end ? curve.basis().start() : parameter;
    const std::vector<double> breaks = knot_breaks(curve.basis());
    const auto next = std::ranges::upper_bound(breaks, at);
    const SplineCurve piece = part_of(curve, at, next == breaks.end() ? end : *next);
    for (std::size_t pole = 1; pole < piece.x().size(); ++pole) {
        const Vec3 along = piece.pole(pole) - piece.pole(0);
        if (length(along) > 0) return unit_or_zero(along);
    }
    return {};
}

double angle_between(Vec3 a, Vec3 b) {
    return std::atan2(length(cross(a, b)), dot(a, b));
}

// Parameters at which an arc of this radius touches the sides of a corner.
struct Touching {
    double before = 0, behind = 0;
    Vec3 centre;
};

// The place at a distance aside of a curve, towards `inwards` in a plane, and how it moves with the
// parameter.
struct Aside {
    Vec3 place, along;
};
Aside aside(const SplineCurve& curve, double t, Vec3 normal, double distance) {
    const CurveBend at = evaluate_bend(curve, t);
    const double speed = length(at.along);
    const Vec3 unit = unit_or_zero(at.along), side = cross(normal, unit);
    const double bend = dot(at.bend, side) / (speed * speed);
    return {at.position + side * distance, at.along * (1 - bend * distance)};
}

// Newton's steps towards the place that is as far from both sides.
std::optional<Touching> touching(const SplineCurve& before, const SplineCurve& behind,
                                 const CurveCorner& corner, double radius, double size) {
    const Vec3 normal = unit_or_zero(cross(corner.before, corner.behind));
    if (!(length(normal) > 0)) return {};  // straight back: no arc fits
    const double reach = radius * std::tan(corner.turn_rad / 2);
    const double end = before.basis().end(), start = behind.basis().start();
    const auto speed = [](const SplineCurve& curve, double t) { return length(evaluate(curve, t).along); };
    double a = end - reach / speed(before, end), b = start + reach / speed(behind, start);
    for (int round = 0; round < 50; ++round) {
        if (!(a > before.basis().start()) || !(b < behind.basis().end())) return {};
        if (!(a <= end) || !(b >= start)) return {};
        const Aside one = aside(before, a, normal, radius), other = aside(behind, b, normal, radius);
        const Vec3 apart = other.place - one.place;
        // Two unknowns in the plane: one.along da - other.along db = apart.
        const double det = dot(cross(one.along, other.along), normal);
        if (det == 0 || !std::isfinite(det)) return {};
        const double da = dot(cross(apart, other.along), normal) / det;
        const double db = dot(cross(apart, one.along), normal) / det;
        a += da;
        b += db;
        if (std::abs(da) * length(one.along) + std::abs(db) * length(other.along) > 1e-13 * size) continue;
        if (!(a >= before.basis().start()) || !(b <= behind.basis().end()) || a > end || b < start) return {};
        const Aside first = aside(before, a, normal, radius), second = aside(behind, b, normal, radius);
        if (length(first.place - second.place) > 1e-10 * size) return {};  // the sides leave the plane
        return Touching{a, b, first.place};
    }
    return {};
}

// What is left of a piece between the arcs at its ends; nothing where they use it up.
std::optional<SplineCurve> between(const SplineCurve& piece, double from, double to) {
    const double slack = 1e-12 * (piece.basis().end() - piece.basis().start());
    if (!(to - from > slack)) return {};
    return part_of(piece, from, to);
}

SplineCurve arc_at(const SplineCurve& before, const SplineCurve& behind, const Touching& at,
                   const CurveCorner& corner) {
    const Vec3 from = evaluate(before, at.before).position, to = evaluate(behind, at.behind).position;
    const SplineCurve round = arc_about(at.centre, cross(corner.before, corner.behind), from, to);
    // Its numbers go evenly from those where it leaves one side to those where it meets the other.
    std::vector<Field> fields;
    const std::size_t poles = round.x().size();
    for (const Field& field : before.fields()) {
        const double first = field_at(before, field.name, at.before),
                     last = field_at(behind, field.name, at.behind);
        Doubles values(poles);
        for (std::size_t pole = 0; pole < poles; ++pole)
            values[pole] = std::lerp(first, last, static_cast<double>(pole) / static_cast<double>(poles - 1));
        fields.push_back({field.name, std::move(values), field.dimension});
    }
    return with_fields(round, std::move(fields));
}

}  // namespace

std::vector<CurveCorner> corners_of(const SplineCurve& curve, double least_turn_rad) {
    std::vector<CurveCorner> corners;
    const double start = curve.basis().start(), end = curve.basis().end();
    for (const double at : knot_breaks(curve.basis())) {
        if (at == end || (at == start && !curve.closed())) continue;
        // Fewer knots than the degree at one place leave it smooth.
        if (at != start && multiplicity_at(curve.basis(), at) < curve.basis().degree) continue;
        CurveCorner corner{at, evaluate(curve, at).position, direction_before(curve, at),
                           direction_behind(curve, at), 0};
        corner.turn_rad = angle_between(corner.before, corner.behind);
        if (corner.turn_rad > std::max(least_turn_rad, 1e-9)) corners.push_back(corner);
    }
    return corners;
}

std::vector<SplineCurve> cut_at_corners(const SplineCurve& curve, const std::vector<CurveCorner>& corners) {
    std::vector<double> parameters;
    for (const CurveCorner& corner : corners)
        parameters.push_back(corner.parameter);
    return split_at(curve, std::move(parameters));
}

RoundedCurve with_round_corners(const SplineCurve& curve, double radius, double least_turn_rad) {
    const std::vector<CurveCorner> corners = corners_of(curve, least_turn_rad);
    if (corners.empty()) return {curve, 0, 0};
    const double size = bounds_of(curve).diagonal();
    const std::vector<SplineCurve> pieces = cut_at_corners(curve, corners);
    const std::size_t count = pieces.size();
    // Corner c lies before piece `behind`; on an open curve the first piece has none before it.
    const auto behind_of = [&](std::size_t c) { return curve.closed() ? c : c + 1; };
    const auto before_of = [&](std::size_t c) { return curve.closed() ? (c + count - 1) % count : c; };
    std::vector<double> from(count), to(count);
    for (std::size_t piece = 0; piece < count; ++piece) {
        from[piece] = pieces[piece].basis().start();
        to[piece] = pieces[piece].basis().end();
    }
    std::vector<std::optional<Touching>> arcs(corners.size());
    RoundedCurve result{curve, 0, 0};
    for (std::size_t c = 0; c < corners.size(); ++c) {
        const std::size_t before = before_of(c), behind = behind_of(c);
        const auto at = touching(pieces[before], pieces[behind], corners[c], radius, size);
        const double slack = 1e-12 * (pieces[before].basis().end() - pieces[before].basis().start());
        const bool room = at && at->before >= from[before] - slack && at->behind <= to[behind] + slack &&
                          (before != behind || at->before >= at->behind - slack);
        if (!room) {
            ++result.left;
            continue;
        }
        ++result.rounded;
        arcs[c] = at;
        to[before] = std::max(at->before, from[before]);
        from[behind] = at->behind;
    }
    if (result.rounded == 0) return result;
    std::vector<SplineCurve> parts;
    const auto add_piece = [&](std::size_t piece) {
        if (auto rest = between(pieces[piece], from[piece], to[piece])) parts.push_back(*std::move(rest));
    };
    if (!curve.closed()) add_piece(0);
    for (std::size_t c = 0; c < corners.size(); ++c) {
        if (arcs[c])
            parts.push_back(arc_at(pieces[before_of(c)], pieces[behind_of(c)], *arcs[c], corners[c]));
        add_piece(behind_of(c));
    }
    const SplineCurve whole = end_to_end(parts);
    result.curve = curve.closed() ? closed_up(whole) : whole;
    return result;
}

}  // namespace plume
