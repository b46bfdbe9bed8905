#pragma once
// Fractal noise: octaves of gradient noise (base/noise.hpp), each twice as fine as the one before and
// `roughness` times as strong, divided by the sum of the strengths: between -1 and 1. Musgrave, in Ebert et
// al., Texturing and Modeling, 3rd ed. 2003, ch. 16. Compiled for any x86-64 and for AVX2, chosen at run
// time; single precision
// between the corners of a cell; the two may differ in its last digits.

#include <array>
#include <cstdint>

#include "core/base/run.hpp"
#include "core/data/column.hpp"

namespace plume {

struct NoiseRule {
    int octaves = 4;         // 1 to 12
    double roughness = 0.5;  // 0 to 1
    std::uint64_t seed = 1;
    // Cells after which the first octave repeats along each axis, so that closed directions have no seam; 0:
    // never.
    std::array<std::uint32_t, 3> period{0, 0, 0};
};

// Places are in cells of the first octave, one entry per point in each column. Error: cancelled.
Result<Doubles> fractal_noise(const Column& x, const Column& y, const Column& z, const NoiseRule& rule,
                              const Run& run);

using NoiseLoop = void (*)(const double* x, const double* y, const double* z, std::size_t count,
                           const NoiseRule& rule, double* out);
void baseline_noise(const double* x, const double* y, const double* z, std::size_t count,
                    const NoiseRule& rule, double* out);
void avx2_noise(const double* x, const double* y, const double* z, std::size_t count, const NoiseRule& rule,
                double* out);

}  // namespace plume
