#pragma once
// Points in an outline, as dense as a smallest distance between any two allows.
//
// Robert Bridson, Fast Poisson disk sampling in arbitrary dimensions, SIGGRAPH 2007 sketches, doi
// 10.1145/1278780.1278807: candidates around points already there, checked in a grid of cells that hold one
// point each. Ours goes on with darts thrown anywhere once no point has room around it, so that parts behind
// a narrow neck are filled, too. O(n).

#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/geometry/curves/outline.hpp"

namespace plume {

// In the outline's plane; the same for the same seed. At least one point. Errors: out_of_range when the
// spacing is larger than the outline; cancelled.
Result<std::vector<FlatPoint>> poisson_points(const Outline& outline, double spacing, std::uint64_t seed,
                                              const Run& run);

// About so many, rather more: discs of half the spacing thrown at random jam where they cover 0.547 of the
// plane (Feder, Random sequential adsorption, J. Theor. Biol. 87(2), 1980, doi 10.1016/0022-5193(80)90358-6).
double poisson_estimate(const Outline& outline, double spacing);

}  // namespace plume
