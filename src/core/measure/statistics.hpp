#pragma once
// Figures of the numbers on a lattice's points. O(n).

#include <optional>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/point_lattice.hpp"

namespace plume {

struct Statistics {
    std::size_t count = 0;       // points present
    std::size_t not_finite = 0;  // of them, not-a-number or infinite
    std::optional<Address> first_not_finite;
    // Of the finite ones; 0 when there is none. Sum and mean to the last digits, however many there are.
    double least = 0, most = 0, sum = 0, mean = 0, median = 0;
    std::vector<std::size_t> histogram;  // equal bins from least to most; one bin when they are equal
};

Statistics statistics_of(const PointLattice& lattice, const Column& values, std::size_t bins);

}  // namespace plume
