#pragma once
// Gradient noise and random numbers of one lane, written so that the compiler can put lanes side by side.
//
// Noise: Ken Perlin, Improving Noise, SIGGRAPH 2002, doi 10.1145/566570.566636: quintic fade between the
// slopes given to the corners of the unit cell. Ours draws slopes evenly from [-1, 1] per direction by an
// integer hash (the finalizer of MurmurHash3, Austin Appleby, public domain) instead of a table, so there is
// no period below 2^31 and no gather. Bounds follow from the largest slopes meeting in mid-cell: 1/2, 1 and
// 3/2 in one, two and three directions; the results are divided by them.
//
// Random: SplitMix64 (Steele, Lea, Flood, OOPSLA 2014, doi 10.1145/2660193.2660195) of seed and index, its
// upper 53 bits.

#include <bit>
#include <cmath>
#include <cstdint>

namespace plume {
namespace {

struct NoiseCell {
    std::uint32_t corner;  // number of the lower corner
    double offset;         // 0 to 1 within the cell; not finite where the coordinate is not
};

inline NoiseCell noise_cell(double x) {
    const double low = __builtin_floor(x);
    double wrapped = low - __builtin_floor(low * 0x1p-31) * 0x1p31;
    if (!(wrapped >= 0 && wrapped < 0x1p31)) wrapped = 0;
    return {static_cast<std::uint32_t>(static_cast<std::int32_t>(wrapped)), x - low};
}

inline std::uint32_t noise_hash(std::uint32_t h) {
    h ^= h >> 16U;
    h *= 0x85ebca6bU;
    h ^= h >> 13U;
    h *= 0xc2b2ae35U;
    return h ^ (h >> 16U);
}

// Corners of neighbouring cells must not share bits, so each direction has an odd factor of its own.
inline std::uint32_t noise_corner(std::uint32_t i, std::uint32_t j, std::uint32_t k) {
    return noise_hash((i & 0x7fffffffU) * 0x8da6b343U ^ (j & 0x7fffffffU) * 0xd8163841U ^
                      (k & 0x7fffffffU) * 0xcb1ab31fU);
}

// Ten bits of a hash as a slope from -1 to 1.
inline double noise_slope(std::uint32_t hash, unsigned shift) {
    return static_cast<double>(static_cast<std::int32_t>((hash >> shift) & 1023U)) * (2.0 / 1023) - 1;
}

inline double noise_fade(double t) {
    return t * t * t * (t * (t * 6 - 15) + 10);
}

inline double noise_mix(double a, double b, double t) {
    return a + (b - a) * t;
}

inline double noise_of(double x) {
    const NoiseCell c = noise_cell(x);
    const double low = noise_slope(noise_corner(c.corner, 0, 0), 0) * c.offset;
    const double high = noise_slope(noise_corner(c.corner + 1, 0, 0), 0) * (c.offset - 1);
    return 2 * noise_mix(low, high, noise_fade(c.offset));
}

inline double noise_of(double x, double y) {
    const NoiseCell a = noise_cell(x), b = noise_cell(y);
    const auto corner = [&](std::uint32_t i, std::uint32_t j) {
        const std::uint32_t hash = noise_corner(a.corner + i, b.corner + j, 0);
        return noise_slope(hash, 0) * (a.offset - i) + noise_slope(hash, 10) * (b.offset - j);
    };
    const double u = noise_fade(a.offset), v = noise_fade(b.offset);
    return noise_mix(noise_mix(corner(0, 0), corner(1, 0), u), noise_mix(corner(0, 1), corner(1, 1), u), v);
}

inline double noise_of(double x, double y, double z) {
    const NoiseCell a = noise_cell(x), b = noise_cell(y), c = noise_cell(z);
    const auto corner = [&](std::uint32_t i, std::uint32_t j, std::uint32_t k) {
        const std::uint32_t hash = noise_corner(a.corner + i, b.corner + j, c.corner + k);
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

inline std::uint64_t random_bits(std::uint64_t state) {
    state += 0x9e3779b97f4a7c15U;
    state = (state ^ (state >> 30U)) * 0xbf58476d1ce4e5b9U;
    state = (state ^ (state >> 27U)) * 0x94d049bb133111ebU;
    return state ^ (state >> 31U);
}

// A whole number for an address (i, j, k) that does not hang on how many there are along any direction, so
// that the points that were there keep theirs when others come. Along a row it is i; beyond, 53 well mixed
// bits.
inline double address_number(std::uint64_t i, std::uint64_t j, std::uint64_t k) {
    if ((j | k) == 0) return static_cast<double>(static_cast<std::int64_t>(i));
    const std::uint64_t bits = random_bits(random_bits(random_bits(k) + j) + i);
    return static_cast<double>(static_cast<std::int64_t>(bits >> 11U));
}

inline double random_of(double seed, double index) {
    const std::uint64_t start = random_bits(__builtin_bit_cast(std::uint64_t, seed + 0.0));
    const std::uint64_t bits = random_bits(start + 0x9e3779b97f4a7c15U * static_cast<std::uint64_t>(index));
    return static_cast<double>(static_cast<std::int64_t>(bits >> 11U)) * 0x1p-53;
}

}  // namespace
}  // namespace plume
