#pragma once
// B-spline basis functions as polynomials, span by span: for bases that are evaluated very often. The same
// functions as spline_basis.hpp has, to rounding.

#include <array>
#include <cstddef>
#include <cstdint>
#include <vector>

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
        std::size_t first = 0;
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
        const std::size_t number = span_at(inside);
        const Span& span = spans_[number];
        return {number, (inside - span.start) * span.scale, span.scale};
    }
    At at(const Share& where) const {
        const auto [number, t, scale] = where;
        const Span& span = spans_[number];
        At at;
        at.first = span.first;
        for (std::size_t a = 0; a < width; ++a) {
            const double cubic = span.powers[3][a], square = span.powers[2][a], linear = span.powers[1][a];
            at.values[a] = ((cubic * t + square) * t + linear) * t + span.powers[0][a];
            at.slopes[a] = ((3 * cubic * t + 2 * square) * t + linear) * scale;
        }
        return at;
    }
    std::size_t span_count() const { return spans_.size(); }
    // [power][function], of the share of a span; of poles from first_of() on.
    const std::array<std::array<double, width>, width>& powers_of(std::size_t span) const {
        return spans_[span].powers;
    }
    std::size_t first_of(std::size_t span) const { return spans_[span].first; }
    // With their second derivatives.
    struct Bends {
        At at;
        std::array<double, width> bends;
    };
    Bends bends_at(double parameter) const {
        const Share where = share_at(parameter);
        const auto [number, t, scale] = where;
        const Span& span = spans_[number];
        Bends bends{at(where), {}};
        for (std::size_t a = 0; a < width; ++a)
            bends.bends[a] = (6 * span.powers[3][a] * t + 2 * span.powers[2][a]) * scale * scale;
        return bends;
    }

private:
    struct Span {
        std::array<std::array<double, width>, width> powers;  // [power][function], of the share of the span
        double start = 0, scale = 0;                          // scale: 1 / its length
        std::size_t first = 0;
    };

    double clamped(double parameter) const {
        return parameter < start_ ? start_ : parameter > end_ ? end_ : parameter;
    }
    // By even buckets, so that nothing is searched where knots are nearly even.
    std::size_t span_at(double parameter) const {
        const double share = (parameter - start_) * buckets_scale_;
        std::size_t span =
            buckets_[static_cast<std::uint32_t>(share > 0 ? share < last_bucket_ ? share : last_bucket_ : 0)];
        while (parameter >= starts_[span + 1])
            ++span;
        while (span > 0 && parameter < starts_[span])
            --span;
        return span;
    }

    std::vector<Span> spans_;
    std::vector<double> starts_;          // of the spans, and infinity behind the last
    std::vector<std::uint32_t> buckets_;  // the span in which each begins
    double start_ = 0, end_ = 0, buckets_scale_ = 0, last_bucket_ = 0;
};

}  // namespace plume
