#include "core/geometry/surfaces/trimmed_domain.hpp"

#include <CGAL/Constrained_Delaunay_triangulation_2.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Spatial_sort_traits_adapter_2.h>
#include <CGAL/Triangulation_face_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <CGAL/property_map.h>
#include <CGAL/spatial_sort.h>

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <numeric>

#include "core/base/guarded.hpp"
#include "core/geometry/curves/curve_sampling.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
constexpr std::uint32_t no_number = std::numeric_limits<std::uint32_t>::max();
// What is crossed on the way from outside to a triangle: trims, and edges of bays that lie inside of them.
struct Reached {
    bool yet = false, in_trims = false, in_bays = false;
    bool is_there() const { return in_trims && !in_bays; }
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

// Between neighbouring places of one loop.
using NextOnLoop = std::vector<std::uint32_t>;

// Which triangles are there. Error where a trim's edge was cut by another one's corner.
Status reach_all(Triangulation& triangulation, const NextOnLoop& next_on_loop) {
    std::vector<Triangulation::Face_handle> front{triangulation.infinite_face()};
    front.front()->info().yet = true;
    while (!front.empty()) {
        const Triangulation::Face_handle face = front.back();
        front.pop_back();
        for (int side = 0; side < 3; ++side) {
            const Triangulation::Face_handle next = face->neighbor(side);
            if (next->info().yet) continue;
            next->info() = face->info();
            front.push_back(next);
            if (!face->is_constrained(side)) continue;
            const std::uint32_t a = face->vertex(Triangulation::cw(side))->info().value,
                                b = face->vertex(Triangulation::ccw(side))->info().value;
            const bool on_loops = std::max(a, b) < next_on_loop.size();
            if (on_loops && next_on_loop[a] != b && next_on_loop[b] != a) return crossing_trims();
            bool& crossed = on_loops ? next->info().in_trims : next->info().in_bays;
            crossed = !crossed;
        }
    }
    return Done{};
}

// The lines inside of trims: bays that no trim passes are two triangles each, the others are triangulated.
class Bays {
public:
    Bays(const std::vector<double>& u, const std::vector<double>& v,
         const std::vector<std::vector<Vec3>>& loops, TrimmedDomain& domain)
        : u_(u),
          v_(v),
          cells_(trim_cells(u, v, loops)),
          numbers_(u.size() * v.size(), no_number),
          domain_(domain) {}

    std::vector<std::pair<std::uint32_t, std::uint32_t>> add_whole() {
        std::vector<std::pair<std::uint32_t, std::uint32_t>> rims;
        for (std::size_t cell = 0; cell < cells_.size(); ++cell) {
            if (cells_[cell] != TrimCell::inside) continue;
            const std::size_t a = cell % columns(), b = cell / columns();
            const std::uint32_t corners[] = {number(a, b), number(a + 1, b), number(a + 1, b + 1),
                                             number(a, b + 1)};
            domain_.triangles.push_back({corners[0], corners[1], corners[2]});
            domain_.triangles.push_back({corners[0], corners[2], corners[3]});
            const bool whole[] = {is_whole(a, b, 0, -1), is_whole(a, b, 1, 0), is_whole(a, b, 0, 1),
                                  is_whole(a, b, -1, 0)};
            for (std::size_t side = 0; side < 4; ++side)
                if (!whole[side]) rims.emplace_back(corners[side], corners[(side + 1) % 4]);
        }
        return rims;
    }
    // Corners of bays that trims pass, other than those of whole ones.
    std::vector<TrimmedDomain::Place> between() const {
        std::vector<TrimmedDomain::Place> places;
        for (std::size_t b = 0; b < v_.size(); ++b)
            for (std::size_t a = 0; a < u_.size(); ++a)
                if (numbers_[a + u_.size() * b] == no_number && touches_crossed(a, b))
                    places.push_back({u_[a], v_[b]});
        return places;
    }

private:
    std::size_t columns() const { return u_.size() - 1; }
    std::uint32_t number(std::size_t a, std::size_t b) {
        std::uint32_t& number = numbers_[a + u_.size() * b];
        if (number == no_number) {
            number = static_cast<std::uint32_t>(domain_.places.size());
            domain_.places.push_back({u_[a], v_[b]});
        }
        return number;
    }
    TrimCell cell_at(std::size_t a, std::size_t b, int right, int up) const {
        const std::size_t column = a + static_cast<std::size_t>(right),
                          row = b + static_cast<std::size_t>(up);
        // One left of the first is beyond the last.
        if (column >= columns() || row >= v_.size() - 1) return TrimCell::outside;
        return cells_[column + columns() * row];
    }
    bool is_whole(std::size_t a, std::size_t b, int right, int up) const {
        return cell_at(a, b, right, up) == TrimCell::inside;
    }
    bool touches_crossed(std::size_t a, std::size_t b) const {
        for (const int right : {-1, 0})
            for (const int up : {-1, 0})
                if (cell_at(a, b, right, up) == TrimCell::crossed) return true;
        return false;
    }

    const std::vector<double>&u_, &v_;
    std::vector<TrimCell> cells_;
    std::vector<std::uint32_t> numbers_;  // of the places on the grid
    TrimmedDomain& domain_;
};

// Places that lie in triangles which are there.
void insert_inside(Triangulation& triangulation, const std::vector<TrimmedDomain::Place>& places,
                   const Stretch& stretch, TrimmedDomain& domain) {
    Triangulation::Face_handle near;
    for (const TrimmedDomain::Place place : places) {
        const Kernel::Point_2 point = stretch(place);
        Triangulation::Locate_type type{};
        int index = 0;
        const Triangulation::Face_handle face = triangulation.locate(point, type, index, near);
        if (type != Triangulation::FACE || !face->info().is_there()) continue;
        const Reached there = face->info();
        const Triangulation::Vertex_handle vertex = triangulation.insert(point, type, face, index);
        vertex->info().value = static_cast<std::uint32_t>(domain.places.size());
        domain.places.push_back(place);
        // Triangles that a flip made new know nothing yet; they lie on the same side of every trim.
        auto around = triangulation.incident_faces(vertex);
        const auto first = around;
        do
            around->info() = there;
        while (++around != first);
        near = first;
    }
}

// The loops as polygons; their places are the first of the domain.
std::vector<std::vector<Vec3>> add_loops(const SplinePatch& patch, const std::vector<int>& pieces,
                                         TrimmedDomain& domain) {
    std::vector<std::vector<Vec3>> loops;
    const bool flat = is_parallelogram(patch);
    for (std::size_t number = 0; number < patch.trims().size(); ++number) {
        const SplineCurve& trim = patch.trims()[number];
        const int parts = flat && trim.basis().degree == 1 ? 1 : pieces[number];
        domain.loop_starts.push_back(static_cast<std::uint32_t>(domain.places.size()));
        loops.emplace_back();
        for (const double parameter : knot_lines(trim.basis(), parts)) {
            const Vec3 place = evaluate(trim, parameter).position;
            domain.places.push_back({place.x, place.y});
            loops.back().push_back(place);
        }
    }
    domain.on_loops = domain.places.size();
    return loops;
}

NextOnLoop next_on_loops(const std::vector<std::vector<Vec3>>& loops) {
    NextOnLoop next;
    for (const std::vector<Vec3>& loop : loops) {
        const auto begin = static_cast<std::uint32_t>(next.size());
        for (std::uint32_t at = 1; at < loop.size(); ++at)
            next.push_back(begin + at);
        next.push_back(begin);
    }
    return next;
}

using Rims = std::vector<std::pair<std::uint32_t, std::uint32_t>>;

// The places that edges run between: those on loops, and ends of rims.
std::vector<std::uint32_t> corners_of(const NextOnLoop& next, const Rims& rims) {
    std::vector<std::uint32_t> corners(next.size());
    std::iota(corners.begin(), corners.end(), 0U);
    for (const auto& [from, to] : rims)
        corners.insert(corners.end(), {from, to});
    std::ranges::sort(corners);
    corners.erase(std::unique(corners.begin(), corners.end()), corners.end());
    return corners;
}

// Their vertices, by number of the place. Inserted near each other one after the other, which leaves little
// to walk and to flip. Error where two are one place.
Result<std::vector<Triangulation::Vertex_handle>> insert_corners(Triangulation& triangulation,
                                                                 const std::vector<std::uint32_t>& corners,
                                                                 const Stretch& stretch,
                                                                 const TrimmedDomain& domain) {
    using Numbered = std::pair<Kernel::Point_2, std::uint32_t>;
    using ByPoint = CGAL::Spatial_sort_traits_adapter_2<Kernel, CGAL::First_of_pair_property_map<Numbered>>;
    std::vector<Numbered> points;
    points.reserve(corners.size());
    for (const std::uint32_t at : corners)
        points.emplace_back(stretch(domain.places[at]), at);
    CGAL::spatial_sort(points.begin(), points.end(), ByPoint());
    std::vector<Triangulation::Vertex_handle> vertices(domain.places.size());
    Triangulation::Face_handle near;
    for (const auto& [point, at] : points) {
        const Triangulation::Vertex_handle vertex = triangulation.insert(point, near);
        if (vertex->info().value != no_number) return crossing_trims();
        vertex->info().value = at;
        vertices[at] = vertex;
        near = vertex->face();
    }
    return vertices;
}

// Whether a polygon goes to the left about a place, all the way and once round.
bool goes_round(const std::vector<Vec3>& loop, Vec3 place) {
    double turned = 0;
    for (std::size_t at = 0; at < loop.size(); ++at) {
        const Vec3 from = loop[at] - place, to = loop[(at + 1) % loop.size()] - place;
        const double sine = from.x * to.y - from.y * to.x, cosine = from.x * to.x + from.y * to.y;
        if (!(sine > 1e-12 * std::abs(cosine))) return false;
        turned += std::atan2(sine, cosine);
    }
    return turned < 3 * std::numbers::pi;
}

}  // namespace

std::optional<TrimmedDomain> fan_domain(const SplinePatch& patch, const std::vector<int>& pieces) {
    if (patch.trims().size() != 1) return {};
    TrimmedDomain domain;
    const std::vector<Vec3> loop = add_loops(patch, pieces, domain).front();
    const auto count = static_cast<std::uint32_t>(loop.size());
    Vec3 middle;
    for (const Vec3 place : loop)
        middle = middle + place * (1.0 / count);
    if (count < 3 || !goes_round(loop, middle)) return {};
    domain.places.push_back({middle.x, middle.y});
    for (std::uint32_t at = 0; at < count; ++at)
        domain.triangles.push_back({count, at, (at + 1) % count});
    return domain;
}

Result<TrimmedDomain> trimmed_domain(const SplinePatch& patch, const std::vector<int>& pieces,
                                     const std::vector<double>& u, const std::vector<double>& v,
                                     const Run& run) {
    TrimmedDomain domain;
    const std::vector<std::vector<Vec3>> loops = add_loops(patch, pieces, domain);
    const NextOnLoop next = next_on_loops(loops);
    Bays bays(u, v, loops, domain);
    const auto rims = bays.add_whole();
    const Stretch stretch(patch);
    Triangulation triangulation;
    const Status laid = guarded([&]() -> Status {
        const auto corners = insert_corners(triangulation, corners_of(next, rims), stretch, domain);
        if (!corners) return corners.error();
        for (std::uint32_t at = 0; at < next.size(); ++at)
            triangulation.insert_constraint((*corners)[at], (*corners)[next[at]]);
        for (const auto& [from, to] : rims)
            triangulation.insert_constraint((*corners)[from], (*corners)[to]);
        return reach_all(triangulation, next);
    });
    if (!laid) return laid.error().code == ErrorCode::unlike_arrangement ? laid.error() : crossing_trims();
    if (run.cancelled()) return cancelled_error();
    insert_inside(triangulation, bays.between(), stretch, domain);
    if (run.cancelled()) return cancelled_error();
    for (const auto& face : triangulation.finite_face_handles())
        if (face->info().is_there())
            domain.triangles.push_back({face->vertex(0)->info().value, face->vertex(1)->info().value,
                                        face->vertex(2)->info().value});
    return domain;
}

std::vector<SurfacePoint> points_of(const TrimmedDomain& domain, const PatchEvaluator& patch) {
    std::vector<double> u, v;
    u.reserve(domain.places.size());
    v.reserve(domain.places.size());
    for (const TrimmedDomain::Place& place : domain.places) {
        u.push_back(place.u);
        v.push_back(place.v);
    }
    return patch.at(u, v);
}

std::vector<int> pieces_round(const SplinePatch& patch, std::size_t around) {
    constexpr std::size_t most = 64;
    std::vector<int> pieces;
    for (const SplineCurve& trim : patch.trims()) {
        const std::size_t bays = knot_breaks(trim.basis()).size() - 1;
        pieces.push_back(static_cast<int>(std::clamp<std::size_t>((around + bays - 1) / bays, 1, most)));
    }
    return pieces;
}

}  // namespace plume
