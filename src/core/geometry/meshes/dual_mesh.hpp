#pragma once
// The dual of a mesh: a face for every vertex, between the middles of the faces around it. Triangles become
// hexagons, mostly.

#include "core/base/run.hpp"
#include "core/data/mesh.hpp"

namespace plume {

struct DualMesh {
    Mesh mesh;
    std::size_t left_out = 0;  // vertices that no ring of faces goes round once
};
// With rims a vertex of the rim gets the face between the middles of its faces and sides and itself; without
// it gets none. Numbers of faces become those of vertices and the other way round, but for those on rims.
DualMesh dual_of(const Mesh& mesh, bool with_rims);

}  // namespace plume
