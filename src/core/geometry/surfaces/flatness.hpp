#pragma once
// How far panels and outlines are from lying in one plane: the planarity gap, the largest distance of a
// corner from the plane that fits the corners best (best_fit.hpp). Of four corners it is a quarter of the
// distance between the middles of the diagonals for a square seen from above; other definitions differ by a
// factor.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/mesh.hpp"
#include "core/geometry/measures/best_fit.hpp"

namespace plume {

// One number a face, study lengths. Error: cancelled.
Result<std::vector<double>> panel_gaps(const Mesh& mesh, const Run& run);

// The plane of a curve: the best fit of places along it (of its corners, where it is straight between them),
// not of its poles.
BestFit plane_of(const SplineCurve& curve);

struct CurveFlatness {
    double gap = 0;     // of the places along the curve from its plane
    Doubles pole_gaps;  // signed, one a pole: a field over the curve's knots, exact along all of it
};
CurveFlatness flatness_of(const SplineCurve& curve);

}  // namespace plume
