#pragma once
// Numbers of a value that are infinite or no numbers, counted and named.

#include <limits>
#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

// From the least to the largest finite number of all columns put in; empty where there is none.
struct FiniteRange {
    double least = std::numeric_limits<double>::infinity(), most = -least;

    bool empty() const { return least > most; }
    void include(const Column& column);
};

bool all_finite(const Column& column);

// A sentence for each column not yet seen that holds such numbers where there are points: "3 numbers of
// ‘rise’ are not finite, the first at i 2, j 0." Puts the columns among those seen. O(numbers), in parallel.
std::vector<std::string> not_finite_sentences(const Value& value, SeenColumns& seen);

}  // namespace plume
