#pragma once
// Other bases for the same spline: finer, of a higher degree, a part, reversed. Every new pole is a sum of a
// few old ones, the same for coordinates, weights and fields of curves and, direction by direction, of
// surfaces.
//
// By polar forms: the pole between knots t1..tp is the blossom of the polynomial at (t1, ..., tp), and that
// of a raised degree the mean of the blossoms that leave one of them out (Ramshaw, Blossoms are polar forms,
// Computer Aided Geometric Design 6, 1989, doi 10.1016/0167-8396(89)90032-0; The NURBS Book, ch. 5, has the
// same by other means). Exact but for rounding. O(poles x degree^2), O(poles x degree^3) for raising.

#include <vector>

#include "core/geometry/curves/spline_basis.hpp"

namespace plume {

// A pole as a sum over old poles `first`, `first` + 1, ...
struct PoleSum {
    std::size_t first = 0;
    std::vector<double> shares;
};

struct SplineChange {
    SplineBasis basis;
    std::vector<PoleSum> poles;
};

// With more knots, each inside the domain; a closed direction stays closed. A knot stands at most `degree`
// times in the result: what would be more is left out.
SplineChange refined(const SplineBasis& basis, std::vector<double> more);
// Of a degree not lower than it has, at most highest_degree.
SplineChange raised(const SplineBasis& basis, int degree);
// Of the domain: as far as lengths along a curve are exact.
inline constexpr double knots_hardly_apart = 1e-10;
// From one parameter to a larger one, open, its ends on its first and last pole. Of a closed direction the
// part may run across the seam: `to` is at most a period beyond `from`, and `from` lies in the domain. A
// parameter hardly apart from a knot is taken for it, and no part is shorter.
SplineChange part_of(const SplineBasis& basis, double from, double to);
// Opened where it begins, where it is closed; otherwise touching its ends.
SplineChange opened(const SplineBasis& basis);
// Open, every knot as often as the degree: its poles are Bernstein coefficients, bay by bay, of which the
// last of one is the first of the next.
SplineChange in_bernstein_form(const SplineBasis& basis);
// Run through from its end.
SplineChange reversed(const SplineBasis& basis);

// An open basis whose ends touch, as a closed one with a corner at its seam: for poles whose last repeats the
// first.
SplineBasis closed_at_seam(const SplineBasis& basis);
// Moved and stretched to another domain.
SplineBasis over_domain(SplineBasis basis, double start, double end);

// How often a knot stands at a parameter of the domain, as nearly as doubles tell it.
int multiplicity_at(const SplineBasis& basis, double parameter);

// Rows of `width` numbers, one row a pole, put through the sums.
Doubles changed_rows(const SplineChange& change, const Doubles& rows, std::size_t width);

}  // namespace plume
