#pragma once
// Points along a curve by length.
//
// Lengths are integrals of the speed by Gauss-Legendre's rule of five points over each piece of a fine
// sampling; the place at a length is found by Newton's steps within its piece. O(samples + points).

#include "core/data/curve_set.hpp"
#include "core/geometry/curve_sampling.hpp"

namespace plume {

class CurveLength {
public:
    explicit CurveLength(const SplineCurve& curve);

    double total() const { return lengths_.back(); }
    // The parameter at a length from the start, 0 to total().
    double parameter_at(double length) const;

private:
    double length_between(double from, double to) const;

    const SplineCurve& curve_;
    std::vector<double> parameters_, lengths_;
};

}  // namespace plume
