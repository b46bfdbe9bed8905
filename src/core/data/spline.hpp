#pragma once
// What splines of one and of two directions share (Piegl & Tiller, The NURBS Book, 2nd ed. 1997, ch. 2).
//
// knots has pole_count + degree + 1 non-decreasing entries; the spline is defined from knots[degree] to
// knots[pole_count]. A closed direction repeats its first `degree` poles at the end over periodic knots, so
// that evaluating needs no special case; a knot that stands `degree` times is a corner, at the seam as
// elsewhere.

#include <string>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/column.hpp"

namespace plume {

struct SplineBasis {
    int degree = 3;
    bool closed = false;
    std::vector<double> knots;
    std::vector<double> nodes;  // the parameters of the points it was interpolated through; may be empty

    std::size_t pole_count() const { return knots.size() - static_cast<std::size_t>(degree) - 1; }
    double start() const { return knots[static_cast<std::size_t>(degree)]; }
    double end() const { return knots[pole_count()]; }
};

// Degree from 1 to 9, finite knots that do not step back, a domain of positive length; broken_invariant at
// `whose` otherwise.
Status check_basis(const SplineBasis& basis, const std::string& whose);

// One weight a pole, finite and above 0, or none at all; broken_invariant at `whose` otherwise.
Status check_weights(const Column& weights, std::size_t poles, const std::string& whose);

}  // namespace plume
