#pragma once
// Memory of large columns. Handing out a page of 4 KB costs about as much as computing the numbers that go
// into it; large blocks are therefore aligned to and advised for huge pages where the system has them.

#include <cstddef>

namespace plume {

// From this size on a block is worth huge pages; below, allocate as usual.
inline constexpr std::size_t large_block = std::size_t{4} << 20U;

// At least `bytes`, uninitialised; throws std::bad_alloc. To be freed with free_large().
void* allocate_large(std::size_t bytes);
void free_large(void* block) noexcept;

}  // namespace plume
