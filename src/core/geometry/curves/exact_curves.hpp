#pragma once
// Lines, arcs, ellipses and what is put together of them, as exact rational curves (The NURBS Book, ch. 7).

#include <span>

#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"

namespace plume {

// Of degree 1. Error: too_few_points when both are at one place.
Result<SplineCurve> line_between(Vec3 from, Vec3 to);

// Of degree 2. Angles in radians from the placement's first axis towards its second; `sweep` may be negative
// and is at most once round, where the curve is closed. Half axes above 0.
struct EllipseArc {
    Placement plane;
    double half_x = 1, half_y = 1;
    double from_rad = 0, sweep_rad = 0;
};
SplineCurve ellipse_arc(const EllipseArc& arc);
SplineCurve ellipse(const Placement& plane, double half_x, double half_y);

// Of a circle about a centre, anticlockwise about the normal from one place to the direction of another.
SplineCurve arc_about(Vec3 centre, Vec3 normal, Vec3 from, Vec3 to);

// Through three points in this order. Error: unlike_arrangement when they lie on a line, too_few_points when
// two of them are at one place.
Result<SplineCurve> arc_through(Vec3 first, Vec3 middle, Vec3 last);
// Beginning at one point in a direction, ending at another; a line where it goes straight there.
Result<SplineCurve> arc_from(Vec3 from, Vec3 direction, Vec3 to);

// Around the placement's origin. A radius of 0 leaves the corners; otherwise it is at most half of the
// shorter side.
SplineCurve rectangle(const Placement& plane, double width, double depth, double radius);

}  // namespace plume
