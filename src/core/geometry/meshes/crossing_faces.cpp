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
using Triangle = Kernel::Triangle_3;
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
        const Triangle a = triangle(one), b = triangle(other);
        if (shared.empty()) return CGAL::do_intersect(a, b);
        return CGAL::do_intersect(a, opposite(other, shared[0])) ||
               CGAL::do_intersect(b, opposite(one, shared[0]));
    }

    // Of two that do.
    FaceCrossing where(const Corners& one, const Corners& other) const {
        FaceCrossing crossing;
        const auto meet = CGAL::intersection(triangle(one), triangle(other));
        if (!meet) return crossing;
        if (const auto* segment = boost::get<Kernel::Segment_3>(&*meet))
            crossing.line = {place(segment->source()), place(segment->target())};
        if (const auto* covered = boost::get<Triangle>(&*meet))
            crossing.line = {place(covered->vertex(0)), place(covered->vertex(1)), place(covered->vertex(2))};
        if (const auto* covered = boost::get<std::vector<Point>>(&*meet))
            for (const Point& corner : *covered)
                crossing.line.push_back(place(corner));
        crossing.closed = crossing.line.size() > 2;
        return crossing;
    }

private:
    static Vec3 place(const Point& point) { return {point.x(), point.y(), point.z()}; }
    Point at(std::uint32_t vertex) const {
        const Vec3 place = mesh_.vertex(vertex);
        return {place.x, place.y, place.z};
    }
    Triangle triangle(const Corners& corners) const {
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

// Pairs are found from both sides.
class TrianglesThatCross {
public:
    explicit TrianglesThatCross(const Mesh& mesh)
        : triangles_(triangles_with_area(mesh)),
          boxes_(boxes_of(mesh, triangles_)),
          tree_(boxes_),
          test_(mesh) {}

    std::size_t count() const { return triangles_.vertices.size(); }
    std::uint32_t face(std::size_t triangle) const { return triangles_.faces[triangle]; }
    FaceCrossing where(std::uint32_t one, std::uint32_t other) const {
        FaceCrossing crossing = test_.where(triangles_.vertices[one], triangles_.vertices[other]);
        crossing.face = std::min(face(one), face(other));
        crossing.other = std::max(face(one), face(other));
        return crossing;
    }
    // Of each triangle all that cross it, until `take` has enough of it. False: cancelled.
    template <class Take>
    bool each(const Run& run, const Take& take) const {
        return parallel_blocks(count(), 256, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t one = begin; one < end; ++one)
                tree_.within(boxes_[one], [&](std::uint32_t place) {
                    const std::uint32_t other = tree_.order()[place];
                    // Triangles of one face that is not flat may touch.
                    if (other == one || face(other) == face(one) ||
                        !test_.cross_each_other(triangles_.vertices[one], triangles_.vertices[other]))
                        return true;
                    return take(static_cast<std::uint32_t>(one), other);
                });
        });
    }

private:
    MeshTriangles triangles_;
    std::vector<Box> boxes_;
    BoxTree tree_;
    CrossingTest test_;
};

}  // namespace

Result<std::vector<std::uint32_t>> crossing_faces(const Mesh& mesh, const Run& run) {
    const TrianglesThatCross triangles(mesh);
    std::vector<std::uint8_t> crossed(triangles.count(), 0);
    const bool done = triangles.each(run, [&](std::uint32_t one, std::uint32_t) {
        crossed[one] = 1;
        return false;
    });
    if (!done) return cancelled_error();
    std::vector<std::uint32_t> faces;
    for (std::size_t one = 0; one < crossed.size(); ++one)
        if (crossed[one] != 0 && (faces.empty() || faces.back() != triangles.face(one)))
            faces.push_back(triangles.face(one));
    return faces;
}

Result<FaceCrossings> crossings_of(const Mesh& mesh, std::size_t most, const Run& run) {
    const TrianglesThatCross triangles(mesh);
    std::vector<std::vector<std::uint32_t>> others(triangles.count());
    const bool done = triangles.each(run, [&](std::uint32_t one, std::uint32_t other) {
        if (one < other) others[one].push_back(other);
        // Of whoever crosses more than all together may, no more is kept.
        return others[one].size() <= most;
    });
    if (!done) return cancelled_error();
    FaceCrossings crossings;
    for (std::uint32_t one = 0; one < others.size() && !crossings.more; ++one) {
        std::ranges::sort(others[one]);
        for (const std::uint32_t other : others[one]) {
            crossings.more = crossings.all.size() == most;
            if (crossings.more) break;
            crossings.all.push_back(triangles.where(one, other));
        }
    }
    std::ranges::stable_sort(crossings.all, {}, [](const FaceCrossing& crossing) {
        return std::pair(crossing.face, crossing.other);
    });
    return crossings;
}

}  // namespace plume
