// Kernels for any x86-64 processor.
#include <xsimd/xsimd.hpp>
#define PLUME_ARCH xsimd::sse2
#include "core/formula/kernels_body.hpp"

namespace plume {

const KernelSet& baseline_kernels() {
    static constexpr KernelSet set = kernel_set("SSE2");
    return set;
}

const KernelSet& kernels() {
    const KernelSet* const fast = avx2_kernels();
    return fast ? *fast : baseline_kernels();
}

}  // namespace plume
