#pragma once
// Curves through points.

#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

// Points in order with their numbers; `closed` joins the last to the first.
struct CurvePoints {
    std::vector<Vec3> points;
    std::vector<Field> fields;       // one number per point
    std::vector<double> parameters;  // increasing, one per point, and one more for the seam when closed;
                                     // empty: chord length
    bool closed = false;
};

enum class CurveShape { straight, smooth };

// Through every point: straight between them (degree 1), or a cubic spline (degree 3 from four points on;
// Piegl & Tiller, The NURBS Book, ch. 9.2), periodic where closed. Points that follow each other at the same
// place are taken once. Errors: too_few_points (two different ones, three when closed), not_finite.
Result<SplineCurve> curve_through(CurvePoints points, CurveShape shape);

enum class Route { rows, columns, in_order };
using CurveMaker = std::function<Result<SplineCurve>(CurvePoints)>;
// Rows run along i, columns along j; a gap ends a curve and the next point begins another. `closed` forces
// curves shut; otherwise a row is closed where its direction is and it has no gap. Runs of one point are left
// out, and with a remark those that have too few for the maker. Errors: of the maker; too_few_points when no
// curve is left.
Result<CurveSet> join_points(const PointLattice& lattice, Route route, const CurveMaker& make, bool closed,
                             const Run& run);
Result<CurveSet> join_points(const PointLattice& lattice, Route route, CurveShape shape, bool closed,
                             const Run& run);

}  // namespace plume
