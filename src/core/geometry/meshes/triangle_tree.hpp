#pragma once
// The nearest place on the triangles of a mesh, where rays meet them, and on which side of them a point lies.
//
// Nearest places by the regions of a triangle (Ericson, Real-Time Collision Detection, 2005, 5.1.5), rays by
// Moeller & Trumbore (Fast, minimum storage ray/triangle intersection, 1997, doi
// 10.1080/10867651.1997.10487468), both over a tree of boxes; sides by normals that are weighed by angle
// where the nearest place is a corner or a side (Baerentzen & Aanaes, Signed distance computation using the
// angle weighted pseudonormal, 2005, doi 10.1109/TVCG.2005.49). O(n log n) to build, about O(log n) a
// question. Faces with a corner that is not finite are left out. May be asked by many threads at once.

#include <array>
#include <cstdint>
#include <optional>
#include <vector>

#include "core/data/mesh.hpp"
#include "core/geometry/measures/box_tree.hpp"
#include "core/geometry/meshes/on_triangle.hpp"

namespace plume {

struct PlaceOnMesh {
    double distance = Box::infinite;
    Vec3 place;
    Vec3 normal;  // of the triangle, or where normals are weighed the mean at a corner or side, not unit
    std::size_t face = 0, triangle = 0;
};
struct MeetOnMesh {
    double at = 0;  // times the direction of the ray
    std::size_t face = 0;
};

// Those that tell inside from outside at corners and sides take as long as the tree itself.
enum class TriangleNormals { plain, weighed };

class TriangleTree {
public:
    explicit TriangleTree(const Mesh& mesh, TriangleNormals normals = TriangleNormals::plain);

    bool empty() const { return triangles_.empty(); }
    std::size_t triangle_count() const { return triangles_.size(); }

    // Nothing is infinitely far away. `guess`: a triangle to begin with, as an answer named it; that of a
    // point nearby makes it quick.
    PlaceOnMesh nearest(Vec3 point, std::size_t guess = 0) const;
    // The first face that a ray meets beyond so many times its direction, which need not be unit.
    std::optional<MeetOnMesh> first_along(Vec3 from, Vec3 direction, double beyond) const;

private:
    // In the order of the leaves.
    struct Triangle {
        Vec3 a, to_b, to_c;
        std::uint32_t face = 0;
    };
    using Corners = std::array<std::uint32_t, 3>;
    double square_to(std::size_t triangle, Vec3 point) const;
    Vec3 normal_of(std::size_t triangle, int region) const;
    void weigh_normals(std::size_t vertex_count);

    std::vector<Triangle> triangles_;
    std::vector<Corners> corners_;                   // vertices of the mesh
    std::vector<Vec3> vertex_normals_;               // weighed by angle
    std::vector<std::array<Vec3, 3>> side_normals_;  // ab, bc, ca
    BoxTree tree_;
};

}  // namespace plume
