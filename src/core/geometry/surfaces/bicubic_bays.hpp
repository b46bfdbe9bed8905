#pragma once
// A bicubic patch bay by bay, each as one polynomial in u and v: for patches that are evaluated at many more
// places than they have bays. 512 bytes a bay, O(bays) to make; half the work of the sums over basis
// functions (The NURBS Book, ch. 3.5, has both forms), the same to rounding.

#include <vector>

#include "core/base/on_lines.hpp"
#include "core/geometry/curves/span_polynomials.hpp"
#include "core/geometry/surfaces/wide_lanes.hpp"

namespace plume {

class BicubicBays {
public:
    // Poles as four numbers each, weighted x, y, z and the weight; degrees of 3.
    BicubicBays(const SpanPolynomials& u, const SpanPolynomials& v, const double* poles, std::size_t poles_u);

    // At parameters, as the polynomials it was made of find their spans.
    PLUME_WIDE WidePoint at(const SpanPolynomials& in_u, const SpanPolynomials& in_v, double u,
                            double v) const {
        return at(in_u.share_at(u), in_v.share_at(v));
    }
    PLUME_WIDE WidePoint at(const SpanPolynomials::Share& at_u, const SpanPolynomials::Share& at_v) const {
        const double* const bay = bay_at(at_u, at_v);
        const Wide t = _mm256_set1_pd(at_u.share), s = _mm256_set1_pd(at_v.share);
        // Rows of powers of u, and of their derivatives, added up in powers of v (Horner).
        Wide value[4], slope[4];
        for (std::size_t q = 0; q < 4; ++q) {
            const double* const row = bay + 16 * q;
            Wide sum = four_of(row + 12), change = sum;
            sum = _mm256_fmadd_pd(sum, t, four_of(row + 8));
            change = _mm256_fmadd_pd(change, t, sum);
            sum = _mm256_fmadd_pd(sum, t, four_of(row + 4));
            change = _mm256_fmadd_pd(change, t, sum);
            value[q] = _mm256_fmadd_pd(sum, t, four_of(row));
            slope[q] = change;
        }
        Wide here = value[3], along_v = here, along_u = slope[3];
        for (std::size_t q = 3; q-- > 0;) {
            if (q < 2) along_v = _mm256_fmadd_pd(along_v, s, here);
            here = _mm256_fmadd_pd(here, s, value[q]);
            along_u = _mm256_fmadd_pd(along_u, s, slope[q]);
        }
        return {here, _mm256_mul_pd(along_u, _mm256_set1_pd(at_u.scale)),
                _mm256_mul_pd(along_v, _mm256_set1_pd(at_v.scale))};
    }

    // Will be asked for soon: a bay is read from slow memory where they are many.
    void fetch(const SpanPolynomials::Share& at_u, const SpanPolynomials::Share& at_v) const {
        constexpr std::size_t line = 8;
        const double* const bay = bay_at(at_u, at_v);
        for (std::size_t number = 0; number < numbers_a_bay; number += line)
            __builtin_prefetch(bay + number);
    }

private:
    const double* bay_at(const SpanPolynomials::Share& at_u, const SpanPolynomials::Share& at_v) const {
        return numbers_.data() + numbers_a_bay * (at_u.span + bays_u_ * at_v.span);
    }

    static constexpr std::size_t numbers_a_bay = 64;

    std::size_t bays_u_;
    LinedDoubles numbers_;  // by bay: [power of v][power of u][x, y, z, weight]
};

}  // namespace plume
