#pragma once
// The nearest place on a curve: a tree over its chords, then Newton's steps on the curve itself.

#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/segment_tree.hpp"

namespace plume {

struct PlaceOnCurve {
    double parameter = 0;
    Vec3 place;
    double distance = 0;
};

class NearestOnCurve {
public:
    explicit NearestOnCurve(const SplineCurve& curve);

    // To rounding, where one place is clearly nearest; of places that are equally near any.
    PlaceOnCurve nearest(Vec3 point) const;

private:
    NearestOnCurve(const SplineCurve& curve, CurveSamples chords);

    SplineCurve curve_;  // shares its poles
    std::vector<double> parameters_;
    SegmentTree chords_;
};

// How far two curves are apart at most: the largest distance of places on either from the other, looked for
// at `per_bay` places between the knots of each.
double largest_deviation(const SplineCurve& a, const SplineCurve& b, std::size_t per_bay = 4);

}  // namespace plume
