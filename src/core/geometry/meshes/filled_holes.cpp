#include "core/geometry/meshes/filled_holes.hpp"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/triangulate_hole.h>

#include <limits>

#include "core/base/guarded.hpp"
#include "core/geometry/meshes/mesh_borders.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;

// Numbers of corners, three a triangle.
struct Triple {
    int a, b, c;
    Triple(int first, int second, int third) : a(first), b(second), c(third) {}
};

std::vector<Triple> triangles_between(const std::vector<Vec3>& corners) {
    std::vector<Kernel::Point_3> places;
    places.reserve(corners.size());
    for (const Vec3 corner : corners)
        places.emplace_back(corner.x, corner.y, corner.z);
    std::vector<Triple> triangles;
    CGAL::Polygon_mesh_processing::triangulate_hole_polyline(places, std::back_inserter(triangles));
    return triangles;
}

double length_around(const std::vector<Vec3>& corners) {
    double sum = 0;
    for (std::size_t at = 0; at < corners.size(); ++at)
        sum += length(corners[(at + 1) % corners.size()] - corners[at]);
    return sum;
}

}  // namespace

Result<FilledHoles> filled_holes(const Mesh& mesh, double longest_around, const Run& run) {
    FilledHoles made{mesh, 0, 0};
    Mesh::Parts parts = mesh.parts();
    for (const std::vector<std::uint32_t>& way : border_ways(mesh)) {
        if (run.cancelled()) return cancelled_error();
        // Faces that fill a hole run the other way along its rim.
        std::vector<std::uint32_t> around(way.rbegin(), way.rend() - 1);
        std::vector<Vec3> corners;
        corners.reserve(around.size());
        for (const std::uint32_t vertex : around)
            corners.push_back(mesh.vertex(vertex));
        const bool comes_round = way.front() == way.back() && around.size() >= 3;
        const auto triangles = comes_round && length_around(corners) <= longest_around
                                   ? triangles_between(corners)
                                   : std::vector<Triple>{};
        if (triangles.empty()) {
            ++made.left;
            continue;
        }
        ++made.filled;
        for (const Triple& one : triangles) {
            for (const int corner : {one.a, one.b, one.c})
                parts.corners.push_back(around[static_cast<std::size_t>(corner)]);
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
    }
    for (Field& field : parts.face_fields) {
        Doubles numbers(field.values.span().begin(), field.values.span().end());
        numbers.resize(parts.first.size() - 1);
        std::fill(numbers.begin() + static_cast<std::ptrdiff_t>(field.values.size()), numbers.end(),
                  std::numeric_limits<double>::quiet_NaN());
        field.values = std::move(numbers);
    }
    Result<Mesh> filled = Mesh::make(std::move(parts));
    if (!filled) return filled.error();
    made.mesh = *std::move(filled);
    return made;
}

}  // namespace plume
