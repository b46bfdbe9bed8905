#pragma once
// Where curves cross a plane, or one another.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"

namespace plume {

// Parameters of the places in a plane, square to the placement's up, in order: exact (spline_roots.hpp).
std::vector<double> crossings_with_plane(const SplineCurve& curve, const Placement& plane);

// Where one of its coordinates (0: x, 1: y) is a number, likewise.
std::vector<double> crossings_with_coordinate(const SplineCurve& curve, int coordinate, double number);

// Parameters on `curve` of the places no further than `tolerance` from another curve, where the distance
// between the two is smallest: by halving both while the boxes of their poles meet, then Newton's steps. In
// order, each once. Errors: unlike_arrangement where they run along each other, cancelled.
Result<std::vector<double>> crossings_with_curve(const SplineCurve& curve, const SplineCurve& other,
                                                 double tolerance, const Run& run);

// The pieces between parameters, in order; of a closed curve the one across the seam last, and all of it,
// opened there, at a single parameter. Parameters at the ends of an open curve cut nothing.
std::vector<SplineCurve> split_at(const SplineCurve& curve, std::vector<double> parameters);

}  // namespace plume
