#pragma once
// Faces over the open rims of a mesh.

#include "core/data/mesh.hpp"

namespace plume {

// One polygon for each rim, turned as its neighbours are, a part for it. Error: unlike_arrangement where rims
// meet at a vertex or faces run along an edge the same way. O(corners).
Result<Mesh> capped(const Mesh& mesh);

}  // namespace plume
