#pragma once
// Curves made anew of fewer or evener points, and made calmer.

#include "core/base/run.hpp"
#include "core/geometry/curves/curve_division.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"

namespace plume {

// Points at even lengths with their numbers, `bays` between the ends or round.
CurvePoints even_points(const SplineCurve& curve, std::size_t bays);

struct RebuiltCurve {
    SplineCurve curve;
    double deviation = 0;  // of either from the other, at most (nearest_on_curve.hpp)
};

// Through points at even lengths, which are measured already: `bays` of them from end to end, or round.
// Corners sharper than an angle stay and share the bays by the lengths between them, each stretch at least
// one. Fields go along. Errors: too_few_points (fewer than three bays of a closed curve), cancelled.
Result<RebuiltCurve> rebuilt_evenly(const SplineCurve& curve, const CurveLength& measure, std::size_t bays,
                                    CurveShape shape, double least_corner_rad, const Run& run);

// With as few points as keep it within a tolerance, its corners above 1° kept. Polylines stay polylines
// (Douglas & Peucker, Cartographica 10(2), 1973, doi 10.3138/FM57-6770-U75U-7727); smooth pieces are
// interpolated anew over their own parameter, with a further place in the middle of every bay that is not yet
// near enough. A piece that is not made simpler stays as it is. Error: cancelled.
Result<RebuiltCurve> simplified(const SplineCurve& curve, double tolerance, const Run& run);

// Each pole moved towards the middle of its neighbours by a share from 0 to 1, so many times; the ends of an
// open curve stay. O(poles x times). Error: cancelled.
Result<SplineCurve> softened(const SplineCurve& curve, double strength, std::size_t times, const Run& run);

}  // namespace plume
