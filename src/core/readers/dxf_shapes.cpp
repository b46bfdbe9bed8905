#include "core/readers/dxf_shapes.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/geometry/curves/exact_curves.hpp"

namespace plume {
namespace {

constexpr double degree = std::numbers::pi / 180;

Error not_finite() {
    return {ErrorCode::not_finite, "", "has numbers that are none or not finite", ""};
}
Error no_length() {
    return {ErrorCode::too_few_points, "", "has no length", ""};
}

bool all_finite(std::initializer_list<double> numbers) {
    return std::ranges::all_of(numbers, [](double number) { return std::isfinite(number); });
}

SplineCurve moved(const SplineCurve& curve, const Affine& axes) {
    return *with_poles(curve, [&](Vec3 pole) { return axes.at(pole); });
}

Placement flat_at(Vec3 centre) {
    return placement_of(centre, {0, 0, 1}, {1, 0, 0});
}

// From one angle anticlockwise to the other, at most once round.
double sweep_of(double from, double to) {
    double sweep = std::fmod(to - from, 2 * std::numbers::pi);
    if (sweep <= 1e-12) sweep += 2 * std::numbers::pi;
    return sweep;
}

Result<SplineCurve> circle_of(const DxfEntity& entity, bool whole) {
    const Vec3 centre = entity.place(10);
    const double radius = entity.number(40), from = entity.number(50) * degree,
                 to = entity.number(51) * degree;
    if (!is_finite(centre) || !all_finite({radius, from, to})) return not_finite();
    if (radius <= 0) return no_length();
    const EllipseArc arc{flat_at(centre), radius, radius, whole ? 0 : from,
                         whole ? 2 * std::numbers::pi : sweep_of(from, to)};
    const Affine axes = dxf_axes(entity);
    return moved(ellipse_arc(arc), axes);
}

// Its long half axis is given from the centre; angles are parameters from it.
Result<SplineCurve> ellipse_of(const DxfEntity& entity) {
    const Vec3 centre = entity.place(10), axis = entity.place(11);
    Vec3 up = entity.place(210);
    if (length(up) == 0) up = {0, 0, 1};
    const double ratio = entity.number(40, 1), from = entity.number(41),
                 to = entity.number(42, 2 * std::numbers::pi);
    if (!is_finite(centre) || !is_finite(axis) || !is_finite(up) || !all_finite({ratio, from, to}))
        return not_finite();
    const double long_half = length(axis), short_half = long_half * std::abs(ratio);
    if (!(long_half > 0) || !(short_half > 0)) return no_length();
    return ellipse_arc({placement_of(centre, up, axis), long_half, short_half, from, sweep_of(from, to)});
}

SplineCurve bulged(Vec3 from, Vec3 to, double bulge) {
    const Vec3 half = (to - from) * 0.5, across{-half.y, half.x, 0};
    // From the middle of the chord towards the left of it; (1 - b²) / 2b half chords.
    const Vec3 centre = from + half + across * ((1 - bulge * bulge) / (2 * bulge));
    return arc_about(centre, {0, 0, bulge > 0 ? 1.0 : -1.0}, from, to);
}

Result<SplineCurve> light_polyline(const DxfEntity& entity) {
    std::vector<DxfCorner> corners;
    const double height = entity.number(38);
    for (const DxfTag& tag : entity.tags()) {
        const double value = tag.code == 10 || tag.code == 20 || tag.code == 42
                                 ? DxfEntity(entity.type(), std::span(&tag, 1)).number(tag.code)
                                 : 0;
        if (tag.code == 10) corners.push_back({{value, 0, height}});
        if (corners.empty()) continue;
        if (tag.code == 20) corners.back().place.y = value;
        if (tag.code == 42) corners.back().bulge = value;
    }
    Result<SplineCurve> curve = dxf_polyline(corners, (entity.whole(70) & 1) != 0);
    if (!curve) return curve;
    return moved(*curve, dxf_axes(entity));
}

std::vector<Vec3> places_of(const DxfEntity& entity, int code) {
    const std::array<std::vector<double>, 3> parts{entity.numbers(code), entity.numbers(code + 10),
                                                   entity.numbers(code + 20)};
    std::vector<Vec3> places(std::min(parts[0].size(), parts[1].size()));
    for (std::size_t at = 0; at < places.size(); ++at)
        places[at] = {parts[0][at], parts[1][at], at < parts[2].size() ? parts[2][at] : 0};
    return places;
}

// Its ends on its poles, and closed where they meet and it says so.
SplineCurve finished(const SplineCurve& curve, bool closed) {
    const SplineBasis& basis = curve.basis();
    const bool touches = basis.knots.front() == basis.start() && basis.knots.back() == basis.end();
    const SplineCurve open = touches ? curve : part_of(curve, basis.start(), basis.end());
    const Vec3 first = open.pole(0), last = open.pole(open.basis().pole_count() - 1);
    const bool meets = length(last - first) <= 1e-9 * poles_box(open).diagonal();
    return closed && meets && open.basis().pole_count() > 3 ? closed_up(open) : open;
}

Result<SplineCurve> spline_of(const DxfEntity& entity) {
    const int flags = entity.whole(70);
    const bool closed = (flags & 3) != 0;
    const std::vector<Vec3> poles = places_of(entity, 10), through = places_of(entity, 11);
    if (poles.empty()) return curve_through({through, {}, {}, closed}, CurveShape::smooth);
    SplineCurve::Parts parts;
    parts.basis.degree = entity.whole(71, 3);
    parts.basis.knots = entity.numbers(40);
    Doubles x, y, z, weights;
    for (const Vec3 pole : poles) {
        x.push_back(pole.x);
        y.push_back(pole.y);
        z.push_back(pole.z);
    }
    const std::vector<double> said = entity.numbers(41);
    const bool rational = said.size() == poles.size() &&
                          std::ranges::any_of(said, [&](double weight) { return weight != said.front(); });
    if (rational) weights.assign(said.begin(), said.end());
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.weights = std::move(weights);
    const Result<SplineCurve> curve = SplineCurve::make(std::move(parts));
    if (!curve) return curve.error();
    return finished(*curve, closed);
}

}  // namespace

// "Arbitrary axis algorithm" of the reference.
Affine dxf_axes(const DxfEntity& entity) {
    Vec3 up = entity.place(210);
    const double size = length(up);
    if (!(size > 0) || !std::isfinite(size)) return {};
    up = up * (1 / size);
    const bool steep = std::abs(up.x) < 1.0 / 64 && std::abs(up.y) < 1.0 / 64;
    const Vec3 along = cross(steep ? Vec3{0, 1, 0} : Vec3{0, 0, 1}, up), unit = along * (1 / length(along));
    return {unit, cross(up, unit), up, {}};
}

Result<SplineCurve> dxf_polyline(const std::vector<DxfCorner>& corners, bool closed) {
    for (const DxfCorner& corner : corners)
        if (!is_finite(corner.place) || !std::isfinite(corner.bulge)) return not_finite();
    // Places that repeat have no piece between them.
    std::vector<DxfCorner> apart;
    for (const DxfCorner& corner : corners) {
        if (!apart.empty() && apart.back().place == corner.place) apart.pop_back();
        apart.push_back(corner);
    }
    while (closed && apart.size() > 1 && apart.front().place == apart.back().place)
        apart.pop_back();
    if (apart.size() < 2) return no_length();
    const bool straight =
        std::ranges::all_of(apart, [](const DxfCorner& corner) { return corner.bulge == 0; });
    if (straight) {
        std::vector<Vec3> places;
        places.reserve(apart.size());
        for (const DxfCorner& corner : apart)
            places.push_back(corner.place);
        return curve_through({std::move(places), {}, {}, closed && apart.size() > 2}, CurveShape::straight);
    }
    std::vector<SplineCurve> pieces;
    const std::size_t count = closed ? apart.size() : apart.size() - 1;
    for (std::size_t at = 0; at < count; ++at) {
        const DxfCorner &from = apart[at], &to = apart[(at + 1) % apart.size()];
        pieces.push_back(std::abs(from.bulge) > 1e-12 ? bulged(from.place, to.place, from.bulge)
                                                      : *line_between(from.place, to.place));
    }
    const SplineCurve curve = end_to_end(pieces);
    return closed ? closed_up(curve) : curve;
}

Result<SplineCurve> dxf_curve(const DxfEntity& entity) {
    const std::string_view type = entity.type();
    if (type == "LINE") {
        const Vec3 from = entity.place(10), to = entity.place(11);
        if (!is_finite(from) || !is_finite(to)) return not_finite();
        return line_between(from, to);
    }
    if (type == "CIRCLE") return circle_of(entity, true);
    if (type == "ARC") return circle_of(entity, false);
    if (type == "ELLIPSE") return ellipse_of(entity);
    if (type == "LWPOLYLINE") return light_polyline(entity);
    if (type == "SPLINE") return spline_of(entity);
    return Error{ErrorCode::unknown_name, "", "is no curve", ""};
}

}  // namespace plume
