#pragma once
// What goes through a mesh from one side of it to the other.

#include <array>
#include <cstdint>
#include <vector>

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

// Numbers of the sides between places that go through a face, ends on either side of it (exactly, CGAL); what
// only touches a face or lies in it does not. Sides and faces that are not finite are left out. About
// O(log n) a side. Error: cancelled.
Result<std::vector<std::uint32_t>> sides_through(const std::vector<Vec3>& places,
                                                 const std::vector<std::array<std::uint32_t, 2>>& sides,
                                                 const Mesh& mesh, const Run& run);

}  // namespace plume
