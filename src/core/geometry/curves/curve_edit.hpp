#pragma once
// Curves cut, turned round, put end to end: exact, whatever their degree and weights.

#include <functional>
#include <span>

#include "core/data/box.hpp"
#include "core/data/curve_set.hpp"
#include "core/geometry/curves/spline_change.hpp"

namespace plume {

// Poles as a basis blends them, a row a pole: weighted coordinates, the weight, weighted fields. Both ways; a
// row is row_width() numbers wide.
std::size_t row_width(const SplineCurve& curve);
Doubles weighted_rows(const SplineCurve& curve);
void divide_by_weights(Doubles& rows, std::size_t width);

// The same poles over another basis of as many, each moved to another place, or with other numbers on them.
// Error: that of SplineCurve::make() where one has no place.
SplineCurve with_basis(const SplineCurve& curve, SplineBasis basis);
Result<SplineCurve> with_poles(const SplineCurve& curve, const std::function<Vec3(Vec3)>& moved);
SplineCurve with_fields(const SplineCurve& curve, std::vector<Field> fields);

// The same curve over another basis. Fields of the same name and dimension go along.
SplineCurve changed(const SplineCurve& curve, const SplineChange& change);
SplineCurve raised(const SplineCurve& curve, int degree);
SplineCurve reversed(const SplineCurve& curve);
// Open, from one parameter to a larger one; of a closed curve at most once round, across the seam too.
SplineCurve part_of(const SplineCurve& curve, double from, double to);
// The same curve with its seam at another parameter; open curves as they are.
SplineCurve with_seam_at(const SplineCurve& curve, double parameter);
// Over a domain from 0 to its length, as nearly as its chords tell it: pieces of one scale can be put
// together.
SplineCurve over_length(const SplineCurve& curve);

// Open curves one behind the other, each beginning where the one before ends: what is apart is drawn together
// to the middle, so the caller sees to it that it is little. Fields that all have, in one dimension, go
// along.
SplineCurve end_to_end(std::span<const SplineCurve> curves);
// Of an open curve whose ends meet; its seam keeps its corner.
SplineCurve closed_up(const SplineCurve& curve);

// Around all poles: no curve reaches further.
Box poles_box(const SplineCurve& curve);
// Whether all its poles are at one place.
bool is_tip(const SplineCurve& curve, double within);

}  // namespace plume
