#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>

#include <algorithm>
#include <array>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/box_tree.hpp"
#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/mesh_faults.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Point = Kernel::Point_3;
using Corners = std::array<std::uint32_t, 3>;

// Of a triangle without area nothing can be said.
MeshTriangles triangles_with_area(const Mesh& mesh) {
    const MeshTriangles all = finite_triangles_of(mesh);
    MeshTriangles kept;
    for (std::size_t at = 0; at < all.faces.size(); ++at) {
        const auto& [a, b, c] = all.vertices[at];
        if (cross(mesh.vertex(b) - mesh.vertex(a), mesh.vertex(c) - mesh.vertex(a)) == Vec3{}) continue;
        kept.vertices.push_back(all.vertices[at]);
        kept.faces.push_back(all.faces[at]);
    }
    return kept;
}

class CrossingTest {
public:
    explicit CrossingTest(const Mesh& mesh) : mesh_(mesh) {}

    // Beyond the corners and sides they share.
    bool cross_each_other(const Corners& one, const Corners& other) const {
        std::vector<std::uint32_t> shared;
        for (const std::uint32_t corner : one)
            if (std::ranges::find(other, corner) != other.end()) shared.push_back(corner);
        if (shared.size() == 3) return true;
        if (shared.size() == 2) return folded(one, other, shared[0], shared[1]);
        const Kernel::Triangle_3 a = triangle(one), b = triangle(other);
        if (shared.empty()) return CGAL::do_intersect(a, b);
        return CGAL::do_intersect(a, opposite(other, shared[0])) ||
               CGAL::do_intersect(b, opposite(one, shared[0]));
    }

private:
    Point at(std::uint32_t vertex) const {
        const Vec3 place = mesh_.vertex(vertex);
        return {place.x, place.y, place.z};
    }
    Kernel::Triangle_3 triangle(const Corners& corners) const {
        return {at(corners[0]), at(corners[1]), at(corners[2])};
    }
    Kernel::Segment_3 opposite(const Corners& corners, std::uint32_t shared) const {
        const auto found = static_cast<std::size_t>(std::ranges::find(corners, shared) - corners.begin());
        return {at(corners[(found + 1) % 3]), at(corners[(found + 2) % 3])};
    }
    static std::uint32_t third(const Corners& corners, std::uint32_t a, std::uint32_t b) {
        return *std::ranges::find_if(corners,
                                     [&](std::uint32_t corner) { return corner != a && corner != b; });
    }
    // Flat onto each other, on the same side of what they share.
    bool folded(const Corners& one, const Corners& other, std::uint32_t a, std::uint32_t b) const {
        const Point from = at(a), to = at(b), first = at(third(one, a, b)), second = at(third(other, a, b));
        return CGAL::coplanar(from, to, first, second) &&
               CGAL::coplanar_orientation(from, to, first, second) == CGAL::POSITIVE;
    }

    const Mesh& mesh_;
};

}  // namespace

Result<std::vector<std::uint32_t>> crossing_faces(const Mesh& mesh, const Run& run) {
    const MeshTriangles all = triangles_with_area(mesh);
    const std::vector<Box> boxes = boxes_of(mesh, all);
    const BoxTree tree(boxes);
    const CrossingTest test(mesh);
    std::vector<std::uint8_t> crossed(all.vertices.size(), 0);
    const bool done = parallel_blocks(all.vertices.size(), 256, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t one = begin; one < end; ++one)
            tree.within(boxes[one], [&](std::uint32_t place) {
                const std::uint32_t other = tree.order()[place];
                // Triangles of one face that is not flat may touch.
                if (other == one || all.faces[other] == all.faces[one] ||
                    !test.cross_each_other(all.vertices[one], all.vertices[other]))
                    return true;
                crossed[one] = 1;
                return false;
            });
    });
    if (!done) return cancelled_error();
    std::vector<std::uint32_t> faces;
    for (std::size_t one = 0; one < crossed.size(); ++one)
        if (crossed[one] != 0 && (faces.empty() || faces.back() != all.faces[one]))
            faces.push_back(all.faces[one]);
    return faces;
}

}  // namespace plume
