#include "core/geometry/views/flat_region.hpp"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Constrained_triangulation_face_base_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

#include <algorithm>
#include <cmath>

#include "core/geometry/curves/whole_places.hpp"

namespace plume {
namespace {

namespace clip = ClipperLib;
using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
// Faces know how many rings are around them, -1 before that is told.
using Corners = CGAL::Triangulation_vertex_base_with_info_2<std::uint32_t, Kernel>;
using Faces = CGAL::Triangulation_face_base_with_info_2<int, Kernel,
                                                        CGAL::Constrained_triangulation_face_base_2<Kernel>>;
// Rings lie on whole numbers, but two may touch along a part of a side.
using Triangles =
    CGAL::Constrained_Delaunay_triangulation_2<Kernel, CGAL::Triangulation_data_structure_2<Corners, Faces>,
                                               CGAL::Exact_predicates_tag>;

double reach_of(const std::vector<FlatRing>& lines) {
    double reach = 0;
    for (const FlatRing& line : lines)
        for (const FlatPoint place : line)
            reach = std::max({reach, std::abs(place.x), std::abs(place.y)});
    return reach;
}

std::vector<FlatRing> put_together(const std::vector<FlatRing>& lines, const WholePlaces& places) {
    clip::Clipper clipper;
    for (const FlatRing& line : lines)
        clipper.AddPath(places.whole(line), clip::ptSubject, true);
    clip::Paths paths;
    clipper.Execute(clip::ctUnion, paths, clip::pftNonZero, clip::pftNonZero);
    return places.rings(paths);
}

// From outside inwards: one ring more at each side that is of a ring.
void count_rings(Triangles& triangles) {
    for (const Triangles::Face_handle face : triangles.all_face_handles())
        face->info() = -1;
    std::vector<Triangles::Face_handle> now{triangles.infinite_face()}, next;
    for (int depth = 0; !now.empty(); ++depth, now.swap(next)) {
        next.clear();
        while (!now.empty()) {
            const Triangles::Face_handle face = now.back();
            now.pop_back();
            if (face->info() >= 0) continue;
            face->info() = depth;
            for (int side = 0; side < 3; ++side)
                if (face->neighbor(side)->info() < 0)
                    (face->is_constrained(side) ? next : now).push_back(face->neighbor(side));
        }
    }
}

void add_triangles(FlatRegion& region) {
    Triangles triangles;
    for (const FlatRing& ring : region.rings)
        for (std::size_t at = 0; at < ring.size(); ++at) {
            const FlatPoint from = ring[at], to = ring[(at + 1) % ring.size()];
            triangles.insert_constraint(Kernel::Point_2(from.x, from.y), Kernel::Point_2(to.x, to.y));
        }
    for (const Triangles::Vertex_handle corner : triangles.finite_vertex_handles()) {
        corner->info() = static_cast<std::uint32_t>(region.places.size());
        region.places.push_back({corner->point().x(), corner->point().y()});
    }
    // Without an area there are none.
    if (triangles.dimension() < 2) return;
    count_rings(triangles);
    for (const Triangles::Face_handle face : triangles.finite_face_handles())
        if (face->info() % 2 == 1)
            region.triangles.push_back(
                {face->vertex(0)->info(), face->vertex(1)->info(), face->vertex(2)->info()});
}

}  // namespace

FlatRegion region_within(const std::vector<FlatRing>& lines) {
    FlatRegion region;
    const double reach = reach_of(lines);
    if (!(reach > 0)) return region;
    region.rings = put_together(lines, WholePlaces(reach));
    add_triangles(region);
    return region;
}

}  // namespace plume
