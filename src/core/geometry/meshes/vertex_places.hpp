#pragma once
// The vertices of a mesh as places, and back.

#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

std::vector<Vec3> vertex_places(const Mesh& mesh);
// As many as there are vertices.
void set_vertices(Mesh::Parts& parts, const std::vector<Vec3>& places);

}  // namespace plume
