#pragma once
// Several meshes as one; one with its faces the other way round.

#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

// Vertices and faces one mesh after the other; fields that all of them have are kept.
Result<Mesh> joined(const std::vector<Mesh>& meshes);

Mesh turned_over(const Mesh& mesh);

}  // namespace plume
