#include "core/geometry/best_fit.hpp"

#include <algorithm>
#include <array>
#include <cassert>

namespace plume {
namespace {

using Matrix3 = std::array<std::array<double, 3>, 3>;

struct Eigen3 {
    std::array<double, 3> values;
    std::array<Vec3, 3> vectors;
};

// Cyclic Jacobi (Golub & Van Loan, Matrix Computations, 8.5): each rotation clears one element off the
// diagonal; five sweeps are enough for doubles, ten are always.
Eigen3 eigen_of(Matrix3 a) {
    Matrix3 v{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}};
    for (int sweep = 0; sweep < 10; ++sweep)
        for (const auto& [p, q] : {std::pair<std::size_t, std::size_t>{0, 1}, {0, 2}, {1, 2}}) {
            if (a[p][q] == 0) continue;
            const double theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
            const double t = (theta >= 0 ? 1 : -1) / (std::abs(theta) + std::sqrt(theta * theta + 1));
            const double c = 1 / std::sqrt(t * t + 1), s = t * c;
            if (!std::isfinite(t)) continue;
            for (std::size_t k = 0; k < 3; ++k) {
                const double x = a[k][p], y = a[k][q];
                a[k][p] = c * x - s * y;
                a[k][q] = s * x + c * y;
            }
            for (std::size_t k = 0; k < 3; ++k) {
                const double x = a[p][k], y = a[q][k];
                a[p][k] = c * x - s * y;
                a[q][k] = s * x + c * y;
                const double m = v[k][p], n = v[k][q];
                v[k][p] = c * m - s * n;
                v[k][q] = s * m + c * n;
            }
        }
    Eigen3 result;
    for (std::size_t d = 0; d < 3; ++d) {
        result.values[d] = a[d][d];
        result.vectors[d] = {v[0][d], v[1][d], v[2][d]};
    }
    return result;
}

Vec3 turned_up(Vec3 normal) {
    constexpr double flat = 1e-9;
    for (const double part : {normal.z, normal.y, normal.x})
        if (std::abs(part) > flat) return part < 0 ? normal * -1.0 : normal;
    return normal;
}

}  // namespace

Vec3 centroid(std::span<const Vec3> points) {
    assert(!points.empty());
    // Against the first point, so that far from zero nothing is lost.
    Vec3 sum;
    for (const Vec3 point : points)
        sum = sum + (point - points.front());
    return points.front() + sum * (1 / static_cast<double>(points.size()));
}

BestFit best_fit(std::span<const Vec3> points) {
    const Vec3 middle = centroid(points);
    Matrix3 covariance{};
    for (const Vec3 point : points) {
        const Vec3 d = point - middle;
        const std::array<double, 3> part{d.x, d.y, d.z};
        for (std::size_t row = 0; row < 3; ++row)
            for (std::size_t column = 0; column < 3; ++column)
                covariance[row][column] += part[row] * part[column];
    }
    const Eigen3 eigen = eigen_of(covariance);
    std::array<std::size_t, 3> order{0, 1, 2};
    std::ranges::stable_sort(order,
                             [&](std::size_t a, std::size_t b) { return eigen.values[a] > eigen.values[b]; });
    BestFit fit;
    // Without a spread there is no direction to prefer: flat on the ground.
    const bool spread = eigen.values[order[0]] > 0;
    fit.frame = spread ? frame_of(middle, turned_up(eigen.vectors[order[2]]), eigen.vectors[order[0]])
                       : frame_of(middle, {0, 0, 1}, {1, 0, 0});
    if (spread && eigen.values[order[1]] <= 1e-24 * eigen.values[order[0]])
        // On a line any plane through it fits: the one nearest to the ground is taken.
        fit.frame = frame_of(
            middle, turned_up(cross(eigen.vectors[order[0]], cross({0, 0, 1}, eigen.vectors[order[0]]))),
            eigen.vectors[order[0]]);
    const auto rms = [&](std::size_t d) {
        return std::sqrt(std::max(0.0, eigen.values[order[d]]) / static_cast<double>(points.size()));
    };
    fit.spread = {rms(0), rms(1), rms(2)};
    for (const Vec3 point : points)
        fit.worst = std::max(fit.worst, std::abs(fit.frame.to_local(point).z));
    return fit;
}

}  // namespace plume
