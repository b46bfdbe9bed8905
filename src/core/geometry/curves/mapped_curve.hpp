#pragma once
// Curves through what becomes of the places of a curve, over its own parameters.

#include <functional>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"

namespace plume {

// Where a place of the curve at a parameter goes.
using CurvePlace = std::function<Result<Vec3>(double parameter)>;

// The curve over a basis of degree 3 or more with knots enough, and those of all maps over the same one:
// interpolated at the means of its knots, with more knots where the curve stands off halfway between two.
// Corners stay. `deviation` is what was measured there at last. Errors of the maps; cancelled.
struct MappedCurves {
    SplineCurve over;
    std::vector<SplineCurve> curves;  // one a map
    double deviation = 0;
};
Result<MappedCurves> mapped_curves(const SplineCurve& curve, std::span<const CurvePlace> maps,
                                   double tolerance_abs, const Run& run);

// A curve and its image over one basis, with the same weights and the curve's fields: what is ruled between
// the two is straight from each place to where it goes. `from` is exactly the curve.
struct CurveImage {
    SplineCurve from, to;
    double deviation = 0;
};
Result<CurveImage> image_of(const SplineCurve& curve, const CurvePlace& map, double tolerance_abs,
                            const Run& run);

// A polyline true to a tolerance, with as few points as that takes: for maps with creases, as onto meshes.
// Where the map jumps it goes straight across; `jump` is the longest such stretch. Errors of the map;
// over_budget beyond a million points; cancelled.
struct MappedLine {
    SplineCurve curve;
    double jump = 0;
};
Result<MappedLine> mapped_line(const SplineCurve& curve, const CurvePlace& map, double tolerance_abs,
                               const Run& run);

}  // namespace plume
