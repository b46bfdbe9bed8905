#pragma once
// B-spline basis functions over one direction (The NURBS Book, algorithms A2.1 to A2.3).

#include <array>
#include <cstddef>
#include <vector>

#include "core/data/spline.hpp"

namespace plume {

inline constexpr int highest_degree = 9;

// The degree + 1 basis functions that are not zero at a parameter, and their first derivatives.
// values[a] belongs to pole first + a.
struct BasisAt {
    std::size_t first = 0;
    std::array<double, highest_degree + 1> values{};
    std::array<double, highest_degree + 1> slopes{};
};

// How long its domain is.
inline double range_of(const SplineBasis& basis) {
    return basis.end() - basis.start();
}

// The last knot at or before a parameter of the domain behind which there is room before the next.
std::size_t span_at(const SplineBasis& basis, double parameter);
// Parameters outside the domain are taken at its nearest end.
BasisAt basis_at(const SplineBasis& basis, double parameter);

// With their second derivatives.
struct BasisBends {
    BasisAt at;
    std::array<double, highest_degree + 1> bends{};
};
BasisBends basis_bends_at(const SplineBasis& basis, double parameter);

// Parameters between which the functions are polynomials, the ends of the domain among them.
std::vector<double> knot_breaks(const SplineBasis& basis);
// Parameters of the points it was made through, the end of a closed one among them; where it was made through
// none, the knots.
std::vector<double> breaks_of(const SplineBasis& basis);

// Halfway between two of those.
std::vector<double> knot_middles(const SplineBasis& basis);
// Those, with `pieces` - 1 more between two; a closed direction ends before its seam.
std::vector<double> knot_lines(const SplineBasis& basis, int pieces);

// The parameters at which a spline of an open basis can be interpolated, one a pole (Greville's).
std::vector<double> knot_means(const SplineBasis& basis);
SplineBasis with_nodes_at_means(SplineBasis basis);

// A basis for interpolating `nodes.size()` points at increasing parameters. Open: clamped, knots averaged
// over the nodes (NURBS Book eq. 9.8), as many poles as points. Closed (`period_end` is the parameter at
// which the first point comes round again): cubic, knots at the nodes, periodic.
SplineBasis interpolating_basis(std::vector<double> nodes, int degree, bool closed, double period_end);

}  // namespace plume
