#pragma once
// The vertices of a mesh as places, and back; meshes that differ in these alone.

#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

std::vector<Vec3> vertex_places(const Mesh& mesh);
// Those of a face, around it.
std::vector<Vec3> corner_places(const Mesh& mesh, std::size_t face);
// As many as there are vertices.
void set_vertices(Mesh::Parts& parts, const std::vector<Vec3>& places);

// As many vertices, and faces with the same corners in the same order.
bool have_same_faces(const Mesh& one, const Mesh& other);

}  // namespace plume
