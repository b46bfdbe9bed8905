#pragma once
// Several results made side by side.

#include <optional>
#include <vector>

#include "core/base/parallel.hpp"

namespace plume {

// make(0) to make(count - 1), each a Result<T>, on several threads. The error of the first one that has one,
// or that it was cancelled.
template <class T, class Make>
Result<std::vector<T>> parallel_results(std::size_t count, const Run& run, const Make& make) {
    std::vector<std::optional<Result<T>>> made(count);
    const bool done = parallel_blocks(count, 1, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at)
            made[at].emplace(make(at));
    });
    if (!done) return cancelled_error();
    std::vector<T> all;
    for (std::optional<Result<T>>& one : made) {
        Result<T>& result = *one;
        if (!result) return result.error();
        all.push_back(*std::move(result));
    }
    return all;
}

}  // namespace plume
