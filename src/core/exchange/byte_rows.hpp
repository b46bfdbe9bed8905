#pragma once
// Rows of bytes on their way into a file, written side by side on several threads.

#include <algorithm>
#include <cstring>

#include "core/base/file.hpp"
#include "core/base/parallel.hpp"

namespace plume {

// Copies a number's bytes as the machine has them, and moves on behind them.
template <class Number>
void put(char*& to, Number number) {
    std::memcpy(to, &number, sizeof number);
    to += sizeof number;
}

// Row `index` is the bytes from before(index) to before(index + 1), which write(index, place) fills. False:
// cancelled.
template <class Before, class Write>
bool write_rows(std::size_t count, Before before, Write write, const ByteSink& sink, const Run& run) {
    constexpr std::size_t at_once = std::size_t{1} << 17U;
    std::string bytes;
    for (std::size_t first = 0; first < count; first += at_once) {
        const std::size_t last = std::min(first + at_once, count);
        bytes.resize(before(last) - before(first));
        const bool done = parallel_blocks(last - first, 4096, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t row = first + begin; row < first + end; ++row)
                write(row, bytes.data() + (before(row) - before(first)));
        });
        if (!done) return false;
        sink(bytes);
        run.report(static_cast<double>(last) / static_cast<double>(count));
    }
    return true;
}

}  // namespace plume
