// The kernels, compiled once for each instruction set: the including file defines PLUME_ARCH and includes
// this after its headers. Everything is in an unnamed namespace, so that code for one processor cannot be
// linked in for another.

#include <xsimd/xsimd.hpp>

#include "core/base/noise.hpp"
#include "core/formula/kernels.hpp"

namespace plume {
namespace {

using Batch = xsimd::batch<double, PLUME_ARCH>;
using Yes = xsimd::batch_bool<double, PLUME_ARCH>;
constexpr std::size_t width = Batch::size;
static_assert(width <= widest_batch);

Batch at(Lanes lanes, std::size_t index) {
    return Batch::load_unaligned(lanes.at + index * lanes.step);
}

// The last lanes, fewer than a batch, are copied out and in, so that nothing beyond an array is touched.
Batch rest(Lanes lanes, std::size_t index, std::size_t count) {
    double copy[width] = {};
    for (std::size_t lane = 0; lane < count; ++lane)
        copy[lane] = lanes.at[(index + lane) * lanes.step];
    return Batch::load_unaligned(copy);
}
void store_rest(double* out, Batch value, std::size_t count) {
    double copy[width];
    value.store_unaligned(copy);
    for (std::size_t lane = 0; lane < count; ++lane)
        out[lane] = copy[lane];
}

// Of one, two, three operands. F is a stateless functor: its work is inlined into the loop.
template <class F>
void of_one(double* out, Lanes a, Lanes /*b*/, Lanes /*c*/, std::size_t count) {
    std::size_t index = 0;
    for (; index + width <= count; index += width)
        F()(at(a, index)).store_unaligned(out + index);
    if (index < count) store_rest(out + index, F()(rest(a, index, count - index)), count - index);
}
template <class F>
void of_two(double* out, Lanes a, Lanes b, Lanes /*c*/, std::size_t count) {
    std::size_t index = 0;
    for (; index + width <= count; index += width)
        F()(at(a, index), at(b, index)).store_unaligned(out + index);
    const std::size_t left = count - index;
    if (left > 0) store_rest(out + index, F()(rest(a, index, left), rest(b, index, left)), left);
}
template <class F>
void of_three(double* out, Lanes a, Lanes b, Lanes c, std::size_t count) {
    std::size_t index = 0;
    for (; index + width <= count; index += width)
        F()(at(a, index), at(b, index), at(c, index)).store_unaligned(out + index);
    const std::size_t left = count - index;
    if (left > 0)
        store_rest(out + index, F()(rest(a, index, left), rest(b, index, left), rest(c, index, left)), left);
}

Batch number_of(Yes yes) {
    return xsimd::select(yes, Batch(1.0), Batch(0.0));
}
Yes yes_of(Batch number) {
    return number != Batch(0.0);
}

// Sum of two doubles of which the second is small against the first: about 106 bits.
struct Pair {
    Batch high, low;
};

// What rounding a*b to `product` lost. T. J. Dekker, A floating-point technique for extending the available
// precision, 1971, doi 10.1007/BF01397083, where there is no fused multiply-add.
Batch product_error(Batch a, Batch b, Batch product) {
#ifdef __FMA__
    return xsimd::fms(a, b, product);
#else
    const Batch split(134217729.0);  // 2^27 + 1: cuts 53 bits into halves
    const Batch ah = split * a - (split * a - a), al = a - ah;
    const Batch bh = split * b - (split * b - b), bl = b - bh;
    return ((ah * bh - product) + ah * bl + al * bh) + al * bl;
#endif
}

Pair times(Pair a, Pair b) {
    const Batch product = a.high * b.high;
    const Batch low = product_error(a.high, b.high, product) + (a.high * b.low + a.low * b.high);
    const Batch high = product + low;
    return {high, low - (high - product)};
}
// a + b where |a| >= |b|.
Pair plus(Pair a, Pair b) {
    const Batch sum = a.high + b.high;
    const Batch low = (b.high - (sum - a.high)) + a.low + b.low;
    const Batch high = sum + low;
    return {high, low - (high - sum)};
}

// Logarithm of positive normal x to about 2^-65 of itself. x = 2^k m with m between sqrt(1/2) and sqrt(2);
// with s = (m - 1) / (m + 1), ln m = 2 (s + s^3/3 + s^5/5 + ...), |s| < 0.172. s and s^3/3 are kept in
// pairs, the rest is small enough for doubles; 13 terms leave less than 2^-70.
Pair logarithm_pair(Batch x) {
    using Bits = xsimd::batch<std::int64_t, PLUME_ARCH>;
    const Bits bits = xsimd::bitwise_cast<Bits>(x);
    // Exponent counted so that the rest lies between sqrt(1/2) and sqrt(2).
    const Bits shifted = bits - Bits(0x3fe6a09e667f3bcdLL);
    const Bits exponent_bits = shifted & Bits(static_cast<std::int64_t>(0xfff0000000000000ULL));
    const Batch m = xsimd::bitwise_cast<Batch>(bits - exponent_bits);
    // The exponent as a double without a 64-bit conversion: shifted right by 52 it fits the mantissa of 2^52.
    const Bits biased = ((exponent_bits >> 52) & Bits(0xfffLL)) ^ Bits(0x800LL);
    const Batch k =
        xsimd::bitwise_cast<Batch>(biased | Bits(0x4330000000000000LL)) - Batch(4503599627370496.0 + 2048.0);

    const Batch f = m - Batch(1.0), d = m + Batch(1.0);
    const Batch d_low = m - (d - Batch(1.0));
    const Batch s = f / d;
    const Batch residual = (f - s * d) - product_error(s, d, s * d) - s * d_low;
    const Pair ratio{s, residual / d};
    const Pair square = times(ratio, ratio);
    const Batch z = square.high;
    Batch series(1.0 / 27);
    for (int n = 25; n >= 5; n -= 2)
        series = xsimd::fma(series, z, Batch(1.0 / n));
    // 1/3 is 0x3fd5555555555555 and a third of its last bit.
    const Pair third{Batch(1.0 / 3), Batch(1.850371707708594e-17)};
    const Pair inner = plus(third, {z * series, Batch(0.0)});
    const Pair cubic = times(times(square, ratio), inner);
    const Pair half = plus(ratio, cubic);
    const Pair fraction{half.high + half.high, half.low + half.low};
    // ln 2 in two parts, the first short enough for k times it to be exact.
    const Pair whole{k * Batch(0.6931471803691238), k * Batch(1.9082149292705877e-10)};
    const Pair tidy{whole.high + whole.low, whole.low - ((whole.high + whole.low) - whole.high)};
    const auto swap = xsimd::abs(tidy.high) < xsimd::abs(fraction.high);
    const Pair large{xsimd::select(swap, fraction.high, tidy.high),
                     xsimd::select(swap, fraction.low, tidy.low)};
    const Pair small{xsimd::select(swap, tidy.high, fraction.high),
                     xsimd::select(swap, tidy.low, fraction.low)};
    return plus(large, small);
}

Batch power_of(Batch x, Batch y) {
    const Batch zero(0.0), one(1.0), infinite(__builtin_inf()), size = xsimd::abs(x);
    const Yes tiny = size < Batch(0x1p-1000);  // subnormal numbers are scaled up to be read
    const Pair log_scaled = logarithm_pair(xsimd::select(tiny, size * Batch(0x1p100), size));
    const Pair log = plus(log_scaled, {xsimd::select(tiny, Batch(-69.31471805599453), zero),
                                       xsimd::select(tiny, Batch(1.6777560748042639e-15), zero)});
    const Pair exponent = times(log, {y, zero});
    // Beyond these exp is 0 or infinite whatever the lower part says.
    const Batch high = xsimd::clip(exponent.high, Batch(-800.0), Batch(800.0));
    const Batch low = xsimd::select(high == exponent.high, exponent.low, zero);
    Batch result = xsimd::exp(high) * (one + low);
    result = xsimd::select(high > Batch(709.782712893384), infinite, result);

    const Yes whole = xsimd::floor(y) == y;
    const Batch half = y * Batch(0.5);
    const Yes odd = whole && xsimd::floor(half) != half;
    const Yes negative = x < zero;
    result = xsimd::select(negative && odd, -result, result);
    result = xsimd::select(negative && !whole, Batch(__builtin_nan("")), result);
    const Batch at_zero = xsimd::select(y > zero, zero, infinite);
    result = xsimd::select(size == zero, at_zero, result);
    const Batch at_infinity = xsimd::select(y > zero, infinite, zero);
    result =
        xsimd::select(size == infinite, xsimd::select(negative && odd, -at_infinity, at_infinity), result);
    result = xsimd::select(size == one && !negative, one, result);
    result = xsimd::select(xsimd::isnan(x) || xsimd::isnan(y), x + y, result);
    return xsimd::select(y == zero, one, result);
}

// Share of a turn from 0 to 1.
Batch turn_share(Batch angle) {
    const Batch turns = angle * Batch(0.15915494309189535);
    return turns - xsimd::floor(turns);
}

Batch floored_modulo(Batch a, Batch b) {
    const Batch remainder = a - xsimd::floor(a / b) * b;
    // Rounding may leave the divisor itself, or a trifle on the wrong side of zero.
    const Yes full = remainder == b;
    const Yes wrong_side = remainder * b < Batch(0.0);
    return xsimd::select(full || wrong_side, Batch(0.0), remainder);
}

// Half away from zero; adding a half would carry 0.49999999999999994 over.
Batch rounded(Batch x) {
    const Batch whole = xsimd::trunc(x), left = xsimd::abs(x - whole);
    return whole + xsimd::select(left >= Batch(0.5), xsimd::copysign(Batch(1.0), x), Batch(0.0));
}

template <class F>
Batch lane_by_lane(F f, Batch a, Batch b = Batch(0.0), Batch c = Batch(0.0)) {
    double x[width], y[width], z[width];
    a.store_unaligned(x);
    b.store_unaligned(y);
    c.store_unaligned(z);
    for (std::size_t lane = 0; lane < width; ++lane)
        x[lane] = f(x[lane], y[lane], z[lane]);
    return Batch::load_unaligned(x);
}

#define PLUME_ONE(name, value)                      \
    struct name {                                   \
        Batch operator()(Batch a) { return value; } \
    };
#define PLUME_TWO(name, value)                               \
    struct name {                                            \
        Batch operator()(Batch a, Batch b) { return value; } \
    };
#define PLUME_THREE(name, value)                                      \
    struct name {                                                     \
        Batch operator()(Batch a, Batch b, Batch c) { return value; } \
    };

PLUME_ONE(Copy, a)
PLUME_ONE(Negate, -a)
PLUME_ONE(Invert, number_of(!yes_of(a)))
PLUME_ONE(Absolute, xsimd::abs(a))
PLUME_ONE(Sign, number_of(a > Batch(0.0)) - number_of(a < Batch(0.0)) + (a - a))
PLUME_ONE(Floor, xsimd::floor(a))
PLUME_ONE(Ceil, xsimd::ceil(a))
PLUME_ONE(Round, rounded(a))
PLUME_ONE(Trunc, xsimd::trunc(a))
PLUME_ONE(Fract, a - xsimd::floor(a))
PLUME_ONE(SquareRoot, xsimd::sqrt(a))
PLUME_ONE(CubeRoot, xsimd::cbrt(a))
PLUME_ONE(Exponential, xsimd::exp(a))
PLUME_ONE(Logarithm, xsimd::log(a))
PLUME_ONE(Logarithm10, xsimd::log10(a))
PLUME_ONE(Logarithm2, xsimd::log2(a))
PLUME_ONE(Sine, xsimd::sin(a))
PLUME_ONE(Cosine, xsimd::cos(a))
PLUME_ONE(Tangent, xsimd::tan(a))
PLUME_ONE(ArcSine, xsimd::asin(a))
PLUME_ONE(ArcCosine, xsimd::acos(a))
PLUME_ONE(ArcTangent, xsimd::atan(a))
PLUME_ONE(HyperbolicSine, xsimd::sinh(a))
PLUME_ONE(HyperbolicCosine, xsimd::cosh(a))
PLUME_ONE(HyperbolicTangent, xsimd::tanh(a))
PLUME_ONE(AreaHyperbolicSine, xsimd::asinh(a))
PLUME_ONE(AreaHyperbolicCosine, xsimd::acosh(a))
PLUME_ONE(AreaHyperbolicTangent, xsimd::atanh(a))
PLUME_ONE(SawWave, Batch(2.0) * turn_share(a + Batch(3.141592653589793)) - Batch(1.0))
PLUME_ONE(TriangleWave,
          Batch(1.0) - Batch(4.0) * xsimd::abs(turn_share(a + Batch(1.5707963267948966)) - Batch(0.5)))
PLUME_ONE(SquareWave, xsimd::select(turn_share(a) < Batch(0.5), Batch(1.0), Batch(-1.0)) + (a - a))
PLUME_ONE(Noise1, lane_by_lane([](double x, double, double) { return noise_of(x); }, a))
PLUME_TWO(Add, a + b)
PLUME_TWO(Subtract, a - b)
PLUME_TWO(Multiply, a* b)
PLUME_TWO(Divide, a / b)
PLUME_TWO(Power, power_of(a, b))
PLUME_TWO(Modulo, floored_modulo(a, b))
PLUME_TWO(Minimum, xsimd::min(a, b))
PLUME_TWO(Maximum, xsimd::max(a, b))
PLUME_TWO(ArcTangent2, xsimd::atan2(a, b))
PLUME_TWO(Hypotenuse, xsimd::hypot(a, b))
PLUME_TWO(Less, number_of(a < b))
PLUME_TWO(LessEqual, number_of(a <= b))
PLUME_TWO(Greater, number_of(a > b))
PLUME_TWO(GreaterEqual, number_of(a >= b))
PLUME_TWO(Equal, number_of(a == b))
PLUME_TWO(Unequal, number_of(a != b))
PLUME_TWO(Both, number_of(yes_of(a) && yes_of(b)))
PLUME_TWO(Either, number_of(yes_of(a) || yes_of(b)))
PLUME_TWO(Step, number_of(b >= a))
PLUME_TWO(Random,
          lane_by_lane([](double seed, double index, double) { return random_of(seed, index); }, a, b))
PLUME_TWO(Noise2, lane_by_lane([](double x, double y, double) { return noise_of(x, y); }, a, b))
PLUME_THREE(Select, xsimd::select(yes_of(a), b, c))
PLUME_THREE(Clamp, xsimd::min(xsimd::max(a, b), c))
PLUME_THREE(Mix, a + (b - a) * c)
PLUME_THREE(MultiplyAdd, xsimd::fma(a, b, c))
PLUME_THREE(Noise3, lane_by_lane([](double x, double y, double z) { return noise_of(x, y, z); }, a, b, c))
struct SmoothStep {
    Batch operator()(Batch low, Batch high, Batch x) {
        const Batch t = xsimd::clip((x - low) / (high - low), Batch(0.0), Batch(1.0));
        return t * t * (Batch(3.0) - Batch(2.0) * t);
    }
};
#undef PLUME_ONE
#undef PLUME_TWO
#undef PLUME_THREE

void survey_block(const double* values, std::size_t count, double& least, double& most,
                  std::size_t& not_finite) {
    Batch low(least), high(most), finite(0.0);
    std::size_t index = 0;
    for (; index + width <= count; index += width) {
        const Batch value = Batch::load_unaligned(values + index);
        const Yes good = value - value == Batch(0.0);
        low = xsimd::min(low, xsimd::select(good, value, low));
        high = xsimd::max(high, xsimd::select(good, value, high));
        finite += number_of(good);
    }
    double lows[width], highs[width], counts[width];
    low.store_unaligned(lows);
    high.store_unaligned(highs);
    finite.store_unaligned(counts);
    std::size_t good = 0;
    for (std::size_t lane = 0; lane < width; ++lane) {
        least = lows[lane] < least ? lows[lane] : least;
        most = highs[lane] > most ? highs[lane] : most;
        good += static_cast<std::size_t>(counts[lane]);
    }
    not_finite += index - good;
    for (; index < count; ++index) {
        const double value = values[index];
        if (value - value != 0) {
            ++not_finite;
            continue;
        }
        least = value < least ? value : least;
        most = value > most ? value : most;
    }
}

constexpr KernelSet kernel_set(const char* name) {
    return {name,
            {of_one<Copy>,
             of_one<Negate>,
             of_one<Invert>,
             of_one<Absolute>,
             of_one<Sign>,
             of_one<Floor>,
             of_one<Ceil>,
             of_one<Round>,
             of_one<Trunc>,
             of_one<Fract>,
             of_one<SquareRoot>,
             of_one<CubeRoot>,
             of_one<Exponential>,
             of_one<Logarithm>,
             of_one<Logarithm10>,
             of_one<Logarithm2>,
             of_one<Sine>,
             of_one<Cosine>,
             of_one<Tangent>,
             of_one<ArcSine>,
             of_one<ArcCosine>,
             of_one<ArcTangent>,
             of_one<HyperbolicSine>,
             of_one<HyperbolicCosine>,
             of_one<HyperbolicTangent>,
             of_one<AreaHyperbolicSine>,
             of_one<AreaHyperbolicCosine>,
             of_one<AreaHyperbolicTangent>,
             of_one<SawWave>,
             of_one<TriangleWave>,
             of_one<SquareWave>,
             of_one<Noise1>,
             of_two<Add>,
             of_two<Subtract>,
             of_two<Multiply>,
             of_two<Divide>,
             of_two<Power>,
             of_two<Modulo>,
             of_two<Minimum>,
             of_two<Maximum>,
             of_two<ArcTangent2>,
             of_two<Hypotenuse>,
             of_two<Less>,
             of_two<LessEqual>,
             of_two<Greater>,
             of_two<GreaterEqual>,
             of_two<Equal>,
             of_two<Unequal>,
             of_two<Both>,
             of_two<Either>,
             of_two<Step>,
             of_two<Random>,
             of_two<Noise2>,
             of_three<Select>,
             of_three<Clamp>,
             of_three<Mix>,
             of_three<SmoothStep>,
             of_three<MultiplyAdd>,
             of_three<Noise3>},
            survey_block};
}

}  // namespace
}  // namespace plume
