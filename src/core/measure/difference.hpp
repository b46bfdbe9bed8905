#pragma once
// How far two results of the same kind lie apart.

#include <optional>

#include "core/base/run.hpp"
#include "core/data/value.hpp"

namespace plume {

struct Difference {
    double largest = 0, mean = 0;
    Dimension dimension = a_length;  // that of the numbers where fields are compared
    std::size_t compared = 0;        // points, numbers, vertices or samples
    std::size_t only_one = 0;        // points that one has and the other does not
};

// Points by address, numbers in hand by address, vertices by index; curves by the distance of their samples
// to the other polyline, both ways. Nothing where they cannot be set against each other (other counts, other
// kinds, no finite pair). O(points); curves O(samples^2) of at most 2000 samples each.
std::optional<Difference> difference(const Value& a, const Value& b);

}  // namespace plume
