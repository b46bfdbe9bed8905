// For processors with AVX2; this file alone is compiled for them.
#include "core/geometry/numbers/noise_field_body.hpp"

namespace plume {

void avx2_noise(const double* x, const double* y, const double* z, std::size_t count, const NoiseRule& rule,
                double* out) {
    noise_loop(x, y, z, count, rule, out);
}

}  // namespace plume
