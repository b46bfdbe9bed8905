// The kernels against the C library in long double, lane by lane, for both instruction sets.
#include "core/formula/kernels.hpp"

#include <gtest/gtest.h>

#include <cmath>
#include <functional>
#include <random>
#include <vector>

namespace plume {
namespace {

// Distance in units of the last place of what is wanted.
double ulps(double got, long double wanted) {
    if (std::isnan(wanted)) return std::isnan(got) ? 0 : INFINITY;
    if (std::isinf(static_cast<double>(wanted)) || std::isinf(got))
        return got == static_cast<double>(wanted) ? 0 : INFINITY;
    int exponent = 0;
    std::frexp(static_cast<double>(wanted), &exponent);
    const double unit = std::ldexp(1.0, std::max(exponent - 53, -1074));
    return static_cast<double>(std::abs(static_cast<long double>(got) - wanted)) / unit;
}

enum class Spread { even, by_magnitude };

std::vector<double> samples(double low, double high, Spread spread, unsigned seed) {
    std::mt19937_64 random(seed);
    std::uniform_real_distribution<double> even(low, high), power(std::log(low), std::log(high));
    std::vector<double> values(20'000);
    for (double& value : values)
        value = spread == Spread::even ? even(random) : std::exp(power(random));
    return values;
}

std::vector<const KernelSet*> sets() {
    std::vector<const KernelSet*> all{&baseline_kernels()};
    if (const KernelSet* fast = avx2_kernels()) all.push_back(fast);
    return all;
}

using LongFunction = std::function<long double(long double)>;
struct Case {
    const char* name;
    Operation operation;
    LongFunction exact;
    double low, high;
    Spread spread = Spread::even;
};

TEST(Kernels, FunctionsAreWithinFourUlpsOfTheLibrary) {
    using L = long double;
    const std::vector<Case> cases{
        {"sin", Operation::sine, [](L x) { return std::sin(x); }, -10, 10},
        {"sin far", Operation::sine, [](L x) { return std::sin(x); }, -1e5, 1e5},
        {"cos", Operation::cosine, [](L x) { return std::cos(x); }, -10, 10},
        {"cos far", Operation::cosine, [](L x) { return std::cos(x); }, -1e5, 1e5},
        {"tan", Operation::tangent, [](L x) { return std::tan(x); }, -10, 10},
        {"asin", Operation::arc_sine, [](L x) { return std::asin(x); }, -1, 1},
        {"acos", Operation::arc_cosine, [](L x) { return std::acos(x); }, -1, 1},
        {"atan", Operation::arc_tangent, [](L x) { return std::atan(x); }, -100, 100},
        {"sinh", Operation::hyperbolic_sine, [](L x) { return std::sinh(x); }, -20, 20},
        {"cosh", Operation::hyperbolic_cosine, [](L x) { return std::cosh(x); }, -20, 20},
        {"tanh", Operation::hyperbolic_tangent, [](L x) { return std::tanh(x); }, -20, 20},
        {"asinh", Operation::area_hyperbolic_sine, [](L x) { return std::asinh(x); }, -100, 100},
        {"acosh", Operation::area_hyperbolic_cosine, [](L x) { return std::acosh(x); }, 1.0001, 1e3,
         Spread::by_magnitude},
        {"atanh", Operation::area_hyperbolic_tangent, [](L x) { return std::atanh(x); }, -0.999, 0.999},
        {"exp", Operation::exponential, [](L x) { return std::exp(x); }, -700, 700},
        {"ln", Operation::logarithm, [](L x) { return std::log(x); }, 1e-300, 1e300, Spread::by_magnitude},
        {"ln near 1", Operation::logarithm, [](L x) { return std::log(x); }, 0.5, 2},
        {"log10", Operation::logarithm_10, [](L x) { return std::log10(x); }, 1e-300, 1e300,
         Spread::by_magnitude},
        {"log2", Operation::logarithm_2, [](L x) { return std::log2(x); }, 1e-300, 1e300,
         Spread::by_magnitude},
        {"sqrt", Operation::square_root, [](L x) { return std::sqrt(x); }, 1e-300, 1e300,
         Spread::by_magnitude},
        {"cbrt", Operation::cube_root, [](L x) { return std::cbrt(x); }, 1e-300, 1e300, Spread::by_magnitude},
        {"cbrt below", Operation::cube_root, [](L x) { return std::cbrt(x); }, -10, 0},
        {"floor", Operation::floor, [](L x) { return std::floor(x); }, -10, 10},
        {"ceil", Operation::ceil, [](L x) { return std::ceil(x); }, -10, 10},
        {"round", Operation::round, [](L x) { return std::round(x); }, -10, 10},
        {"trunc", Operation::trunc, [](L x) { return std::trunc(x); }, -10, 10}};
    for (const KernelSet* set : sets())
        for (const Case& c : cases) {
            const auto x = samples(c.low, c.high, c.spread, 7);
            std::vector<double> y(x.size());
            set->of(c.operation)(y.data(), {x.data(), 1}, {}, {}, x.size());
            double worst = 0;
            for (std::size_t at = 0; at < x.size(); ++at)
                worst = std::max(worst, ulps(y[at], c.exact(static_cast<L>(x[at]))));
            EXPECT_LE(worst, 4) << set->name << ' ' << c.name;
        }
}

struct PairCase {
    const char* name;
    Operation operation;
    std::function<long double(long double, long double)> exact;
    double low, high, low2, high2;
    Spread spread = Spread::even;
};

TEST(Kernels, FunctionsOfTwoAreWithinFourUlps) {
    using L = long double;
    const auto power = [](L x, L y) { return std::pow(x, y); };
    const std::vector<PairCase> cases{
        {"pow", Operation::power, power, 1e-3, 1e3, -20, 20, Spread::by_magnitude},
        {"pow far", Operation::power, power, 1e-150, 1e150, -2, 2, Spread::by_magnitude},
        {"pow near 1", Operation::power, power, 0.999, 1.001, -5e4, 5e4},
        {"atan2", Operation::arc_tangent_2, [](L y, L x) { return std::atan2(y, x); }, -5, 5, -5, 5},
        {"hypot", Operation::hypotenuse, [](L a, L b) { return std::hypot(a, b); }, -5, 5, -5, 5}};
    for (const KernelSet* set : sets())
        for (const PairCase& c : cases) {
            const auto a = samples(c.low, c.high, c.spread, 11),
                       b = samples(c.low2, c.high2, Spread::even, 13);
            std::vector<double> y(a.size());
            set->of(c.operation)(y.data(), {a.data(), 1}, {b.data(), 1}, {}, a.size());
            double worst = 0;
            for (std::size_t at = 0; at < a.size(); ++at)
                worst = std::max(worst, ulps(y[at], c.exact(a[at], b[at])));
            EXPECT_LE(worst, 4) << set->name << ' ' << c.name;
        }
}

double one(const KernelSet& set, Operation operation, double a, double b = 0, double c = 0) {
    double out = 0;
    set.of(operation)(&out, {&a, 1}, {&b, 1}, {&c, 1}, 1);
    return out;
}

TEST(Kernels, PowersAtTheEdges) {
    const double inf = INFINITY;
    const double bases[] = {0.0, 1.0, -1.0, 2.0, -2.0, 0.5, -0.5, inf, -inf, 1e-310, NAN};
    const double exponents[] = {0.0, 1.0, -1.0, 3.0, -3.0, 0.5, -0.5, 2.0, 1e3, -1e3, NAN};
    for (const KernelSet* set : sets())
        for (const double base : bases)
            for (const double exponent : exponents) {
                if (std::isnan(base) || std::isnan(exponent)) continue;
                if (std::fpclassify(std::pow(base, exponent)) == FP_SUBNORMAL) continue;
                const double wanted = std::pow(base, exponent),
                             got = one(*set, Operation::power, base, exponent);
                EXPECT_LE(ulps(std::abs(got), std::abs(wanted)), 4)
                    << set->name << ' ' << base << '^' << exponent;
                if (wanted != 0 && !std::isnan(wanted)) {
                    EXPECT_EQ(std::signbit(got), std::signbit(wanted)) << base << '^' << exponent;
                }
            }
    EXPECT_TRUE(std::isnan(one(kernels(), Operation::power, NAN, 2)));
    EXPECT_EQ(one(kernels(), Operation::power, NAN, 0), 1);
}

TEST(Kernels, ValuesOneByOne) {
    const double turn = 2 * M_PI;
    const struct {
        Operation operation;
        double a, b, c, wanted;
    } cases[] = {{Operation::modulo, 7, 3, 0, 1},
                 {Operation::modulo, -1, 3, 0, 2},
                 {Operation::modulo, 1, -3, 0, -2},
                 {Operation::modulo, 6, 3, 0, 0},
                 {Operation::modulo, -1e-20, 3, 0, 0},
                 {Operation::fract, -0.25, 0, 0, 0.75},
                 {Operation::sign, -3, 0, 0, -1},
                 {Operation::sign, 0, 0, 0, 0},
                 {Operation::round, 2.5, 0, 0, 3},
                 {Operation::round, -2.5, 0, 0, -3},
                 {Operation::round, 0.49999999999999994, 0, 0, 0},
                 {Operation::saw_wave, 0, 0, 0, 0},
                 {Operation::saw_wave, turn / 4, 0, 0, 0.5},
                 {Operation::saw_wave, turn * 0.75, 0, 0, -0.5},
                 {Operation::triangle_wave, 0, 0, 0, 0},
                 {Operation::triangle_wave, turn / 4, 0, 0, 1},
                 {Operation::triangle_wave, turn * 0.75, 0, 0, -1},
                 {Operation::square_wave, 0.1, 0, 0, 1},
                 {Operation::square_wave, turn * 0.6, 0, 0, -1},
                 {Operation::clamp, 5, 0, 1, 1},
                 {Operation::mix, 2, 6, 0.25, 3},
                 {Operation::step, 1, 1, 0, 1},
                 {Operation::step, 1, 0.9, 0, 0},
                 {Operation::smooth_step, 0, 2, 1, 0.5},
                 {Operation::smooth_step, 0, 2, 3, 1},
                 {Operation::select, 1, 4, 5, 4},
                 {Operation::select, 0, 4, 5, 5},
                 {Operation::both, 1, 0, 0, 0},
                 {Operation::either, 1, 0, 0, 1},
                 {Operation::invert, 3, 0, 0, 0},
                 {Operation::multiply_add, 2, 3, 4, 10},
                 {Operation::noise_1, 5, 0, 0, 0},
                 {Operation::noise_2, -2, 7, 0, 0},
                 {Operation::noise_3, 1, 2, 3, 0}};
    for (const KernelSet* set : sets())
        for (const auto& c : cases)
            EXPECT_NEAR(one(*set, c.operation, c.a, c.b, c.c), c.wanted, 1e-15)
                << set->name << " operation " << static_cast<int>(c.operation) << " of " << c.a;
}

// Whatever the count and the steps, every lane is that of one call, and nothing beyond is written.
TEST(Kernels, TailsAndSingleNumbers) {
    const std::vector<double> a = samples(0.1, 3, Spread::even, 3), b = samples(0.1, 3, Spread::even, 4);
    const std::vector<double> single(widest_batch, 1.7);
    for (const KernelSet* set : sets())
        for (std::size_t operation = 0; operation < operation_count; ++operation)
            for (const std::size_t count : {0U, 1U, 3U, 8U, 13U}) {
                std::vector<double> out(count + 8, -99);
                set->by_operation[operation](out.data(), {a.data(), 1}, {single.data(), 0}, {b.data(), 1},
                                             count);
                for (std::size_t lane = 0; lane < count; ++lane) {
                    const double wanted = one(*set, static_cast<Operation>(operation), a[lane], 1.7, b[lane]);
                    EXPECT_TRUE(out[lane] == wanted || (std::isnan(out[lane]) && std::isnan(wanted)))
                        << operation << ": " << out[lane] << " for " << wanted;
                }
                for (std::size_t beyond = count; beyond < out.size(); ++beyond)
                    EXPECT_EQ(out[beyond], -99);
            }
}

TEST(Kernels, NotANumberStaysSo) {
    for (const KernelSet* set : sets())
        for (const Operation operation :
             {Operation::sine, Operation::exponential, Operation::floor, Operation::sign, Operation::noise_1,
              Operation::noise_3, Operation::saw_wave, Operation::square_wave, Operation::power,
              Operation::add, Operation::modulo})
            EXPECT_TRUE(std::isnan(one(*set, operation, NAN, 2, 3))) << static_cast<int>(operation);
}

TEST(Kernels, RandomIsEvenAndRepeats) {
    constexpr std::size_t count = 100'000;
    std::vector<double> index(count), value(count);
    for (std::size_t at = 0; at < count; ++at)
        index[at] = static_cast<double>(at);
    const std::vector<double> seed(widest_batch, 4);
    for (const KernelSet* set : sets()) {
        set->of(Operation::random)(value.data(), {seed.data(), 0}, {index.data(), 1}, {}, count);
        std::vector<int> bins(10, 0);
        double mean = 0, neighbours = 0;
        for (std::size_t at = 0; at < count; ++at) {
            ASSERT_GE(value[at], 0);
            ASSERT_LT(value[at], 1);
            ++bins[static_cast<std::size_t>(value[at] * 10)];
            mean += value[at] / count;
            if (at > 0) neighbours += (value[at] - 0.5) * (value[at - 1] - 0.5) * 12 / count;
        }
        // Five standard deviations of each.
        EXPECT_NEAR(mean, 0.5, 5 * 0.2887 / std::sqrt(count));
        EXPECT_NEAR(neighbours, 0, 5 / std::sqrt(count));
        for (const int bin : bins)
            EXPECT_NEAR(bin, count / 10, 5 * std::sqrt(count * 0.09));
    }
    EXPECT_NE(one(kernels(), Operation::random, 1, 0), one(kernels(), Operation::random, 2, 0));
}

TEST(Kernels, NoiseIsBoundedSmoothAndDiffers) {
    double least = 1, most = -1, steepest = 0, last = 0;
    for (int at = 0; at < 200'000; ++at) {
        const double x = at * 0.01, value = one(kernels(), Operation::noise_3, x, x * 0.37, 5.5);
        least = std::min(least, value);
        most = std::max(most, value);
        if (at > 0) steepest = std::max(steepest, std::abs(value - last));
        last = value;
    }
    EXPECT_GE(least, -1);
    EXPECT_LE(most, 1);
    EXPECT_LT(least, -0.3);
    EXPECT_GT(most, 0.3);
    EXPECT_LT(steepest, 0.05) << "a jump between neighbours a hundredth of a cell apart";
    EXPECT_NE(one(kernels(), Operation::noise_2, 0.5, 0.5), one(kernels(), Operation::noise_2, 1.5, 0.5));
}

TEST(Kernels, SurveyCountsWhatIsNotFinite) {
    const double values[] = {3, NAN, -2, INFINITY, 7};
    for (const KernelSet* set : sets()) {
        double least = INFINITY, most = -INFINITY;
        std::size_t not_finite = 0;
        set->survey(values, 5, least, most, not_finite);
        EXPECT_EQ(least, -2);
        EXPECT_EQ(most, 7);
        EXPECT_EQ(not_finite, 2U);
    }
}

}  // namespace
}  // namespace plume
