#pragma once
// Points along curves; and points along a function, as close as a chord tolerance asks.

#include <functional>
#include <string_view>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

// Closed curves do not repeat the seam. Fields as the curve has them, one number per sample.
struct CurveSamples {
    bool closed = false;
    std::vector<double> parameters;
    std::vector<Vec3> points;
    std::vector<Field> fields;
};

struct CurvePoint {
    Vec3 position, along;  // along: the first derivative
};
CurvePoint evaluate(const SplineCurve& curve, double parameter);
Vec3 start_of(const SplineCurve& curve);
Vec3 end_of(const SplineCurve& curve);
struct CurveBend {
    Vec3 position, along, bend;  // the first and the second derivative
};
CurveBend evaluate_bend(const SplineCurve& curve, double parameter);
// 1 / radius, not a number where the curve stands still.
double curvature_of(const CurveBend& at);
// A field's number there; not a number where the curve does not have it.
double field_at(const SplineCurve& curve, std::string_view name, double parameter);

// The nodes of a curve (its knots where it has none), and between two of them as many more as keep a smooth
// curve within `tolerance_abs` of its chords (by the second difference; at most 64). A straight one has its
// nodes only.
CurveSamples sample(const SplineCurve& curve, double tolerance_abs);
// How many samples that would be, without making them. O(nodes).
std::size_t sample_count(const SplineCurve& curve, double tolerance_abs);
// A tolerance that looks smooth: a two-thousandth of the diagonal of its poles' box.
double usual_tolerance(const SplineCurve& curve);

// Parameters in, points out, for many at once.
using CurveFunction = std::function<Result<std::vector<Vec3>>(const std::vector<double>& parameters)>;

struct FunctionSamples {
    std::vector<double> parameters;
    std::vector<Vec3> points;
};

// Halves bays until none is further than `tolerance_abs` from its chord at its middle and quarters, from
// `least_bays` even ones on. Errors of the function; over_budget beyond `most` points, saying what tolerance
// is too fine; cancelled.
Result<FunctionSamples> sample_function(const CurveFunction& function, double from, double to,
                                        double tolerance_abs, std::size_t least_bays, std::size_t most,
                                        const Run& run);

// Length of the polyline through the points.
double polyline_length(const std::vector<Vec3>& points, bool closed);

}  // namespace plume
