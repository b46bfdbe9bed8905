#include "core/geometry/meshes/mesh_volume.hpp"

#include "core/base/sum.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"

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
    const MeshSides sides = sides_of(mesh);
    for (std::size_t side = 0; side < sides.count(); ++side) {
        if (sides.face_count(side) != 2) return false;
        // Run along from the lower vertex once, and once back.
        int forwards = 0;
        for (std::uint32_t at = sides.first[side]; at < sides.first[side + 1]; ++at)
            forwards += mesh.parts().corners[sides.corners[at]] == sides.ends[side][0] ? 1 : -1;
        if (forwards != 0) return false;
    }
    return mesh.face_count() > 0;
}

}  // namespace plume
