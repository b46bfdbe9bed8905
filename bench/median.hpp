#pragma once
// What is in the middle of measured times, of which some are long for reasons of the machine.

#include <algorithm>
#include <vector>

namespace bench {

// At least one.
inline double median(std::vector<double> values) {
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::ranges::nth_element(values, middle);
    return *middle;
}

}  // namespace bench
