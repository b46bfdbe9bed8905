#pragma once
// Keys that stand so close in the strip that they are seen as one: what was recorded.

#include <vector>

#include "core/study/edits/edit_keys.hpp"

namespace plume::app {

// [first, end) of keys in ascending order; a single key is a run of its own.
struct KeyRun {
    std::size_t first = 0, end = 0;
    std::size_t size() const { return end - first; }
};

// Discs of three that touch are a bar; recording may have left a frame out between two.
constexpr double joined_px = 10.5;
constexpr std::size_t least_joined = 3;

inline std::vector<KeyRun> runs_of(const std::vector<KeyMark>& keys, double px_per_second) {
    std::vector<KeyRun> runs;
    for (std::size_t first = 0; first < keys.size();) {
        std::size_t end = first + 1;
        while (end < keys.size() && (keys[end].seconds - keys[end - 1].seconds) * px_per_second < joined_px)
            ++end;
        if (end - first < least_joined) end = first + 1;
        runs.push_back({first, end});
        first = end;
    }
    return runs;
}

}  // namespace plume::app
