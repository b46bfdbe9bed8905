#include "core/geometry/meshes/sides_through.hpp"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/box_tree.hpp"
#include "core/geometry/meshes/face_places.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Point = Kernel::Point_3;

constexpr std::size_t sides_a_block = 256;

Point point(Vec3 at) {
    return {at.x, at.y, at.z};
}

class Faces {
public:
    explicit Faces(const Mesh& mesh)
        : mesh_(mesh), triangles_(finite_triangles_of(mesh)), tree_(boxes_of(mesh, triangles_)) {}

    bool any_between(Vec3 from, Vec3 to) const {
        Box box;
        box.include(from);
        box.include(to);
        bool found = false;
        tree_.within(box, [&](std::uint32_t leaf) {
            found = goes_through(point(from), point(to), triangles_.vertices[tree_.order()[leaf]]);
            return !found;
        });
        return found;
    }

private:
    bool goes_through(const Point& from, const Point& to, const std::array<std::uint32_t, 3>& corners) const {
        const Point a = point(mesh_.vertex(corners[0])), b = point(mesh_.vertex(corners[1])),
                    c = point(mesh_.vertex(corners[2]));
        const CGAL::Orientation begins = CGAL::orientation(a, b, c, from);
        return begins != CGAL::COPLANAR && CGAL::orientation(a, b, c, to) == -begins &&
               CGAL::do_intersect(Kernel::Triangle_3(a, b, c), Kernel::Segment_3(from, to));
    }

    const Mesh& mesh_;
    MeshTriangles triangles_;
    BoxTree tree_;
};

}  // namespace

Result<std::vector<std::uint32_t>> sides_through(const std::vector<Vec3>& places,
                                                 const std::vector<std::array<std::uint32_t, 2>>& sides,
                                                 const Mesh& mesh, const Run& run) {
    const Faces faces(mesh);
    std::vector<std::uint8_t> goes(sides.size(), 0);
    const bool done =
        parallel_blocks(sides.size(), sides_a_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t side = begin; side < end; ++side) {
                const Vec3 from = places[sides[side][0]], to = places[sides[side][1]];
                goes[side] = is_finite(from) && is_finite(to) && faces.any_between(from, to) ? 1 : 0;
            }
        });
    if (!done) return cancelled_error();
    std::vector<std::uint32_t> through;
    for (std::uint32_t side = 0; side < goes.size(); ++side)
        if (goes[side] != 0) through.push_back(side);
    return through;
}

}  // namespace plume
