#pragma once
// Numbers of a value that are infinite or no numbers, counted and named.

#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

bool all_finite(const Column& column);

// A sentence for each column not yet seen that holds such numbers where there are points: "3 numbers of
// ‘rise’ are not finite, the first at i 2, j 0." Puts the columns among those seen. O(numbers), in parallel.
std::vector<std::string> not_finite_sentences(const Value& value, SeenColumns& seen);

}  // namespace plume
