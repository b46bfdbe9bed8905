#pragma once
// A general library's tree over triangles (CGAL), to be measured against.

#include <vector>

#include "core/data/mesh.hpp"

namespace plume::bench {

// The sum of the distances from the places to a mesh of triangles, with the building of the tree.
double distances_by_general_tree(const Mesh& mesh, const std::vector<Vec3>& places);

}  // namespace plume::bench
