#pragma once
// Where a spline function is zero.

#include <vector>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {

// Parameters at which the function with these poles changes its sign or touches zero, in order, to rounding.
// By halving its Bézier pieces: one without a change of sign among its poles has no root, one with a single
// change has one, which Newton's and bisection's steps find (Lane & Riesenfeld, Bounds on a polynomial, BIT
// 21, 1981, doi 10.1007/BF01933171). A stretch that is zero throughout counts as its two ends. Of a rational
// function the poles are those of its numerator.
std::vector<double> roots_of(const SplineBasis& basis, const std::vector<double>& poles);

}  // namespace plume
