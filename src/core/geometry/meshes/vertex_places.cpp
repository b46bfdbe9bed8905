#include "core/geometry/meshes/vertex_places.hpp"

namespace plume {

std::vector<Vec3> vertex_places(const Mesh& mesh) {
    std::vector<Vec3> places;
    places.reserve(mesh.vertex_count());
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex)
        places.push_back(mesh.vertex(vertex));
    return places;
}

std::vector<Vec3> corner_places(const Mesh& mesh, std::size_t face) {
    std::vector<Vec3> places;
    places.reserve(mesh.face(face).size());
    for (const std::uint32_t corner : mesh.face(face))
        places.push_back(mesh.vertex(corner));
    return places;
}

void set_vertices(Mesh::Parts& parts, const std::vector<Vec3>& places) {
    Doubles x(places.size()), y(places.size()), z(places.size());
    for (std::size_t at = 0; at < places.size(); ++at) {
        x[at] = places[at].x;
        y[at] = places[at].y;
        z[at] = places[at].z;
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
}

bool have_same_faces(const Mesh& one, const Mesh& other) {
    return one.vertex_count() == other.vertex_count() && one.parts().first == other.parts().first &&
           one.parts().corners == other.parts().corners;
}

}  // namespace plume
