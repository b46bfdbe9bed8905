#include "core/geometry/meshes/mesh_volume.hpp"

#include "core/base/sum.hpp"
#include "core/geometry/solids/bodies.hpp"

namespace plume {

double volume_of(const Mesh& mesh) {
    const Vec3 middle = mesh.bounds().centre();
    Sum sum;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        const Vec3 origin = mesh.vertex(corners[0]) - middle;
        for (std::size_t corner = 1; corner + 1 < corners.size(); ++corner)
            sum.add(dot(origin, cross(mesh.vertex(corners[corner]) - middle,
                                      mesh.vertex(corners[corner + 1]) - middle)) /
                    6);
    }
    return sum.value();
}

bool is_closed(const Mesh& mesh) {
    return mesh.face_count() > 0 && open_edges(mesh).empty();
}

}  // namespace plume
