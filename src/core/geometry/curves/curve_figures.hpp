#pragma once
// Figures of a curve: the area it encloses, its centroid, how tightly it bends. Lengths are in
// curve_division.hpp, the planarity gap in surfaces/flatness.hpp.

#include <optional>

#include "core/data/curve_set.hpp"

namespace plume {

// The area enclosed by a closed curve as a vector: square to its plane, seen from whose tip it runs
// anticlockwise; of a curve in space that of its shadow that is largest. Half the integral of r x dr
// (Stokes), to 1e-9 of the square of its size. An open curve is closed by a line.
Vec3 area_vector(const SplineCurve& curve);

// Of the line itself, by its length.
Vec3 centroid_of_line(const SplineCurve& curve);
// Of the area inside a closed flat curve. Error: too_few_points when it encloses none.
Result<Vec3> centroid_of_area(const SplineCurve& curve);

struct TightestBend {
    double radius = 0;
    double parameter = 0;
    Vec3 place;
};
// Where the radius of curvature is smallest, looked for between the knots by halving to 1e-9 of the domain;
// nothing on a curve that is straight everywhere. Corners between pieces are no bends.
std::optional<TightestBend> tightest_bend(const SplineCurve& curve);

}  // namespace plume
