#pragma once
// Some of the parts of a mesh.

#include <cstdint>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// The faces of the parts whose entry in `mask` (one a part) is not 0, with the vertices they use; at least
// one is. Fields come along. O(corners).
Mesh with_parts(const Mesh& mesh, const std::vector<std::uint8_t>& mask);
// One of them alone.
Mesh only_part(const Mesh& mesh, std::size_t part);

// The mean of a part's corners.
Vec3 part_place(const Mesh& mesh, std::size_t part);

}  // namespace plume
