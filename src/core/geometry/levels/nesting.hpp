#pragma once
// Which closed line lies in which, seen along an axis.
//
// By what is around a place of each of them (line_strips.hpp): O(edges + lines x edges in a strip).

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/curve_set.hpp"
#include "core/data/placements.hpp"

namespace plume {

struct Nesting {
    std::optional<std::size_t> within;  // the smallest closed line around it, its number
    std::size_t depth = 0;              // how many closed lines of its own level are around it
};

// One a curve. `levels` has a number for each; seen against the up axis of `view`. Curves that cross each
// other, so seen, are told by where they begin. Error: cancelled.
Result<std::vector<Nesting>> nesting_of(std::span<const SplineCurve> curves,
                                        std::span<const std::size_t> levels, const Placement& view,
                                        const Run& run);

}  // namespace plume
