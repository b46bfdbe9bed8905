#pragma once
// Milling cutters: bodies of revolution about an upright axis, flat, ball and rounded.
//
// Heights are from the tip, millimetres. A rounded cutter has a flat of radius - corner and a quarter of a
// torus around it; a flat one has no corner, the corner of a ball is its radius.

#include <algorithm>
#include <cmath>

namespace plume {

struct Cutter {
    double radius = 3;  // above 0
    double corner = 3;  // from 0 to the radius

    static Cutter flat(double radius) { return {radius, 0}; }
    static Cutter ball(double radius) { return {radius, radius}; }

    double flat_radius() const { return radius - corner; }
    bool is_flat() const { return corner <= 0; }
    bool is_ball() const { return corner >= radius; }
    // How far above the tip its lower side is, so far from the axis: up to the radius.
    double rise_at(double distance) const {
        const double out = distance - flat_radius();
        return out <= 0 ? 0 : corner - std::sqrt(std::max(0.0, corner * corner - out * out));
    }
};

// How far apart parallel paths over a level face leave ridges of that height: between two of its rounded
// sides. The ridge: from 0 to the corner; a flat cutter leaves none.
inline double apart_for_ridge(const Cutter& cutter, double ridge) {
    return 2 * cutter.flat_radius() + 2 * std::sqrt(std::max(0.0, ridge * (2 * cutter.corner - ridge)));
}
// And the other way round; the paths are no further apart than the cutter is wide.
inline double ridge_between(const Cutter& cutter, double apart) {
    return cutter.rise_at(apart / 2);
}

// How far along a line its lower side touches a straight side that rises so along the line, seen from where
// the line passes the axis, so far off it: where both rise as much, or at the end of the cutter.
// Of rounded cutters by halving.
double touch_along(const Cutter& cutter, double rise, double off);

}  // namespace plume
