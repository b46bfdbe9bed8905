#pragma once
// Points along a curve by length.
//
// Lengths are integrals of the speed by Gauss-Legendre's rule of five points over each piece of a fine
// sampling, halved until two halves and the whole agree to 1e-11 of them; the place at a length is found by
// Newton's steps within its piece. The one measure of length there is. O(samples + points).

#include "core/data/curve_set.hpp"
#include "core/geometry/curves/curve_evaluator.hpp"

namespace plume {

class CurveLength {
public:
    explicit CurveLength(const SplineCurve& curve);

    double total() const { return lengths_.back(); }
    // The length up to a parameter of the curve's domain.
    double length_at(double parameter) const;
    // The parameter at a length from the start, 0 to total().
    double parameter_at(double length) const;

private:
    double speed(double parameter) const;

    static constexpr double agreement = 1e-9;
    // What is less of the size of a curve is lost in the digits of its poles, as where it stands nearly
    // still.
    static constexpr double rounding = 1e-15;
    static constexpr int most_halvings = 24;  // of a piece with a corner in it
    double rule(double from, double to) const;
    double length_between(double from, double to) const;

    CurveEvaluator curve_;          // moved beside the origin
    double least_ = 0;              // a length that is none
    double agreement_ = agreement;  // as its parameters' digits allow
    bool even_speed_;               // within each piece
    std::vector<double> parameters_, lengths_;
};

// To 1e-9 of it.
double length_of(const SplineCurve& curve);

}  // namespace plume
