#include "core/base/parallel.hpp"

#include <oneapi/tbb/parallel_for.h>

#include <algorithm>
#include <atomic>

namespace plume {

bool parallel_blocks(std::size_t count, std::size_t block, const Run& run, const RangeBody& body) {
    const std::size_t blocks = (count + block - 1) / block;
    if (blocks <= 1) {
        if (run.cancelled()) return false;
        if (count > 0) body(0, count);
        return true;
    }
    std::atomic<std::size_t> done{0};
    oneapi::tbb::parallel_for(std::size_t{0}, blocks, [&](std::size_t index) {
        if (run.cancelled()) return;
        body(index * block, std::min(count, (index + 1) * block));
        const std::size_t finished = done.fetch_add(1, std::memory_order_relaxed) + 1;
        run.report(static_cast<double>(finished) / static_cast<double>(blocks));
    });
    return !run.cancelled();
}

}  // namespace plume
