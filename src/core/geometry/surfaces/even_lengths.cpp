#include "core/geometry/surfaces/even_lengths.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
MeanLength::MeanLength(const SplinePatch& patch, int direction)
    : evaluator_(patch), direction_(direction), points_(gauss_points(6)) {
    constexpr int pieces = 8, probes = 9;
    const SplineBasis &basis = basis_along(patch, direction), &across = basis_along(patch, 1 - direction);
    for (int probe = 0; probe < probes; ++probe)
        across_.push_back(std::lerp(across.start(), across.end(), (probe + 0.5) / probes));
    lines_ = knot_lines(basis, pieces);
    if (basis.closed) lines_.push_back(basis.end());
    lengths_.push_back(0);
    for (std::size_t line = 0; line + 1 < lines_.size(); ++line)
        lengths_.push_back(lengths_.back() + between(lines_[line], lines_[line + 1]));
}

double MeanLength::parameter_at(double length) const {
    const auto next = std::ranges::upper_bound(lengths_, length);
    const std::size_t bay =
        std::clamp<std::size_t>(static_cast<std::size_t>(next - lengths_.begin()), 1, lengths_.size() - 1) -
        1;
    const double low = lines_[bay], high = lines_[bay + 1];
    double at =
        std::lerp(low, high, (length - lengths_[bay]) / std::max(lengths_[bay + 1] - lengths_[bay], 1e-300));
    // Newton's steps; the speed changes little in an eighth of a bay.
    for (int step = 0; step < 6; ++step) {
        const double speed = speed_at(at);
        if (!(speed > 0)) break;
        const double by = (length - lengths_[bay] - between(low, at)) / speed;
        at = std::clamp(at + by, low, high);
        if (std::abs(by) < 1e-14 * (high - low)) break;
    }
    return at;
}

double MeanLength::length_at(double parameter) const {
    const auto next = std::ranges::upper_bound(lines_, parameter);
    const std::size_t bay =
        std::clamp<std::size_t>(static_cast<std::size_t>(next - lines_.begin()), 1, lines_.size() - 1) - 1;
    return lengths_[bay] + between(lines_[bay], parameter);
}

double MeanLength::speed_at(double parameter) const {
    double sum = 0;
    for (const double probe : across_)
        sum += direction_ == 0 ? length(evaluator_.at(parameter, probe).along_u)
                               : length(evaluator_.at(probe, parameter).along_v);
    return sum / static_cast<double>(across_.size());
}

double MeanLength::between(double from, double to) const {
    double sum = 0;
    for (std::size_t point = 0; point < points_.at.size(); ++point)
        sum += points_.weights[point] * speed_at(std::lerp(from, to, points_.at[point]));
    return sum * (to - from);
}

std::vector<double> even_length_parameters(const SplinePatch& patch, int direction, std::size_t bays) {
    const SplineBasis& basis = basis_along(patch, direction);
    const MeanLength lengths(patch, direction);
    std::vector<double> parameters{basis.start()};
    for (std::size_t bay = 1; bay < bays; ++bay)
        parameters.push_back(
            lengths.parameter_at(lengths.total() * static_cast<double>(bay) / static_cast<double>(bays)));
    if (!basis.closed) parameters.push_back(basis.end());
    return parameters;
}

}  // namespace plume
