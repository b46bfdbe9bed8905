#pragma once
// Brings numbers linearly from one range to another. O(n).

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct Range {
    double low = 0, high = 0;
};

// Smallest and largest finite number on the points that are present; empty_input when there is none.
// Two fixed passes in a fixed order, so the same on any number of threads.
Result<Range> own_range(const PointLattice& lattice, const Column& values, const Run& run);

// from.low goes to to.low, from.high to to.high; `clamp` keeps results between them. Numbers that are not
// finite stay what they are. Errors: out_of_range when `from` has no width, cancelled.
Result<Column> brought_to_range(const Column& values, Range from, Range to, bool clamp, const Run& run);

}  // namespace plume
