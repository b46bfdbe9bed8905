#include "core/geometry/curves/spline_basis.hpp"

#include <algorithm>
#include <cassert>
#include <cmath>
#include <numeric>

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

std::vector<double> knot_middles(const SplineBasis& basis) {
    const std::vector<double> breaks = knot_breaks(basis);
    std::vector<double> middles;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        middles.push_back(std::midpoint(breaks[bay], breaks[bay + 1]));
    return middles;
}

std::vector<double> knot_lines(const SplineBasis& basis, int pieces) {
    const std::vector<double> breaks = knot_breaks(basis);
    std::vector<double> lines;
    for (std::size_t bay = 0; bay + 1 < breaks.size(); ++bay)
        for (int piece = 0; piece < pieces; ++piece)
            lines.push_back(std::lerp(breaks[bay], breaks[bay + 1], static_cast<double>(piece) / pieces));
    if (!basis.closed) lines.push_back(breaks.back());
    return lines;
}

std::vector<double> knot_means(const SplineBasis& basis) {
    std::vector<double> means(basis.pole_count());
    for (std::size_t pole = 0; pole < means.size(); ++pole) {
        const auto first = basis.knots.begin() + static_cast<std::ptrdiff_t>(pole) + 1;
        means[pole] = std::accumulate(first, first + basis.degree, 0.0) / basis.degree;
        means[pole] = std::clamp(means[pole], basis.start(), basis.end());
    }
    return means;
}

SplineBasis with_nodes_at_means(SplineBasis basis) {
    basis.nodes = knot_means(basis);
    return basis;
}

namespace {

// The shares of the recursion's last rounds: what values and derivatives are sums of.
struct Shares {
    std::array<double, highest_degree + 1> last, before;
};

// Of a degree the compiler knows, for the usual ones; `degree` is the same number.
template <std::size_t known>
void fill(const double* knots, std::size_t span, double t, std::size_t degree, BasisAt& result,
          Shares& shares) {
    const std::size_t p = known > 0 ? known : degree;
    std::array<double, highest_degree + 1> left, right;
    result.values[0] = 1;
    for (std::size_t order = 1; order <= p; ++order) {
        left[order] = t - knots[span + 1 - order];
        right[order] = knots[span + order] - t;
        double saved = 0;
        for (std::size_t r = 0; r < order; ++r) {
            const double share = result.values[r] / (right[r + 1] + left[order - r]);
            if (order == p) shares.last[r] = share;
            if (order + 1 == p) shares.before[r] = share;
            result.values[r] = saved + right[r + 1] * share;
            saved = left[order - r] * share;
        }
        result.values[order] = saved;
    }
    // N'(a) = p (N(a, p-1) / (k[a+p] - k[a]) - N(a+1, p-1) / (k[a+p+1] - k[a+1])): the last shares.
    const auto factor = static_cast<double>(p);
    for (std::size_t a = 0; a <= p; ++a)
        result.slopes[a] = factor * ((a > 0 ? shares.last[a - 1] : 0) - (a < p ? shares.last[a] : 0));
}

BasisAt basis_with(const SplineBasis& basis, double parameter, Shares& shares) {
    assert(basis.degree <= highest_degree);
    const double t = std::clamp(parameter, basis.start(), basis.end());
    const std::size_t span = span_at(basis, t);
    const auto degree = static_cast<std::size_t>(basis.degree);
    BasisAt result;
    result.first = span - degree;
    const double* const knots = basis.knots.data();
    switch (degree) {
        case 1:
            fill<1>(knots, span, t, degree, result, shares);
            break;
        case 2:
            fill<2>(knots, span, t, degree, result, shares);
            break;
        case 3:
            fill<3>(knots, span, t, degree, result, shares);
            break;
        default:
            fill<0>(knots, span, t, degree, result, shares);
            break;
    }
    return result;
}

}  // namespace

BasisAt basis_at(const SplineBasis& basis, double parameter) {
    Shares shares;
    return basis_with(basis, parameter, shares);
}

BasisBends basis_bends_at(const SplineBasis& basis, double parameter) {
    Shares shares{};
    BasisBends result{basis_with(basis, parameter, shares), {}};
    if (basis.degree < 2) return result;
    // The same once more: slopes of the functions of one degree less, which start one pole later.
    const auto p = static_cast<std::size_t>(basis.degree);
    std::array<double, highest_degree + 1> slopes{};
    for (std::size_t a = 0; a < p; ++a) {
        const std::size_t pole = result.at.first + 1 + a;
        const double slope = (a > 0 ? shares.before[a - 1] : 0) - (a + 1 < p ? shares.before[a] : 0);
        slopes[a] = static_cast<double>(p - 1) * slope / (basis.knots[pole + p] - basis.knots[pole]);
    }
    for (std::size_t a = 0; a <= p; ++a)
        result.bends[a] = static_cast<double>(p) * ((a > 0 ? slopes[a - 1] : 0) - (a < p ? slopes[a] : 0));
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
