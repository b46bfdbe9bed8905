#pragma once
// What interpolating curves and surfaces share: the basis for given parameters, its linear system, and poles
// from the solution.

#include <string>
#include <vector>

#include "core/data/column.hpp"
#include "core/data/surface_set.hpp"
#include "core/geometry/curves/banded_solver.hpp"

namespace plume {

// Cubic where there are points enough. `parameters` increase; when closed the last is that at which the first
// point comes round again, and at least three points stand before it.
SplineBasis cubic_basis(std::vector<double> parameters, bool closed);

// Clamped knots of degree 1 at the parameters; a closed direction ends on its first point.
SplineBasis straight_basis(std::vector<double> parameters, bool closed);

// The system of interpolating at the basis' nodes. `what` names the thing in an error, "smooth skin".
Result<BandedSolver> collocation(const SplineBasis& basis, const std::string& what);

// Solved rows of `width` numbers each as rows of poles: repeats the first poles of a closed direction and
// undoes the shift of collocation().
Doubles wrapped_poles(const Doubles& solved, const SplineBasis& basis, std::size_t width);
// Entries of `width` numbers in `count` rows of `columns` each, columns made rows.
Doubles transposed(const Doubles& entries, std::size_t columns, std::size_t count, std::size_t width);
// Every `channels`-th number, from `channel` on.
Column channel_of(const Doubles& data, std::size_t channels, std::size_t channel);

}  // namespace plume
