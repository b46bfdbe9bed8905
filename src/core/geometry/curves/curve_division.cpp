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

}  // namespace

CurveLength::CurveLength(const SplineCurve& curve)
    : curve_(curve), even_speed_(curve.basis().degree == 1 && !curve.rational()) {
    // Beside the origin the coordinates of a small curve far away keep their digits.
    const Box box = poles_box(curve);
    if (const auto near = with_poles(curve, [&](Vec3 pole) { return pole - box.centre(); })) curve_ = *near;
    spans_ = spans_of(curve_);
    least_ = rounding * box.diagonal();
    agreement_ = std::max(agreement, 4 * lost_in_parameters(curve.basis()));
    const CurveSamples samples = sample(curve, usual_tolerance(curve));
    parameters_ = samples.parameters;
    if (samples.closed) parameters_.push_back(curve.basis().end());
    lengths_.push_back(0);
    for (std::size_t at = 1; at < parameters_.size(); ++at)
        lengths_.push_back(lengths_.back() + length_between(parameters_[at - 1], parameters_[at]));
}

// A quadratic is known by three of its values: at both ends and in the middle, each looked at from within.
std::vector<CurveLength::Span> CurveLength::spans_of(const SplineCurve& curve) {
    std::vector<Span> spans;
    if (curve.rational() || curve.basis().degree > 3) return spans;
    const std::vector<double> breaks = knot_breaks(curve.basis());
    for (std::size_t at = 0; at + 1 < breaks.size(); ++at) {
        const double start = breaks[at], size = breaks[at + 1] - start;
        // At quarters: the ends belong to the spans beside.
        const Vec3 first = evaluate(curve, start + size / 4).along,
                   middle = evaluate(curve, start + size / 2).along,
                   last = evaluate(curve, start + 3 * size / 4).along;
        const Vec3 bend = (first - middle * 2 + last) * (8 / (size * size));
        const Vec3 slope = (last - first) * (2 / size);
        // Around the middle it is middle + slope s + bend s^2, with s from there.
        spans.push_back(
            {start, middle - slope * (size / 2) + bend * (size * size / 4), slope - bend * size, bend});
    }
    return spans;
}

double CurveLength::speed(double parameter) const {
    if (spans_.empty()) return length(evaluate(curve_, parameter).along);
    const auto behind = std::ranges::upper_bound(spans_, parameter, {}, &Span::start);
    const Span& span = behind == spans_.begin() ? spans_.front() : *(behind - 1);
    const double t = parameter - span.start;
    return length(span.a + (span.b + span.c * t) * t);
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
