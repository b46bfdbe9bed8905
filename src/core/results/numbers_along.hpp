#pragma once
// Numbers of whole curves.

#include <vector>

#include "core/data/curve_set.hpp"

namespace plume {

// Those that each curve has, and that are the same all along each: one number a curve. O(poles).
std::vector<Field> numbers_along(const std::vector<SplineCurve>& curves);

}  // namespace plume
