#pragma once
// Numbers of points, combined and smoothed. O(n).

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

enum class FieldOperation { add, subtract, multiply, average, smallest, largest, mix };

// Entry by entry; mix is a + (b - a) share. Both have as many entries. Error: cancelled.
Result<Column> combined(const Column& a, const Column& b, FieldOperation operation, double share,
                        const Run& run);

// Each number moved towards the mean of its neighbours' (lattice_links.hpp) by `strength`, 0 to 1, all at
// once, `times` times. Gaps and numbers that are not finite do not count as neighbours. Errors: wrong_kind
// for a scatter, which has none; cancelled. O(n times).
Result<Column> smoothed(const PointLattice& lattice, const Column& values, std::size_t times, double strength,
                        const Run& run);

}  // namespace plume
