#pragma once
// The inner loops of formula programs: one a operation, over arrays, with SIMD.
//
// Two sets are compiled from one source: for any x86-64 and for processors with AVX2 and FMA; kernels()
// picks once, at run time. Results of the two may differ in the last digits; those of one do not depend on
// how an array is split. Functions come from xsimd (BSD-3) but for pow, the waves, noise and random.

#include <cstddef>

#include "core/formula/operation.hpp"

namespace plume {

// Where an operand's lanes are: `step` 1 for an array, 0 for one number standing in every lane, which then
// has to stand `widest_batch` times at `at`.
struct Lanes {
    const double* at = nullptr;
    std::size_t step = 1;
};
inline constexpr std::size_t widest_batch = 8;

using Kernel = void (*)(double* out, Lanes a, Lanes b, Lanes c, std::size_t count);

struct KernelSet {
    const char* name;
    Kernel by_operation[operation_count];
    // Smallest and largest of finite numbers and how many are not finite, added to what is there.
    void (*survey)(const double* values, std::size_t count, double& least, double& most,
                   std::size_t& not_finite);

    Kernel of(Operation operation) const { return by_operation[static_cast<std::size_t>(operation)]; }
};

const KernelSet& kernels();
const KernelSet& baseline_kernels();
const KernelSet* avx2_kernels();  // nullptr where the processor has none

}  // namespace plume
