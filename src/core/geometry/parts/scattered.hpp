#pragma once
// Points in no arrangement, with their numbers.

#include <vector>

#include "core/data/point_lattice.hpp"

namespace plume {

// One number of each field per place.
PointLattice scattered(const std::vector<Vec3>& places, const std::vector<Field>& fields = {});

}  // namespace plume
