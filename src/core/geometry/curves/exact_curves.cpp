#include "core/geometry/curves/exact_curves.hpp"

#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"

namespace plume {
namespace {

// Places apart, so that there is nothing to refuse.
SplineCurve polyline(std::vector<Vec3> corners, bool closed) {
    return *curve_through({std::move(corners), {}, {}, closed}, CurveShape::straight);
}

Placement at_origin(const Placement& plane, double x, double y) {
    Placement moved = plane;
    moved.origin = plane.to_world({x, y, 0});
    return moved;
}

}  // namespace

Result<SplineCurve> line_between(Vec3 from, Vec3 to) {
    if (!(length(to - from) > 0))
        return Error{ErrorCode::too_few_points, "", "A line needs two places apart", "Move one of them."};
    return polyline({from, to}, false);
}

SplineCurve ellipse_arc(const EllipseArc& arc) {
    constexpr double quarter = std::numbers::pi / 2, whole = 4 * quarter;
    const bool closed = std::abs(arc.sweep_rad) >= whole * (1 - 1e-14);
    const double sweep = closed ? std::copysign(whole, arc.sweep_rad) : arc.sweep_rad;
    // Each piece below a right angle and a bit: its middle weight stays well above 0.
    const int pieces = std::max(1, static_cast<int>(std::ceil(std::abs(sweep) / quarter - 1e-9)));
    const double step = sweep / pieces, middle_weight = std::cos(step / 2);
    // The parameter runs as the length of a circle does.
    const double piece_length = std::abs(step) * (arc.half_x + arc.half_y) / 2;
    SplineCurve::Parts parts;
    parts.basis.degree = 2;
    Doubles x, y, z, weights;
    const auto add = [&](double angle, double reach, double weight) {
        const Vec3 place = arc.plane.to_world(
            {arc.half_x * reach * std::cos(angle), arc.half_y * reach * std::sin(angle), 0});
        x.push_back(place.x);
        y.push_back(place.y);
        z.push_back(place.z);
        weights.push_back(weight);
    };
    parts.basis.knots.assign(3, 0);
    for (int piece = 0; piece <= pieces; ++piece) {
        const double angle = arc.from_rad + step * piece;
        add(angle, 1, 1);
        parts.basis.nodes.push_back(piece_length * piece);
        if (piece == pieces) break;
        add(angle + step / 2, 1 / middle_weight, middle_weight);
        parts.basis.knots.insert(parts.basis.knots.end(), 2, piece_length * (piece + 1));
    }
    parts.basis.knots.push_back(piece_length * pieces);
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.weights = std::move(weights);
    const SplineCurve curve = *SplineCurve::make(std::move(parts));
    return closed ? closed_up(curve) : curve;
}

SplineCurve ellipse(const Placement& plane, double half_x, double half_y) {
    return ellipse_arc({plane, half_x, half_y, 0, 2 * std::numbers::pi});
}

SplineCurve arc_about(Vec3 centre, Vec3 normal, Vec3 from, Vec3 to) {
    EllipseArc arc;
    arc.plane = placement_of(centre, normal, from - centre);
    arc.half_x = arc.half_y = length(from - centre);
    const Vec3 end = arc.plane.to_local(to);
    arc.sweep_rad = std::atan2(end.y, end.x);
    if (arc.sweep_rad <= 0) arc.sweep_rad += 2 * std::numbers::pi;
    return ellipse_arc(arc);
}

Result<SplineCurve> arc_through(Vec3 first, Vec3 middle, Vec3 last) {
    const Vec3 a = middle - first, b = last - first, normal = cross(a, b);
    const double size = std::max({length(a), length(b), length(last - middle)});
    if (!(std::min({length(a), length(b), length(last - middle)}) > 0))
        return Error{ErrorCode::too_few_points, "", "An arc needs three places apart", "Move one of them."};
    if (!(length(normal) > 1e-12 * size * size))
        return Error{ErrorCode::unlike_arrangement, "", "The three places lie on one line, which no arc does",
                     "Move the middle one aside, or draw a line."};
    // The centre of the circle around a triangle.
    const Vec3 centre =
        first + (cross(normal, a) * dot(b, b) + cross(b, normal) * dot(a, a)) * (0.5 / dot(normal, normal));
    return arc_about(centre, normal, first, last);
}

Result<SplineCurve> arc_from(Vec3 from, Vec3 direction, Vec3 to) {
    const Vec3 chord = to - from, along = unit_or_zero(direction);
    const double size = length(chord);
    if (!(size > 0) || !(length(along) > 0)) return line_between(from, to);
    const Vec3 aside = chord - along * dot(chord, along);
    if (!(length(aside) > 1e-12 * size)) {
        if (dot(chord, along) > 0) return line_between(from, to);
        return Error{ErrorCode::unlike_arrangement, "", "An arc cannot end straight behind where it begins",
                     "Turn its direction, or move its end aside."};
    }
    const Vec3 inwards = unit_or_zero(aside);
    const double radius = dot(chord, chord) / (2 * length(aside));
    return arc_about(from + inwards * radius, cross(along, inwards), from, to);
}

SplineCurve rectangle(const Placement& plane, double width, double depth, double radius) {
    const double x = width / 2, y = depth / 2;
    const auto world = [&](double at_x, double at_y) { return plane.to_world({at_x, at_y, 0}); };
    if (!(radius > 0)) return polyline({world(-x, -y), world(x, -y), world(x, y), world(-x, y)}, true);
    constexpr double quarter = std::numbers::pi / 2;
    const double long_x = x - radius, long_y = y - radius;
    std::vector<SplineCurve> sides;
    const auto side = [&](Vec3 from, Vec3 to) {
        if (length(to - from) > 1e-12 * (width + depth)) sides.push_back(polyline({from, to}, false));
    };
    const auto corner = [&](double at_x, double at_y, int quadrant) {
        sides.push_back(
            ellipse_arc({at_origin(plane, at_x, at_y), radius, radius, quarter * quadrant, quarter}));
    };
    side(world(-long_x, -y), world(long_x, -y));
    corner(long_x, -long_y, 3);
    side(world(x, -long_y), world(x, long_y));
    corner(long_x, long_y, 0);
    side(world(long_x, y), world(-long_x, y));
    corner(-long_x, long_y, 1);
    side(world(-x, long_y), world(-x, -long_y));
    corner(-long_x, -long_y, 2);
    return closed_up(end_to_end(sides));
}

}  // namespace plume
