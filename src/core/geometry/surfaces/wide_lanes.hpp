#pragma once
// Four numbers at once: places with their weights, by the instructions of newer processors.
//
// Only for functions marked PLUME_WIDE, which are called where can_go_wide() says so: all of what they call
// is inlined, so that nothing else is compiled with these instructions.

#include <immintrin.h>

#include <array>

#include "core/data/vec3.hpp"

#define PLUME_WIDE __attribute__((target("avx2,fma"), flatten))

namespace plume {

inline bool can_go_wide() {
    return __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
}

using Wide = __m256d;

PLUME_WIDE inline Wide four_of(const double* from) {
    return _mm256_loadu_pd(from);
}
// In every lane.
PLUME_WIDE inline Wide weight_of(Wide place) {
    return _mm256_permute4x64_pd(place, 0xFF);
}
PLUME_WIDE inline Vec3 place_in(Wide lanes) {
    std::array<double, 4> numbers;  // NOLINT: stored to right below
    _mm256_storeu_pd(numbers.data(), lanes);
    return {numbers[0], numbers[1], numbers[2]};
}
// y, z, x of x, y, z.
PLUME_WIDE inline Wide turned_on(Wide place) {
    return _mm256_permute4x64_pd(place, 0xC9);
}
PLUME_WIDE inline Wide cross_of(Wide a, Wide b) {
    return turned_on(_mm256_fmsub_pd(a, turned_on(b), _mm256_mul_pd(turned_on(a), b)));
}
// Of x, y and z.
PLUME_WIDE inline double square_of(Wide place) {
    const Wide squares = _mm256_mul_pd(place, place);
    const __m128d low = _mm256_castpd256_pd128(squares), high = _mm256_extractf128_pd(squares, 1);
    return _mm_cvtsd_f64(_mm_add_sd(_mm_add_sd(low, _mm_unpackhi_pd(low, low)), high));
}

// A place and both derivatives, of a rational patch times the weight, which is the fourth lane.
struct WidePoint {
    Wide here, along_u, along_v;
};
// Divided by the weight: the quotient's derivatives are each less the place times its weight.
PLUME_WIDE inline WidePoint divided(WidePoint point) {
    const Wide scale = _mm256_div_pd(_mm256_set1_pd(1), weight_of(point.here));
    const Wide here = _mm256_mul_pd(point.here, scale);
    const auto less = [&](Wide along) __attribute__((target("avx2,fma"))) {
        return _mm256_mul_pd(_mm256_fnmadd_pd(here, weight_of(along), along), scale);
    };
    return {here, less(point.along_u), less(point.along_v)};
}

}  // namespace plume
