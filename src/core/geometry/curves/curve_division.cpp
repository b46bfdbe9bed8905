#include "core/geometry/curves/curve_division.hpp"

#include <algorithm>
#include <array>
#include <cmath>
#include <numeric>

namespace plume {
namespace {

// The piece that holds a number, of pieces that begin at these numbers and end at the last.
std::size_t piece_of(const std::vector<double>& starts, double wanted) {
    const auto above = std::ranges::upper_bound(starts, wanted);
    const auto last = static_cast<std::ptrdiff_t>(starts.size()) - 2;
    return static_cast<std::size_t>(std::clamp<std::ptrdiff_t>(above - starts.begin() - 1, 0, last));
}

}  // namespace

CurveLength::CurveLength(const SplineCurve& curve)
    : curve_(curve), even_speed_(curve.basis().degree == 1 && !curve.rational()) {
    const CurveSamples samples = sample(curve, usual_tolerance(curve));
    parameters_ = samples.parameters;
    if (samples.closed) parameters_.push_back(curve.basis().end());
    lengths_.push_back(0);
    for (std::size_t at = 1; at < parameters_.size(); ++at)
        lengths_.push_back(lengths_.back() + length_between(parameters_[at - 1], parameters_[at]));
}

double CurveLength::rule(double from, double to) const {
    // Nodes and weights of the rule on -1..1 (Abramowitz & Stegun, table 25.4).
    static constexpr std::array<std::array<double, 2>, 5> nodes{{{0, 0.5688888888888889},
                                                                 {0.5384693101056831, 0.4786286704993665},
                                                                 {-0.5384693101056831, 0.4786286704993665},
                                                                 {0.9061798459386640, 0.2369268850561891},
                                                                 {-0.9061798459386640, 0.2369268850561891}}};
    const double middle = (from + to) / 2, half = (to - from) / 2;
    double sum = 0;
    for (const auto& [node, weight] : nodes)
        sum += weight * length(evaluate(curve_, middle + half * node).along);
    return sum * half;
}

double CurveLength::halved(double from, double to, double whole, int depth) const {
    const double middle = std::midpoint(from, to);
    const double first = rule(from, middle), second = rule(middle, to);
    // Of order ten: what halving changes is a thousand times what is still wrong with the halves.
    if (depth == 0 || std::abs(first + second - whole) <= agreement * (first + second)) return first + second;
    return halved(from, middle, first, depth - 1) + halved(middle, to, second, depth - 1);
}

double CurveLength::length_between(double from, double to) const {
    const double whole = rule(from, to);
    return even_speed_ ? whole : halved(from, to, whole, most_halvings);
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
        const double speed = length(evaluate(curve_, at).along);
        if (!(speed > 0)) break;
        const double here = round + 1 < rounds ? rule(low, at) : length_between(low, at);
        at = std::clamp(at - (here - rest) / speed, low, high);
    }
    return at;
}

double length_of(const SplineCurve& curve) {
    return CurveLength(curve).total();
}

}  // namespace plume
