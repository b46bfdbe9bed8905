#pragma once
// The least of a function with one valley (Kiefer, Sequential minimax search for a maximum, Proceedings of
// the AMS 4, 1953, doi 10.1090/S0002-9939-1953-0055639-3).

#include <numeric>

namespace plume {

// Where it is, between two parameters: to a 0.618th of their distance closer with every round.
template <class Function>
double golden_section(double low, double high, int rounds, const Function& function) {
    constexpr double golden = 0.6180339887498949;
    for (int round = 0; round < rounds; ++round) {
        const double first = high - golden * (high - low), second = low + golden * (high - low);
        if (function(first) < function(second))
            high = second;
        else
            low = first;
    }
    return std::midpoint(low, high);
}

}  // namespace plume
