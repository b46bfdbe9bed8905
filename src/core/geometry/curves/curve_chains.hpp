#pragma once
// Curves put end to end, made longer, blended.

#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

struct CurveChains {
    CurveSet set;
    std::size_t joints = 0;    // ends that were put together
    double largest_gap = 0;    // between two of them
    double smallest_open = 0;  // between two loose ends of different curves; infinite when there are none
};
// Open curves whose ends are no further apart than `tolerance` become one, nearest ends first, turned round
// where necessary; chains whose own ends meet are closed. Closed curves go through as they are. O(n log n) in
// the ends. Error: cancelled.
Result<CurveChains> chained_end_to_end(const CurveSet& set, double tolerance, const Run& run);

enum class Extension { straight, arc, onwards };
// Longer at its end by a length: straight on; on the circle that fits its bend there; or as the spline itself
// goes on. Errors: has_gaps (a closed curve has no end), out_of_range (the spline cannot go on that far: a
// rational one has a pole there; an arc more than once round).
Result<SplineCurve> extended(const SplineCurve& curve, double by, Extension shape);

// From one curve to another in so many steps between them, both included: pole by pole where they are made
// alike, by equal shares of their lengths otherwise. Error: unlike_arrangement when one is closed and the
// other open, cancelled.
Result<CurveSet> blended(const SplineCurve& first, const SplineCurve& last, std::size_t between,
                         const Run& run);

}  // namespace plume
