#include "core/geometry/surfaces/bicubic_bays.hpp"

#include <array>

namespace plume {

BicubicBays::BicubicBays(const SpanPolynomials& u, const SpanPolynomials& v, const double* poles,
                         std::size_t poles_u)
    : bays_u_(u.span_count()), numbers_(numbers_a_bay * u.span_count() * v.span_count(), 0.0) {
    double* bay = numbers_.data();
    for (std::size_t span_v = 0; span_v < v.span_count(); ++span_v)
        for (std::size_t span_u = 0; span_u < u.span_count(); ++span_u, bay += numbers_a_bay) {
            const auto &powers_u = u.powers_of(span_u), &powers_v = v.powers_of(span_v);
            for (std::size_t b = 0; b < 4; ++b) {
                const double* const row =
                    poles + 4 * (u.first_of(span_u) + poles_u * (v.first_of(span_v) + b));
                for (std::size_t power = 0; power < 4; ++power) {
                    std::array<double, 4> sum{};
                    for (std::size_t a = 0; a < 4; ++a)
                        for (std::size_t lane = 0; lane < 4; ++lane)
                            sum[lane] += powers_u[power][a] * row[4 * a + lane];
                    for (std::size_t power_v = 0; power_v < 4; ++power_v)
                        for (std::size_t lane = 0; lane < 4; ++lane)
                            bay[16 * power_v + 4 * power + lane] += powers_v[power_v][b] * sum[lane];
                }
            }
        }
}

}  // namespace plume
