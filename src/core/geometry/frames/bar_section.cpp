#include "core/geometry/frames/bar_section.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

using Places = std::vector<Vec3>;

Places circle(double diameter) {
    Places places;
    for (std::size_t at = 0; at < round_sides; ++at) {
        const double angle =
            2 * std::numbers::pi * static_cast<double>(at) / static_cast<double>(round_sides);
        places.push_back({diameter / 2 * std::cos(angle), diameter / 2 * std::sin(angle), 0});
    }
    return places;
}

Places box(double width, double height) {
    const double x = width / 2, y = height / 2;
    return {{-x, -y, 0}, {x, -y, 0}, {x, y, 0}, {-x, y, 0}};
}

Places i_beam(const BarSection& s) {
    const double x = s.width / 2, y = s.height / 2, w = s.wall / 2, f = y - s.flange;
    return {{-x, -y, 0}, {x, -y, 0}, {x, -f, 0}, {w, -f, 0}, {w, f, 0},   {x, f, 0},
            {x, y, 0},   {-x, y, 0}, {-x, f, 0}, {-w, f, 0}, {-w, -f, 0}, {-x, -f, 0}};
}

Places angle(const BarSection& s) {
    const double x = s.width / 2, y = s.height / 2, t = s.wall;
    return {{-x, -y, 0}, {x, -y, 0}, {x, -y + t, 0}, {-x + t, -y + t, 0}, {-x + t, y, 0}, {-x, y, 0}};
}

double area_within(const Places& places) {
    double twice = 0;
    for (std::size_t at = 0; at < places.size(); ++at) {
        const Vec3 a = places[at], b = places[(at + 1) % places.size()];
        twice += a.x * b.y - b.x * a.y;
    }
    return twice / 2;
}

}  // namespace

double SectionOutline::area() const {
    return outer.size() < 3 ? 0 : area_within(outer) - (inner.empty() ? 0 : area_within(inner));
}

Vec3 SectionOutline::centroid() const {
    if (outer.size() < 3 || !inner.empty()) return {};  // hollow ones are the same all round
    Vec3 sum;
    double twice = 0;
    for (std::size_t at = 0; at < outer.size(); ++at) {
        const Vec3 a = outer[at], b = outer[(at + 1) % outer.size()];
        const double part = a.x * b.y - b.x * a.y;
        twice += part;
        sum = sum + (a + b) * (part / 3);
    }
    return sum * (1 / twice);
}

double SectionOutline::reach() const {
    double most = 0;
    for (const Vec3 place : outer)
        most = std::max(most, length(place));
    return most;
}

SectionOutline outline_of(const BarSection& s) {
    switch (s.shape) {
        case SectionShape::round:
            return {circle(s.width), {}};
        case SectionShape::tube:
            return {circle(s.width), circle(s.width - 2 * s.wall)};
        case SectionShape::rectangle:
            return {box(s.width, s.height), {}};
        case SectionShape::flat:
            return {box(s.width, s.wall), {}};
        case SectionShape::box:
            return {box(s.width, s.height), box(s.width - 2 * s.wall, s.height - 2 * s.wall)};
        case SectionShape::i:
            return {i_beam(s), {}};
        case SectionShape::angle:
            return {angle(s), {}};
        case SectionShape::strip:
            return {{{-s.width / 2, 0, 0}, {s.width / 2, 0, 0}}, {}};
    }
    return {};
}

std::string_view fault_of(const BarSection& s) {
    const auto above = [](double size) { return size > 0 && std::isfinite(size); };
    if (!above(s.width)) return "has no width";
    const bool high = s.shape == SectionShape::rectangle || s.shape == SectionShape::box ||
                      s.shape == SectionShape::i || s.shape == SectionShape::angle;
    if (high && !above(s.height)) return "has no height";
    const bool walled = s.shape == SectionShape::tube || s.shape == SectionShape::flat ||
                        (high && s.shape != SectionShape::rectangle);
    if (!walled) return {};
    if (!above(s.wall)) return "has no thickness";
    switch (s.shape) {
        case SectionShape::tube:
            return 2 * s.wall < s.width ? "" : "has walls that meet";
        case SectionShape::box:
            return 2 * s.wall < std::min(s.width, s.height) ? "" : "has walls that meet";
        case SectionShape::angle:
            return s.wall < std::min(s.width, s.height) ? "" : "has legs thicker than it is";
        case SectionShape::flat:
            return {};
        default:
            if (!above(s.flange)) return "has flanges without thickness";
            return s.wall < s.width && 2 * s.flange < s.height ? "" : "has flanges that meet";
    }
}

}  // namespace plume
