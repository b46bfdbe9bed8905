#pragma once
// Places of a curve that is evaluated very often, span by span as polynomials; the same as evaluate() and
// evaluate_bend() to rounding, some four times as quick up to degree 3. O(spans) to make.

#include <array>
#include <optional>
#include <vector>

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/span_polynomials.hpp"

namespace plume {

class CurveEvaluator {
public:
    explicit CurveEvaluator(const SplineCurve& curve);

    const SplineCurve& curve() const { return curve_; }
    Vec3 place(double parameter) const;
    Vec3 along(double parameter) const;  // the first derivative
    CurvePoint at(double parameter) const;
    CurveBend bend_at(double parameter) const;
    // The curve's numbers there, one for each parameter.
    std::vector<Field> numbers_at(const std::vector<double>& parameters) const;

private:
    double number_at(const Column& of_poles, double parameter) const;

    // Weighted x, y, z and the weight, by powers of the share of the span.
    using Span = std::array<std::array<double, 4>, SpanPolynomials::width>;

    SplineCurve curve_;                           // shares its poles
    std::optional<SpanPolynomials> polynomials_;  // of low degrees
    std::vector<Span> spans_;
};

// The parameters of sample(), where the curve is at hand already.
std::vector<double> sample_parameters(const CurveEvaluator& curve, double tolerance_abs);
// The ends of the chords between them, as close as is usual: a closed curve has its seam at both ends.
std::vector<double> chord_ends(const CurveEvaluator& curve);

}  // namespace plume
