#include "core/geometry/numbers/random_field.hpp"

#include <algorithm>
#include <cmath>

#include "core/base/noise.hpp"
#include "core/base/parallel.hpp"

namespace plume {
namespace {

template <std::size_t N>
double polynomial(const double (&coefficients)[N], double x) {
    double sum = 0;
    for (std::size_t at = N; at-- > 0;)
        sum = sum * x + coefficients[at];
    return sum;
}

}  // namespace

double random_share(std::uint64_t seed, const Address& at) {
    return random_of(static_cast<double>(seed), address_number(at.i, at.j, at.k));
}

double inverse_normal(double share) {
    // Coefficients of PPND16 in the paper.
    static constexpr double a[]{3.3871328727963666080e0, 1.3314166789178437745e2, 1.9715909503065514427e3,
                                1.3731693765509461125e4, 4.5921953931549871457e4, 6.7265770927008700853e4,
                                3.3430575583588128105e4, 2.5090809287301226727e3};
    static constexpr double b[]{1.0,
                                4.2313330701600911252e1,
                                6.8718700749205790830e2,
                                5.3941960214247511077e3,
                                2.1213794301586595867e4,
                                3.9307895800092710610e4,
                                2.8729085735721942674e4,
                                5.2264952788528545610e3};
    static constexpr double c[]{1.42343711074968357734e0,  4.63033784615654529590e0,
                                5.76949722146069140550e0,  3.64784832476320460504e0,
                                1.27045825245236838258e0,  2.41780725177450611770e-1,
                                2.27238449892691845833e-2, 7.74545014278341407640e-4};
    static constexpr double d[]{1.0,
                                2.05319162663775882187e0,
                                1.67638483018380384940e0,
                                6.89767334985100004550e-1,
                                1.48103976427480074590e-1,
                                1.51986665636164571966e-2,
                                5.47593808499534494600e-4,
                                1.05075007164441684324e-9};
    static constexpr double e[]{6.65790464350110377720e0,  5.46378491116411436990e0,
                                1.78482653991729133580e0,  2.96560571828504891230e-1,
                                2.65321895265761230930e-2, 1.24266094738807843860e-3,
                                2.71155556874348757815e-5, 2.01033439929228813265e-7};
    static constexpr double f[]{1.0,
                                5.99832206555887937690e-1,
                                1.36929880922735805310e-1,
                                1.48753612908506148525e-2,
                                7.86869131145613259100e-4,
                                1.84631831751005468180e-5,
                                1.42151175831644588870e-7,
                                2.04426310338993978564e-15};
    const double q = share - 0.5;
    if (std::abs(q) <= 0.425) {
        const double r = 0.180625 - q * q;
        return q * polynomial(a, r) / polynomial(b, r);
    }
    const double r = std::sqrt(-std::log(q < 0 ? share : 1 - share));
    const double size = r <= 5 ? polynomial(c, r - 1.6) / polynomial(d, r - 1.6)
                               : polynomial(e, r - 5) / polynomial(f, r - 5);
    return q < 0 ? -size : size;
}

double chosen(const std::vector<WeightedChoice>& choices, double share) {
    double total = 0;
    for (const WeightedChoice& choice : choices)
        total += choice.weight;
    double rest = share * total;
    for (const WeightedChoice& choice : choices) {
        if (rest < choice.weight) return choice.value;
        rest -= choice.weight;
    }
    return choices.back().value;
}

Result<Doubles> random_shares(const PointLattice& points, std::uint64_t seed, const Run& run) {
    Doubles shares(points.address_count());
    const bool finished =
        parallel_blocks(shares.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t index = begin; index < end; ++index)
                shares[index] = random_share(seed, points.address(index));
        });
    if (!finished) return cancelled_error();
    return shares;
}

}  // namespace plume
