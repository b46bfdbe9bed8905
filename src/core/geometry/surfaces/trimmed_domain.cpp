#include "core/geometry/surfaces/trimmed_domain.hpp"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>

#include <deque>
#include <limits>

#include "core/base/guarded.hpp"
#include "core/geometry/curves/curve_sampling.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
constexpr std::uint32_t no_number = std::numeric_limits<std::uint32_t>::max();
constexpr int not_reached = -1;
struct Reached {
    int trims = not_reached;  // crossed from outside
};
struct Number {
    std::uint32_t value = no_number;
};
using Triangulation = CGAL::Constrained_Delaunay_triangulation_2<
    Kernel,
    CGAL::Triangulation_data_structure_2<
        CGAL::Triangulation_vertex_base_with_info_2<Number, Kernel>,
        CGAL::Triangulation_face_base_with_info_2<Reached, Kernel,
                                                  CGAL::Constrained_triangulation_face_base_2<Kernel>>>,
    CGAL::No_constraint_intersection_requiring_constructions_tag>;

Error crossing_trims() {
    return {ErrorCode::unlike_arrangement, "",
            "The outlines cross or touch each other, or one crosses itself", "Move them apart."};
}

// Parameters stretched to a square, in which triangles are well shaped.
class Stretch {
public:
    explicit Stretch(const SplinePatch& patch)
        : u0_(patch.u().start()),
          v0_(patch.v().start()),
          u_(patch.u().end() - patch.u().start()),
          v_(patch.v().end() - patch.v().start()) {
        if (is_square(patch)) u_ = v_ = std::max(u_, v_);
    }
    Kernel::Point_2 operator()(TrimmedDomain::Place at) const {
        return {(at.u - u0_) / u_, (at.v - v0_) / v_};
    }

private:
    // Degree 1 both ways with few poles: parameters are lengths.
    static bool is_square(const SplinePatch& patch) { return patch.x().size() == 4; }
    double u0_, v0_, u_, v_;
};

// How many trims are crossed on the way from outside to each triangle.
void count_trims(Triangulation& triangulation) {
    std::deque<Triangulation::Face_handle> front{triangulation.infinite_face()};
    front.front()->info().trims = 0;
    while (!front.empty()) {
        const Triangulation::Face_handle face = front.front();
        front.pop_front();
        for (int side = 0; side < 3; ++side) {
            const Triangulation::Face_handle next = face->neighbor(side);
            if (next->info().trims != not_reached) continue;
            const bool crossed = face->is_constrained(side);
            next->info().trims = face->info().trims + (crossed ? 1 : 0);
            // Breadth first by trims: what is reached without crossing one comes before.
            if (crossed)
                front.push_back(next);
            else
                front.push_front(next);
        }
    }
}

}  // namespace

Result<TrimmedDomain> trimmed_domain(const SplinePatch& patch, int pieces, const std::vector<double>& u,
                                     const std::vector<double>& v, const Run& run) {
    TrimmedDomain domain;
    for (const SplineCurve& trim : patch.trims()) {
        domain.loop_starts.push_back(static_cast<std::uint32_t>(domain.places.size()));
        const int parts = trim.basis().degree == 1 ? 1 : pieces;
        for (const double parameter : sample_lines(trim.basis(), parts, 1).parameters) {
            const Vec3 place = evaluate(trim, parameter).position;
            domain.places.push_back({place.x, place.y});
        }
    }
    domain.on_loops = domain.places.size();
    const Stretch stretch(patch);
    Triangulation triangulation;
    const Status laid = guarded([&]() -> Status {
        std::vector<Triangulation::Vertex_handle> corners;
        for (std::size_t at = 0; at < domain.on_loops; ++at) {
            corners.push_back(triangulation.insert(stretch(domain.places[at])));
            if (corners.back()->info().value != no_number) return crossing_trims();
            corners.back()->info().value = static_cast<std::uint32_t>(at);
        }
        for (std::size_t loop = 0; loop < domain.loop_starts.size(); ++loop) {
            const std::size_t begin = domain.loop_starts[loop], end = loop + 1 < domain.loop_starts.size()
                                                                          ? domain.loop_starts[loop + 1]
                                                                          : domain.on_loops;
            for (std::size_t at = begin; at < end; ++at)
                triangulation.insert_constraint(corners[at], corners[at + 1 < end ? at + 1 : begin]);
        }
        return Done{};
    });
    if (!laid) return laid.error().code == ErrorCode::unlike_arrangement ? laid.error() : crossing_trims();
    if (run.cancelled()) return cancelled_error();
    count_trims(triangulation);
    for (const double at_v : v)
        for (const double at_u : u) {
            const Kernel::Point_2 point = stretch({at_u, at_v});
            Triangulation::Locate_type type{};
            int index = 0;
            const Triangulation::Face_handle face = triangulation.locate(point, type, index);
            if (type != Triangulation::FACE || face->info().trims % 2 == 0) continue;
            const int trims = face->info().trims;
            const Triangulation::Vertex_handle vertex = triangulation.insert(point, type, face, index);
            vertex->info().value = static_cast<std::uint32_t>(domain.places.size());
            domain.places.push_back({at_u, at_v});
            // Triangles that a flip made new know nothing yet; they lie on the same side of every trim.
            auto around = triangulation.incident_faces(vertex);
            const auto first = around;
            do
                around->info().trims = trims;
            while (++around != first);
        }
    if (run.cancelled()) return cancelled_error();
    for (const auto& face : triangulation.finite_face_handles())
        if (face->info().trims % 2 == 1)
            domain.triangles.push_back({face->vertex(0)->info().value, face->vertex(1)->info().value,
                                        face->vertex(2)->info().value});
    return domain;
}

}  // namespace plume
