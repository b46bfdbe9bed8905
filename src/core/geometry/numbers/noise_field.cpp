#include <algorithm>

#include "core/base/parallel.hpp"
#include "core/geometry/numbers/noise_field_body.hpp"

namespace plume {
namespace {

// Many chunks of the loop, so that calling it costs nothing.
constexpr std::size_t chunk_size = 4096;

}  // namespace

void baseline_noise(const double* x, const double* y, const double* z, std::size_t count,
                    const NoiseRule& rule, double* out) {
    noise_loop(x, y, z, count, rule, out);
}

Result<Doubles> fractal_noise(const Column& x, const Column& y, const Column& z, const NoiseRule& rule,
                              const Run& run) {
    const NoiseLoop loop = __builtin_cpu_supports("avx2") ? avx2_noise : baseline_noise;
    Doubles values(x.size());
    const bool finished =
        parallel_blocks(values.size(), usual_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; at += chunk_size)
                loop(x.data() + at, y.data() + at, z.data() + at, std::min(chunk_size, end - at), rule,
                     values.data() + at);
        });
    if (!finished) return cancelled_error();
    return values;
}

}  // namespace plume
