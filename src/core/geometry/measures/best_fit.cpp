#include "core/geometry/measures/best_fit.hpp"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <array>
#include <cassert>

namespace plume {
namespace {

// Axes along which points spread, widest first, and the sums of the squares of their distances along each, as
// shares of the square of `size`, so that nothing overflows. The sums are taken along the axes instead of
// from the covariance, whose rounding would make a line look like a very thin plane.
struct Spread {
    std::array<Vec3, 3> axes;
    std::array<double, 3> squares{};
    double size = 0;  // the largest distance from the middle along x, y or z
};

Spread spread_of(std::span<const Vec3> points, Vec3 middle) {
    Spread spread;
    for (const Vec3 point : points) {
        const Vec3 d = point - middle;
        spread.size = std::max({spread.size, std::abs(d.x), std::abs(d.y), std::abs(d.z)});
    }
    if (!(spread.size > 0)) return spread;
    Eigen::Matrix3d covariance = Eigen::Matrix3d::Zero();
    for (const Vec3 point : points) {
        const Vec3 d = (point - middle) * (1 / spread.size);
        const Eigen::Vector3d part(d.x, d.y, d.z);
        covariance += part * part.transpose();
    }
    const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> solver(covariance);
    for (int d = 0; d < 3; ++d) {
        const Eigen::Vector3d axis = solver.eigenvectors().col(2 - d);  // least first
        spread.axes[static_cast<std::size_t>(d)] = {axis.x(), axis.y(), axis.z()};
    }
    for (const Vec3 point : points)
        for (std::size_t d = 0; d < 3; ++d) {
            const double along = dot(point - middle, spread.axes[d]) / spread.size;
            spread.squares[d] += along * along;
        }
    return spread;
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
    const Spread spread = spread_of(points, middle);
    BestFit fit;
    if (!(spread.squares[0] > 0))  // without a spread there is no direction to prefer: flat on the ground
        fit.placement = placement_of(middle, {0, 0, 1}, {1, 0, 0});
    else if (spread.squares[1] <= 1e-24 * spread.squares[0])
        // On a line any plane through it fits: the one nearest to the ground is taken.
        fit.placement = placement_of(
            middle, turned_up(cross(spread.axes[0], cross({0, 0, 1}, spread.axes[0]))), spread.axes[0]);
    else
        fit.placement = placement_of(middle, turned_up(spread.axes[2]), spread.axes[0]);
    const auto rms = [&](std::size_t d) {
        return spread.size * std::sqrt(spread.squares[d] / static_cast<double>(points.size()));
    };
    fit.spread = {rms(0), rms(1), rms(2)};
    for (const Vec3 point : points)
        fit.worst = std::max(fit.worst, std::abs(fit.placement.to_local(point).z));
    return fit;
}

}  // namespace plume
