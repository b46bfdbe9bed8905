#pragma once
// The nearest place on a curve: a tree over its chords, then Newton's steps on the curve itself.

#include "core/geometry/curves/curve_evaluator.hpp"
#include "core/geometry/curves/segment_tree.hpp"

namespace plume {

struct PlaceOnCurve {
    double parameter = 0;
    Vec3 place;
    double distance = 0;
    std::size_t chord = 0;  // a guess for points nearby
};

class NearestOnCurve {
public:
    explicit NearestOnCurve(const SplineCurve& curve);

    // To rounding, where one place is clearly nearest; of places that are equally near any. `guess`: the
    // chord of an answer for a point nearby, which makes it quick.
    PlaceOnCurve nearest(Vec3 point, std::size_t guess = 0) const;
    const CurveEvaluator& curve() const { return curve_; }

private:
    CurveEvaluator curve_;
    std::vector<double> parameters_;
    SegmentTree chords_;
};

// `per_bay` parameters in every bay between the points a curve was made through, without the last end.
std::vector<double> probes_of(const SplineCurve& curve, std::size_t per_bay);

// How far two curves are apart at most: the largest distance of places on either from the other, looked for
// at `per_bay` places between the knots of each.
double largest_deviation(const SplineCurve& a, const SplineCurve& b, std::size_t per_bay = 4);

// The same where it is known which parameters of the two belong together, from end to end: each place is
// looked for near the one that belongs to it, without a search.
struct MatchedCurve {
    const CurveEvaluator& curve;
    const std::vector<double>& parameters;  // two at least, increasing, as many as of the other
};
double largest_deviation(const MatchedCurve& a, const MatchedCurve& b, std::size_t per_bay = 4);

}  // namespace plume
