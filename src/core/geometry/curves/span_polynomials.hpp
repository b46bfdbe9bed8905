#pragma once
// B-spline basis functions as polynomials, span by span: for bases that are evaluated very often. The same
// functions as spline_basis.hpp has, to rounding.

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

#include "core/base/on_lines.hpp"
#include "core/data/spline.hpp"

namespace plume {

class SpanPolynomials {
public:
    static constexpr int most_degree = 3;
    static constexpr std::size_t width = most_degree + 1;

    // Of a degree up to most_degree. O(knots).
    explicit SpanPolynomials(const SplineBasis& basis);

    // The functions that are not zero at a parameter: values[a] belongs to pole first + a; those above the
    // degree are 0. Parameters outside the domain are taken at its nearest end.
    struct At {
        std::size_t first;
        std::array<double, width> values, slopes;
    };
    At at(double parameter) const { return at(share_at(parameter)); }
    // Where a parameter lies: in which span, how far along it, and 1 / its length.
    struct Share {
        std::size_t span;
        double share, scale;
    };
    Share share_at(double parameter) const {
        const double inside = clamped(parameter);
        const std::size_t span = span_at(inside);
        return {span, (inside - starts_[span]) * scales_[span], scales_[span]};
    }
    At at(const Share& where) const {
        const auto [span, t, scale] = where;
        const Powers& powers = powers_[span];
        At at;
        at.first = firsts_[span];
        for (std::size_t a = 0; a < width; ++a) {
            const double cubic = powers[3][a], square = powers[2][a], linear = powers[1][a];
            at.values[a] = ((cubic * t + square) * t + linear) * t + powers[0][a];
            at.slopes[a] = ((3 * cubic * t + 2 * square) * t + linear) * scale;
        }
        return at;
    }
    std::size_t span_count() const { return powers_.size(); }
    // [power][function], of the share of a span; of poles from first_of() on.
    using Powers = std::array<std::array<double, width>, width>;
    const Powers& powers_of(std::size_t span) const { return powers_[span]; }
    std::size_t first_of(std::size_t span) const { return firsts_[span]; }
    // With their second derivatives.
    struct Bends {
        At at;
        std::array<double, width> bends;
    };
    Bends bends_at(double parameter) const {
        const Share where = share_at(parameter);
        const auto [span, t, scale] = where;
        const Powers& powers = powers_[span];
        Bends bends{at(where), {}};
        for (std::size_t a = 0; a < width; ++a)
            bends.bends[a] = (6 * powers[3][a] * t + 2 * powers[2][a]) * scale * scale;
        return bends;
    }

private:
    // Without branches; what is not a number stays so.
    double clamped(double parameter) const {
        const double begun = start_ > parameter ? start_ : parameter;
        return end_ < begun ? end_ : begun;
    }
    static constexpr std::size_t few_steps = 4;
    std::size_t searched(double parameter) const {
        const auto above = std::upper_bound(starts_.begin() + 1, starts_.end() - 1, parameter);
        return static_cast<std::size_t>(above - starts_.begin()) - 1;
    }
    // By even buckets, so that little is searched where knots are nearly even, and without a branch that
    // would be guessed wrong.
    std::size_t span_at(double parameter) const {
        const double share = (parameter - start_) * buckets_scale_;
        std::size_t span = buckets_[static_cast<std::uint32_t>(share < last_bucket_ ? share : last_bucket_)];
        if (most_steps_ > few_steps) return searched(parameter);
        for (std::size_t step = 0; step < most_steps_; ++step)
            span += parameter >= starts_[span + 1] ? 1U : 0U;
        return span;
    }

    // By span, each in a row of its own: what is asked for first is short and stays near.
    std::vector<double> starts_;  // and infinity behind the last
    std::vector<double> scales_;  // 1 / their lengths
    std::vector<std::size_t> firsts_;
    std::vector<Powers, OnLines<Powers>> powers_;
    std::vector<std::uint32_t> buckets_;  // the span in which each begins
    std::size_t most_steps_ = 0;          // to the span in which one ends
    double start_ = 0, end_ = 0, buckets_scale_ = 0, last_bucket_ = 0;
};

}  // namespace plume
