#pragma once
// Gauss-Legendre points of any order, by Newton's steps on the Legendre polynomials (Abramowitz & Stegun,
// 25.4.30): exact for polynomials of degree 2 n - 1.

#include <cmath>
#include <numbers>
#include <vector>

namespace plume {

struct GaussPoints {
    std::vector<double> at, weights;  // on 0..1; the weights sum up to 1
};

inline GaussPoints gauss_points(std::size_t count) {
    GaussPoints points{std::vector<double>(count), std::vector<double>(count)};
    const auto n = static_cast<double>(count);
    for (std::size_t index = 0; index < count; ++index) {
        double x = std::cos(std::numbers::pi * (static_cast<double>(index) + 0.75) / (n + 0.5)), slope = 1;
        for (int round = 0; round < 100; ++round) {
            double before = 1, here = x;
            for (std::size_t order = 2; order <= count; ++order) {
                const auto k = static_cast<double>(order);
                const double next = ((2 * k - 1) * x * here - (k - 1) * before) / k;
                before = here;
                here = next;
            }
            slope = n * (x * here - before) / (x * x - 1);
            const double step = here / slope;
            x -= step;
            if (std::abs(step) < 1e-16) break;
        }
        points.at[index] = (1 - x) / 2;
        points.weights[index] = 1 / ((1 - x * x) * slope * slope);
    }
    return points;
}

}  // namespace plume
