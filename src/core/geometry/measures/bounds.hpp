#pragma once
// Exact bounds of curves and surfaces, and with them of any value.
//
// A spline lies within the hull of its poles and touches it rarely. Each span whose poles reach beyond what
// is known to be reached is written in Bernstein form (by blossoming: Ramshaw, Blossoms are polar forms, CAGD
// 6(4), 1989, doi 10.1016/0167-8396(89)90032-0) and halved until its hull and the values at its corners agree
// to 1e-12 of the size (Lane & Riesenfeld, IEEE PAMI 2(1), 1980, doi 10.1109/TPAMI.1980.4766968). Weights are
// positive, so the same holds for rational ones. Ours takes the span that reaches furthest first, after which
// nearly all others are seen to stay within. O(poles), and a few hundred halvings a side.

#include "core/data/value.hpp"

namespace plume {

Box bounds_of(const SplineCurve& curve);
Box bounds_of(const SplinePatch& patch);
// Of points, vertices, curves and surfaces; empty for numbers and where nothing is finite.
Box bounds_of(const Value& value);

// Whether two boxes come as near as `reach` along every axis.
bool meet(const Box& a, const Box& b, double reach);

}  // namespace plume
