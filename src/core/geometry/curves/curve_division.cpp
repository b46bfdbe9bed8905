#include "core/geometry/curves/curve_division.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/measures/quadrature.hpp"

namespace plume {
namespace {

// The piece that holds a number, of pieces that begin at these numbers and end at the last.
std::size_t piece_of(const std::vector<double>& starts, double wanted) {
    const auto above = std::ranges::upper_bound(starts, wanted);
    const auto last = static_cast<std::ptrdiff_t>(starts.size()) - 2;
    return static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(above - starts.begin() - 1, 0, last));
}

// How far a parameter can be off by its own digits, as a share of the narrowest span between knots.
double lost_in_parameters(const SplineBasis& basis) {
    const std::vector<double> breaks = breaks_of(basis);
    double narrowest = basis.end() - basis.start();
    for (std::size_t at = 1; at < breaks.size(); ++at)
        narrowest = std::min(narrowest, breaks[at] - breaks[at - 1]);
    const double largest = std::max(std::abs(basis.start()), std::abs(basis.end()));
    return largest * std::numeric_limits<double>::epsilon() / narrowest;
}

// Beside the origin the coordinates of a small curve far away keep their digits.
SplineCurve beside_origin(const SplineCurve& curve) {
    const Vec3 centre = poles_box(curve).centre();
    const auto near = with_poles(curve, [&](Vec3 pole) { return pole - centre; });
    return near ? *near : curve;
}

}  // namespace

CurveLength::CurveLength(const SplineCurve& curve)
    : curve_(beside_origin(curve)), even_speed_(curve.basis().degree == 1 && !curve.rational()) {
    least_ = rounding * poles_box(curve).diagonal();
    agreement_ = std::max(agreement, 4 * lost_in_parameters(curve.basis()));
    parameters_ = chord_ends(curve_);
    lengths_.push_back(0);
    for (std::size_t at = 1; at < parameters_.size(); ++at)
        lengths_.push_back(lengths_.back() + length_between(parameters_[at - 1], parameters_[at]));
}

double CurveLength::speed(double parameter) const {
    return length(curve_.along(parameter));
}

double CurveLength::rule(double from, double to) const {
    return gauss_rule([&](double t) { return speed(t); }, from, to);
}

double CurveLength::length_between(double from, double to) const {
    const double whole = rule(from, to);
    if (even_speed_) return whole;
    const auto speed_at = [&](double t) { return speed(t); };
    const auto agreed = [this](double first, double second, double all) {
        return std::abs(first + second - all) <= std::max(agreement_ * (first + second), least_);
    };
    return halved_integral(speed_at, agreed, from, to, whole, most_halvings);
}

double CurveLength::length_at(double parameter) const {
    const std::size_t piece = piece_of(parameters_, parameter);
    return lengths_[piece] + length_between(parameters_[piece], parameter);
}

double CurveLength::parameter_at(double wanted) const {
    const std::size_t piece = piece_of(lengths_, wanted);
    const double low = parameters_[piece], high = parameters_[piece + 1];
    const double span = lengths_[piece + 1] - lengths_[piece], rest = wanted - lengths_[piece];
    if (!(span > 0)) return low;
    double at = std::lerp(low, high, std::clamp(rest / span, 0.0, 1.0));
    if (even_speed_) return at;
    // The plain rule brings it near, the exact measure has the last word.
    constexpr int rounds = 4;
    for (int round = 0; round < rounds; ++round) {
        const double ahead = speed(at);
        if (!(ahead > 0)) break;
        const double here = round + 1 < rounds ? rule(low, at) : length_between(low, at);
        at = std::clamp(at - (here - rest) / ahead, low, high);
    }
    return at;
}

double length_of(const SplineCurve& curve) {
    return CurveLength(curve).total();
}

}  // namespace plume
