#include "core/geometry/curves/span_polynomials.hpp"

#include <algorithm>
#include <cassert>
#include <limits>

namespace plume {
namespace {

// Enough that one step leads from a bucket's first span to the right one where knots are nearly even.
constexpr std::size_t buckets_a_span = 2;

using Polynomial = std::array<double, SpanPolynomials::width>;

// (constant + linear t) times a polynomial of a degree below the highest.
Polynomial times(double constant, double linear, const Polynomial& polynomial) {
    Polynomial product{};
    for (std::size_t power = 0; power < product.size(); ++power)
        product[power] = constant * polynomial[power] + (power > 0 ? linear * polynomial[power - 1] : 0);
    return product;
}

Polynomial sum(const Polynomial& a, const Polynomial& b) {
    Polynomial both{};
    for (std::size_t power = 0; power < both.size(); ++power)
        both[power] = a[power] + b[power];
    return both;
}

// The recursion of A2.2 (The NURBS Book) with polynomials of the share of the span instead of numbers.
std::array<Polynomial, SpanPolynomials::width> functions_in(const SplineBasis& basis, std::size_t knot) {
    const std::vector<double>& knots = basis.knots;
    const double start = knots[knot], size = knots[knot + 1] - start;
    std::array<Polynomial, SpanPolynomials::width> functions{};
    functions[0][0] = 1;
    for (std::size_t order = 1; order <= static_cast<std::size_t>(basis.degree); ++order) {
        Polynomial saved{};
        for (std::size_t r = 0; r < order; ++r) {
            const double right = knots[knot + r + 1], left = knots[knot + 1 - (order - r)];
            const double over = 1 / (right - left);
            Polynomial share = functions[r];
            for (double& coefficient : share)
                coefficient *= over;
            functions[r] = sum(saved, times(right - start, -size, share));
            saved = times(start - left, size, share);
        }
        functions[order] = saved;
    }
    return functions;
}

}  // namespace

SpanPolynomials::SpanPolynomials(const SplineBasis& basis) : start_(basis.start()), end_(basis.end()) {
    assert(basis.degree <= most_degree);
    for (auto knot = static_cast<std::size_t>(basis.degree); knot < basis.pole_count(); ++knot) {
        const double size = basis.knots[knot + 1] - basis.knots[knot];
        if (!(size > 0)) continue;
        const auto functions = functions_in(basis, knot);
        Powers& powers = powers_.emplace_back();
        for (std::size_t power = 0; power < width; ++power)
            for (std::size_t a = 0; a < width; ++a)
                powers[power][a] = functions[a][power];
        firsts_.push_back(knot - static_cast<std::size_t>(basis.degree));
        scales_.push_back(1 / size);
        starts_.push_back(basis.knots[knot]);
    }
    starts_.push_back(std::numeric_limits<double>::infinity());
    buckets_.resize(buckets_a_span * powers_.size());
    last_bucket_ = static_cast<double>(buckets_.size() - 1);
    buckets_scale_ = static_cast<double>(buckets_.size()) / (end_ - start_);
    // A hair early and late, as a parameter's bucket is known to rounding only.
    constexpr double hair = 1e-6;
    const double wide = (end_ - start_) / static_cast<double>(buckets_.size());
    std::size_t first = 0, last = 0;
    const auto go_to = [&](std::size_t& span, double bucket) {
        const double at = start_ + bucket * wide;
        while (starts_[span + 1] <= at)
            ++span;
    };
    for (std::size_t bucket = 0; bucket < buckets_.size(); ++bucket) {
        go_to(first, static_cast<double>(bucket) - hair);
        go_to(last, static_cast<double>(bucket + 1) + hair);
        buckets_[bucket] = static_cast<std::uint32_t>(first);
        most_steps_ = std::max(most_steps_, last - first);
    }
}

}  // namespace plume
