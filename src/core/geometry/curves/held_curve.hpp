#pragma once
// Curves held by their poles: they pass near them, as B-splines do.

#include <vector>

#include "core/data/curve_set.hpp"

namespace plume {

struct HeldCurve {
    std::vector<Vec3> poles;
    std::vector<double> weights;  // one a pole, above 0; empty: all alike
    std::vector<Field> fields;    // one number a pole
    int degree = 3;
    bool closed = false;  // the last pole is joined to the first
};

// Over even knots, one bay long each; open ones touch their first and last pole. Errors: too_few_points
// (fewer than degree + 1 poles, degree where closed and at least three; all poles at one place), not_finite
// (naming the pole), out_of_range (a degree that is not from 1 to 5; a weight that is not above 0, naming its
// pole).
Result<SplineCurve> curve_held_by(const HeldCurve& held);

}  // namespace plume
