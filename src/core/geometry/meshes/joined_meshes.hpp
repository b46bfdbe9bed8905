#pragma once
// Several meshes as one.

#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// Vertices and faces one mesh after the other; fields that all of them have are kept.
Result<Mesh> joined(const std::vector<Mesh>& meshes);

}  // namespace plume
