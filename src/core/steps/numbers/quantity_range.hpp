#pragma once
// Two quantities that begin and end something.

#include <string>

#include "core/base/error.hpp"
#include "core/base/units.hpp"

namespace plume {

struct QuantityRange {
    double from = 0, to = 0;  // in study units and radians
    Dimension dimension;
};

// A plain 0 is 0 of whatever the other is. Error (unit_mismatch, at `where`) when they measure two things.
Result<QuantityRange> range_between(Quantity from, Quantity to, const std::string& where, const Units& units);

}  // namespace plume
