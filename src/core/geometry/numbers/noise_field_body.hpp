// The loop of noise_field.hpp; included once for each set of instructions.

#include <cstdint>
#include "core/base/noise.hpp"
#include "core/geometry/numbers/noise_field.hpp"

namespace plume {
namespace {

// A chunk's places along one axis: the hashed numbers of both corners and the share between them. Whole
// numbers and floats of 32 bits each, so that the loop over corners runs eight lanes wide; the share is taken
// in doubles first, so that places far from 0 stay sharp.
constexpr std::size_t lanes = 256;
struct AxisLanes {
    std::uint32_t low[lanes], high[lanes];
    float offset[lanes];
};

template <bool periodic>
void lay_out(const double* x, std::size_t count, double times, double period, std::uint32_t factor,
             AxisLanes& out) {
    const double inverse = 1 / period;
    for (std::size_t lane = 0; lane < count; ++lane) {
        const double at = x[lane] * times;
        double cell = __builtin_floor(at);
        const double share = at - cell;
        if (periodic) cell -= __builtin_floor(cell * inverse) * period;
        // Beyond 2^30 cells, and where a place is not finite, all corners are one.
        cell = __builtin_fabs(cell) < 0x1p30 ? cell : 0;
        double next = cell + 1;
        if (periodic) next = next >= period ? 0 : next;
        out.low[lane] = static_cast<std::uint32_t>(static_cast<std::int32_t>(cell)) * factor;
        out.high[lane] = static_cast<std::uint32_t>(static_cast<std::int32_t>(next)) * factor;
        out.offset[lane] = static_cast<float>(share);
    }
}

inline float fade(float t) {
    return t * t * t * (t * (t * 6 - 15) + 10);
}

inline float mix(float a, float b, float t) {
    return a + (b - a) * t;
}

inline float slope(std::uint32_t hash, unsigned shift) {
    return static_cast<float>(static_cast<std::int32_t>((hash >> shift) & 1023U)) * (2.0F / 1023) - 1;
}

inline float corner(std::uint32_t hash, float x, float y, float z) {
    const std::uint32_t mixed = noise_hash(hash);
    return slope(mixed, 0) * x + slope(mixed, 10) * y + slope(mixed, 20) * z;
}

// The same noise as noise_of(x, y, z), to seven digits, with a seed.
inline void add_octave(const AxisLanes& a, const AxisLanes& b, const AxisLanes& c, std::size_t count,
                       std::uint32_t seed, float strength, float* __restrict out) {
    for (std::size_t lane = 0; lane < count; ++lane) {
        const float x = a.offset[lane], y = b.offset[lane], z = c.offset[lane];
        const std::uint32_t a0 = a.low[lane], a1 = a.high[lane], b0 = b.low[lane], b1 = b.high[lane],
                            c0 = c.low[lane] ^ seed, c1 = c.high[lane] ^ seed;
        const float u = fade(x), v = fade(y), w = fade(z);
        const float low =
            mix(mix(corner(a0 ^ b0 ^ c0, x, y, z), corner(a1 ^ b0 ^ c0, x - 1, y, z), u),
                mix(corner(a0 ^ b1 ^ c0, x, y - 1, z), corner(a1 ^ b1 ^ c0, x - 1, y - 1, z), u), v);
        const float high =
            mix(mix(corner(a0 ^ b0 ^ c1, x, y, z - 1), corner(a1 ^ b0 ^ c1, x - 1, y, z - 1), u),
                mix(corner(a0 ^ b1 ^ c1, x, y - 1, z - 1), corner(a1 ^ b1 ^ c1, x - 1, y - 1, z - 1), u), v);
        out[lane] += strength * mix(low, high, w) * (2.0F / 3);
    }
}

template <bool periodic>
void fractal(const double* x, const double* y, const double* z, std::size_t count, const NoiseRule& rule,
             double* __restrict out) {
    AxisLanes a, b, c;
    float sums[lanes];
    for (std::size_t begin = 0; begin < count; begin += lanes) {
        const std::size_t here = count - begin < lanes ? count - begin : lanes;
        for (std::size_t lane = 0; lane < here; ++lane)
            sums[lane] = 0;
        double strength = 1, total = 0, times = 1;
        for (int number = 0; number < rule.octaves; ++number) {
            const auto seed = static_cast<std::uint32_t>(
                random_bits(rule.seed + static_cast<std::uint64_t>(number) * 0x51ed2701U));
            const auto period = [&](std::size_t axis) {
                return rule.period[axis] == 0 ? 0x1p31 : rule.period[axis] * times;
            };
            lay_out<periodic>(x + begin, here, times, period(0), 0x8da6b343U, a);
            lay_out<periodic>(y + begin, here, times, period(1), 0xd8163841U, b);
            lay_out<periodic>(z + begin, here, times, period(2), 0xcb1ab31fU, c);
            add_octave(a, b, c, here, seed, static_cast<float>(strength), sums);
            total += strength;
            strength *= rule.roughness;
            times *= 2;
        }
        for (std::size_t lane = 0; lane < here; ++lane)
            out[begin + lane] = static_cast<double>(sums[lane]) / total;
    }
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
