#include "core/base/parallel.hpp"

#ifdef PLUME_PLAIN_THREADS
#include <thread>
#include <vector>
#else
#include <oneapi/tbb/parallel_for.h>
#endif

#include <algorithm>
#include <atomic>

namespace plume {
namespace {

using IndexBody = std::function<void(std::size_t index)>;

#ifdef PLUME_PLAIN_THREADS  // for the thread sanitizer, which does not see how oneTBB hands work over
void for_each_index(std::size_t count, const IndexBody& body) {
    std::atomic<std::size_t> next{0};
    std::vector<std::jthread> threads;
    for (int thread = 0; thread < 4; ++thread)
        threads.emplace_back([&] {
            for (std::size_t index = next++; index < count; index = next++)
                body(index);
        });
}
#else
void for_each_index(std::size_t count, const IndexBody& body) {
    oneapi::tbb::parallel_for(std::size_t{0}, count, body);
}
#endif

}  // namespace

bool parallel_blocks(std::size_t count, std::size_t block, const Run& run, const RangeBody& body) {
    const std::size_t blocks = (count + block - 1) / block;
    if (blocks <= 1) {
        if (run.cancelled()) return false;
        if (count > 0) body(0, count);
        return true;
    }
    std::atomic<std::size_t> done{0};
    for_each_index(blocks, [&](std::size_t index) {
        if (run.cancelled()) return;
        body(index * block, std::min(count, (index + 1) * block));
        const std::size_t finished = done.fetch_add(1, std::memory_order_relaxed) + 1;
        run.report(static_cast<double>(finished) / static_cast<double>(blocks));
    });
    return !run.cancelled();
}

}  // namespace plume
