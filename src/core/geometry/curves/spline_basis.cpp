#include "core/geometry/curves/spline_basis.hpp"

#include <algorithm>
#include <cassert>

namespace plume {

std::size_t span_at(const SplineBasis& basis, double parameter) {
    const auto degree = static_cast<std::ptrdiff_t>(basis.degree);
    const auto begin = basis.knots.begin() + degree;
    const auto end = basis.knots.begin() + static_cast<std::ptrdiff_t>(basis.pole_count());
    auto found = std::upper_bound(begin, end, parameter);
    if (found != begin) --found;
    // At the end of the domain step back over knots without length.
    while (found != begin && !(*found < *(found + 1)))
        --found;
    return static_cast<std::size_t>(found - basis.knots.begin());
}

std::vector<double> knot_breaks(const SplineBasis& basis) {
    std::vector<double> breaks;
    for (std::size_t knot = static_cast<std::size_t>(basis.degree); knot <= basis.pole_count(); ++knot)
        if (breaks.empty() || basis.knots[knot] > breaks.back()) breaks.push_back(basis.knots[knot]);
    return breaks;
}

std::vector<double> breaks_of(const SplineBasis& basis) {
    if (basis.nodes.empty()) return knot_breaks(basis);
    std::vector<double> breaks = basis.nodes;
    if (basis.closed) breaks.push_back(basis.end());
    return breaks;
}

BasisAt basis_at(const SplineBasis& basis, double parameter) {
    assert(basis.degree <= highest_degree);
    const double t = std::clamp(parameter, basis.start(), basis.end());
    const std::size_t span = span_at(basis, t);
    const auto degree = static_cast<std::size_t>(basis.degree);
    const std::vector<double>& knots = basis.knots;

    std::array<double, highest_degree + 1> left{}, right{}, lower{};
    BasisAt result;
    result.first = span - degree;
    result.values[0] = 1;
    for (std::size_t order = 1; order <= degree; ++order) {
        if (order == degree) lower = result.values;
        left[order] = t - knots[span + 1 - order];
        right[order] = knots[span + order] - t;
        double saved = 0;
        for (std::size_t r = 0; r < order; ++r) {
            const double share = result.values[r] / (right[r + 1] + left[order - r]);
            result.values[r] = saved + right[r + 1] * share;
            saved = left[order - r] * share;
        }
        result.values[order] = saved;
    }
    // N'(a) = p (N(a, p-1) / (k[a+p] - k[a]) - N(a+1, p-1) / (k[a+p+1] - k[a+1])), with `lower` holding the
    // functions of degree p - 1, which start one pole later.
    for (std::size_t a = 0; a <= degree; ++a) {
        const std::size_t pole = result.first + a;
        double slope = 0;
        if (a > 0) slope += lower[a - 1] / (knots[pole + degree] - knots[pole]);
        if (a < degree) slope -= lower[a] / (knots[pole + degree + 1] - knots[pole + 1]);
        result.slopes[a] = static_cast<double>(degree) * slope;
    }
    return result;
}

BasisBends basis_bends_at(const SplineBasis& basis, double parameter) {
    BasisBends result{basis_at(basis, parameter), {}};
    if (basis.degree < 2) return result;
    // Differences of the slopes' own basis, of one degree less over the same knots.
    const auto degree = static_cast<std::size_t>(basis.degree);
    SplineBasis lower;
    lower.degree = basis.degree - 1;
    lower.knots.assign(basis.knots.begin() + 1, basis.knots.end() - 1);
    const BasisAt slopes = basis_at(lower, parameter);
    for (std::size_t a = 0; a <= degree; ++a) {
        const std::size_t pole = result.at.first + a;
        double bend = 0;
        if (a > 0) bend += slopes.slopes[a - 1] / (basis.knots[pole + degree] - basis.knots[pole]);
        if (a < degree) bend -= slopes.slopes[a] / (basis.knots[pole + degree + 1] - basis.knots[pole + 1]);
        result.bends[a] = static_cast<double>(degree) * bend;
    }
    return result;
}

SplineBasis interpolating_basis(std::vector<double> nodes, int degree, bool closed, double period_end) {
    SplineBasis basis;
    basis.degree = degree;
    basis.closed = closed;
    const std::size_t count = nodes.size();
    const auto p = static_cast<std::size_t>(degree);
    if (closed) {
        const double period = period_end - nodes.front();
        const auto wrapped = [&](std::ptrdiff_t index) {
            const auto n = static_cast<std::ptrdiff_t>(count);
            const std::ptrdiff_t turns = index >= 0 ? index / n : -((-index + n - 1) / n);
            return nodes[static_cast<std::size_t>(index - turns * n)] + static_cast<double>(turns) * period;
        };
        // count + degree poles, the last `degree` of them repeating the first.
        for (std::ptrdiff_t index = -degree; index <= static_cast<std::ptrdiff_t>(count + p); ++index)
            basis.knots.push_back(wrapped(index));
    } else {
        basis.knots.assign(p + 1, nodes.front());
        for (std::size_t inner = 1; inner + p < count; ++inner) {
            double sum = 0;
            for (std::size_t index = inner; index < inner + p; ++index)
                sum += nodes[index];
            basis.knots.push_back(sum / static_cast<double>(p));
        }
        basis.knots.insert(basis.knots.end(), p + 1, nodes.back());
    }
    basis.nodes = std::move(nodes);
    return basis;
}

}  // namespace plume
