#pragma once
// Knots as exact formats have them: each once, and how often it stands.

#include "core/data/spline.hpp"

namespace plume {

struct DistinctKnots {
    explicit DistinctKnots(const SplineBasis& basis) {
        for (const double knot : basis.knots) {
            if (at.empty() || knot > at.back()) {
                at.push_back(knot);
                times.push_back(0);
            }
            ++times.back();
        }
    }
    std::vector<double> at;
    std::vector<int> times;
};

}  // namespace plume
