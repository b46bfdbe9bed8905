#pragma once
// A general library's own way through outlines and sheets (libnest2d: each outline on the first sheet that
// takes it), to be measured against.

#include <vector>

#include "core/geometry/meshes/packing.hpp"

namespace plume::bench {

// How many sheets it takes, outlines turned by quarters. They are convex.
std::size_t sheets_by_general_nesting(const std::vector<std::vector<FlatPoint>>& outlines,
                                      const StockSheet& sheet);

}  // namespace plume::bench
