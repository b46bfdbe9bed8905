#pragma once
// Loops over ranges on all cores (oneTBB behind it). The split never changes a result: every index is
// computed on its own, and reductions are done by the caller over fixed blocks.

#include <cstddef>
#include <functional>

#include "core/base/run.hpp"

namespace plume {

using RangeBody = std::function<void(std::size_t begin, std::size_t end)>;

// Calls body for consecutive blocks covering [0, count), `block` indices each, on several threads; asks
// `run` before each block and reports progress. False when cancelled, with blocks left out.
bool parallel_blocks(std::size_t count, std::size_t block, const Run& run, const RangeBody& body);

// Big enough that handing a block to a thread costs nothing against it, small enough to cancel quickly
// and to stay in the second-level cache.
inline constexpr std::size_t usual_block = 16384;

}  // namespace plume
