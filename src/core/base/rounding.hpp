#pragma once
// What rounding leaves of nothing.

#include <cmath>

namespace plume {

// 0 for what is less than the last digits of the numbers it was reckoned from, whose spread is given: nobody
// wants to read 8e-17.
inline double without_rounding(double value, double spread) {
    return std::abs(value) < 1e-12 * spread ? 0 : value;
}

}  // namespace plume
