#pragma once
// Which edges of a mesh are seen as edges, and normals that are smooth between them.

#include <cstdint>
#include <vector>

#include "core/data/mesh.hpp"

namespace plume {

struct Creases {
    std::vector<Vec3> normals;  // one a corner, in the order of the mesh's corners
    std::vector<std::uint8_t>
        is_edge;  // 1 where the side from a corner to the next one of its face is an edge
};

// An edge is where faces turn by more than the angle, or where there is only one. O(corners), of few faces
// around a vertex.
Creases creases_of(const Mesh& mesh, double angle_rad);

}  // namespace plume
