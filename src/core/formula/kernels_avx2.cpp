// Kernels for processors with AVX2 and FMA; this file alone is compiled for them.
#include <xsimd/xsimd.hpp>
#define PLUME_ARCH xsimd::fma3<xsimd::avx2>
#include "core/formula/kernels_body.hpp"

namespace plume {

const KernelSet* avx2_kernels() {
    static constexpr KernelSet set = kernel_set("AVX2 + FMA");
    static const bool supported = __builtin_cpu_supports("avx2") && __builtin_cpu_supports("fma");
    return supported ? &set : nullptr;
}

}  // namespace plume
