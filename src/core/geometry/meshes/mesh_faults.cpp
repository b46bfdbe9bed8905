#include "core/geometry/meshes/mesh_faults.hpp"

#include <algorithm>

#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"

namespace plume {
namespace {

// Twice the area over the square of the longest side: the height over that side as a share of it, nearly.
bool is_sliver(const Mesh& mesh, std::size_t face, double share) {
    const auto corners = mesh.face(face);
    double longest = 0;
    for (std::size_t corner = 0; corner < corners.size(); ++corner)
        longest = std::max(longest, length(mesh.vertex(corners[(corner + 1) % corners.size()]) -
                                           mesh.vertex(corners[corner])));
    return !(2 * length(area_vector(mesh, face)) > share * longest * longest);
}

}  // namespace

Result<MeshFaults> faults_of(const Mesh& mesh, double sliver_share, const Run& run) {
    MeshFaults faults;
    const MeshSides sides = sides_of(mesh);
    for (std::size_t side = 0; side < sides.count(); ++side) {
        const MeshSide ends{sides.ends[side][0], sides.ends[side][1]};
        if (sides.face_count(side) == 1) faults.open.push_back(ends);
        if (sides.face_count(side) > 2) faults.branched.push_back(ends);
        if (sides.face_count(side) == 2 && mesh.parts().corners[sides.corners[sides.first[side]]] ==
                                               mesh.parts().corners[sides.corners[sides.first[side] + 1]])
            faults.crooked.push_back(ends);
    }
    for (std::uint32_t face = 0; face < mesh.face_count(); ++face)
        if (!has_finite_corners(mesh, face))
            ++faults.not_finite;
        else if (is_sliver(mesh, face, sliver_share))
            faults.slivers.push_back(face);
    auto crossing = crossing_faces(mesh, run);
    if (!crossing) return crossing.error();
    faults.crossing = *std::move(crossing);
    return faults;
}

}  // namespace plume
