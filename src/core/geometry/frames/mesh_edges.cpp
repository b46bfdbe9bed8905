#include "core/geometry/frames/mesh_edges.hpp"

#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/geometry/parts/scattered.hpp"

namespace plume {

BarFrame::Parts edges_of(const Mesh& mesh, Edges edges) {
    const MeshSides sides = sides_of(mesh);
    BarFrame::Parts parts{scattered(vertex_places(mesh), mesh.fields()), {}};
    for (std::size_t side = 0; side < sides.count(); ++side)
        if (edges == Edges::all || sides.face_count(side) == 1)
            parts.members.push_back({sides.ends[side][0], sides.ends[side][1]});
    return parts;
}

}  // namespace plume
