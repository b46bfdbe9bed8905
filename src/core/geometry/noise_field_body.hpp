// The loop of noise_field.hpp; included once for each set of instructions.

#include <array>
#include <cstdint>
#include "core/base/noise.hpp"
#include "core/geometry/noise_field.hpp"

namespace plume {
namespace {

// Corners of a cell along one axis and the place between them.
struct Span1 {
    std::uint32_t low, high;
    double offset;
};

template <bool periodic>
inline Span1 span_at(double x, double period) {
    const double floor = __builtin_floor(x);
    double low = periodic ? floor - __builtin_floor(floor / period) * period
                          : floor - __builtin_floor(floor * 0x1p-31) * 0x1p31;
    double high = low + 1;
    if (periodic) high = high >= period ? 0 : high;
    if (!(low >= 0 && low < 0x1p31)) low = high = 0;
    return {static_cast<std::uint32_t>(static_cast<std::int32_t>(low)),
            static_cast<std::uint32_t>(static_cast<std::int32_t>(high < 0x1p31 ? high : 0)), x - floor};
}

// As noise_of(x, y, z), with corners that may repeat and a seed.
template <bool periodic>
inline double octave(double x, double y, double z, const std::array<double, 3>& period, std::uint32_t seed) {
    const Span1 a = span_at<periodic>(x, period[0]), b = span_at<periodic>(y, period[1]),
                c = span_at<periodic>(z, period[2]);
    const std::uint32_t ai[2]{a.low * 0x8da6b343U, a.high * 0x8da6b343U};
    const std::uint32_t bi[2]{b.low * 0xd8163841U, b.high * 0xd8163841U};
    const std::uint32_t ci[2]{c.low * 0xcb1ab31fU ^ seed, c.high * 0xcb1ab31fU ^ seed};
    const auto corner = [&](int i, int j, int k) {
        const std::uint32_t hash = noise_hash(ai[i] ^ bi[j] ^ ci[k]);
        return noise_slope(hash, 0) * (a.offset - i) + noise_slope(hash, 10) * (b.offset - j) +
               noise_slope(hash, 20) * (c.offset - k);
    };
    const double u = noise_fade(a.offset), v = noise_fade(b.offset), w = noise_fade(c.offset);
    const double low = noise_mix(noise_mix(corner(0, 0, 0), corner(1, 0, 0), u),
                                 noise_mix(corner(0, 1, 0), corner(1, 1, 0), u), v);
    const double high = noise_mix(noise_mix(corner(0, 0, 1), corner(1, 0, 1), u),
                                  noise_mix(corner(0, 1, 1), corner(1, 1, 1), u), v);
    return noise_mix(low, high, w) * (2.0 / 3);
}

template <bool periodic>
void fractal(const double* x, const double* y, const double* z, std::size_t count, const NoiseRule& rule,
             double* __restrict out) {
    double strength = 1, total = 0, times = 1;
    for (std::size_t lane = 0; lane < count; ++lane)
        out[lane] = 0;
    for (int number = 0; number < rule.octaves; ++number) {
        const auto seed = static_cast<std::uint32_t>(
            random_bits(rule.seed + static_cast<std::uint64_t>(number) * 0x51ed2701U));
        std::array<double, 3> period{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            period[axis] = rule.period[axis] == 0 ? 0x1p31 : rule.period[axis] * times;
        for (std::size_t lane = 0; lane < count; ++lane)
            out[lane] +=
                strength * octave<periodic>(x[lane] * times, y[lane] * times, z[lane] * times, period, seed);
        total += strength;
        strength *= rule.roughness;
        times *= 2;
    }
    for (std::size_t lane = 0; lane < count; ++lane)
        out[lane] /= total;
}

inline void noise_loop(const double* x, const double* y, const double* z, std::size_t count,
                       const NoiseRule& rule, double* out) {
    if (rule.period[0] + rule.period[1] + rule.period[2] > 0)
        fractal<true>(x, y, z, count, rule, out);
    else
        fractal<false>(x, y, z, count, rule, out);
}

}  // namespace
}  // namespace plume
