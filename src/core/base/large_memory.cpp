#include "core/base/large_memory.hpp"

#include <sys/mman.h>

#include <cstdlib>
#include <new>

namespace plume {
namespace {

constexpr std::size_t huge_page = std::size_t{2} << 20U;

}  // namespace

void* allocate_large(std::size_t bytes) {
    void* block = nullptr;
    if (posix_memalign(&block, huge_page, bytes) != 0) throw std::bad_alloc();
    madvise(block, bytes / huge_page * huge_page, MADV_HUGEPAGE);  // only advice: failing changes nothing
    return block;
}

void free_large(void* block) noexcept {
    std::free(block);
}

}  // namespace plume
