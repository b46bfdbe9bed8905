#include "core/geometry/frames/delaunay.hpp"

#include <CGAL/Delaunay_triangulation_2.h>
#include <CGAL/Delaunay_triangulation_3.h>
#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Triangulation_vertex_base_with_info_2.h>
#include <CGAL/Triangulation_vertex_base_with_info_3.h>

#include <algorithm>
#include <cmath>
#include <numeric>
#include <optional>

#include "core/data/box.hpp"
#include "core/geometry/frames/unions.hpp"
#include "core/geometry/parts/coincident_points.hpp"
#include "core/geometry/surfaces/trim_cells.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Flat = CGAL::Delaunay_triangulation_2<
    Kernel,
    CGAL::Triangulation_data_structure_2<CGAL::Triangulation_vertex_base_with_info_2<std::uint32_t, Kernel>>>;
using Spatial = CGAL::Delaunay_triangulation_3<
    Kernel,
    CGAL::Triangulation_data_structure_3<CGAL::Triangulation_vertex_base_with_info_3<std::uint32_t, Kernel>>>;

// Points with their numbers, the first of several at one place: insertion keeps one of them, and which one is
// not said.
template <class Point, class Made>
std::vector<std::pair<Point, std::uint32_t>> numbered(std::span<const Vec3> points, const Made& made) {
    std::vector<std::uint32_t> order(points.size());
    std::iota(order.begin(), order.end(), 0U);
    const auto key = [&](std::uint32_t at) {
        const Point point = made(points[at]);
        std::array<double, 3> parts{};
        for (int axis = 0; axis < point.dimension(); ++axis)
            parts[static_cast<std::size_t>(axis)] = point[axis];
        return parts;
    };
    std::ranges::stable_sort(order, [&](std::uint32_t a, std::uint32_t b) { return key(a) < key(b); });
    std::vector<std::pair<Point, std::uint32_t>> result;
    for (std::size_t at = 0; at < order.size(); ++at)
        if (at == 0 || key(order[at]) != key(order[at - 1]))
            result.emplace_back(made(points[order[at]]), order[at]);
    return result;
}

Flat flat_triangles(std::span<const Vec3> points) {
    const auto all = numbered<Flat::Point>(points, [](Vec3 p) { return Flat::Point(p.x, p.y); });
    return {all.begin(), all.end()};
}

double side(Vec3 from, Vec3 to, Vec3 point) {
    return (to.x - from.x) * (point.y - from.y) - (to.y - from.y) * (point.x - from.x);
}

// A place on the rim: on which of its sides, and how far along it.
struct OnRim {
    std::size_t side = 0;
    double share = 0;
    std::uint32_t place = 0;
    bool operator<(const OnRim& other) const {
        return side < other.side || (side == other.side && share < other.share);
    }
};

// Puts together the net: sides of cells as far as they lie within the region.
class NetBuilder {
public:
    explicit NetBuilder(const PlaneRegion& region) : region_(region) {}

    void add(Vec3 from, Vec3 to) {
        std::vector<std::pair<double, OnRim>> cuts;
        const std::size_t count = region_.places.size();
        for (std::size_t at = 0; at < count; ++at) {
            const Vec3 a = region_.places[at], b = region_.places[(at + 1) % count];
            const double from_side = side(a, b, from), to_side = side(a, b, to);
            const double a_side = side(from, to, a), b_side = side(from, to, b);
            // A corner belongs to the side that begins there, so that it is met once.
            if ((from_side > 0) == (to_side > 0) || (a_side > 0) == (b_side > 0)) continue;
            cuts.emplace_back(from_side / (from_side - to_side), OnRim{at, a_side / (a_side - b_side), 0});
        }
        std::ranges::sort(cuts, [](const auto& a, const auto& b) { return a.first < b.first; });
        double before = 0;
        std::optional<std::uint32_t> begins;  // the place on the rim where it came in
        for (std::size_t piece = 0; piece <= cuts.size(); ++piece) {
            const double until = piece < cuts.size() ? cuts[piece].first : 1;
            const double middle = (before + until) / 2;
            const bool within = region_.contains(from + (to - from) * middle);
            const auto end = piece < cuts.size()
                                 ? std::optional(on_rim(from + (to - from) * until, cuts[piece].second))
                                 : std::nullopt;
            if (within) {
                const std::uint32_t start = begins ? *begins : place(from);
                net.pairs.push_back(ordered(start, end ? *end : place(to)));
            }
            begins = end;
            before = until;
        }
    }
    // Corners that stay and places that cells met, one after the other.
    void close_rim() {
        for (std::size_t at = 0; at < region_.places.size(); ++at)
            if (region_.corner[at] != 0) rim_.push_back({at, 0, place(region_.places[at])});
        std::sort(rim_.begin(), rim_.end());
        for (std::size_t at = 0; at < rim_.size() && rim_.size() > 1; ++at)
            net.pairs.push_back(ordered(rim_[at].place, rim_[(at + 1) % rim_.size()].place));
    }

    PlaneNet net;

private:
    std::uint32_t place(Vec3 at) {
        net.places.push_back({at.x, at.y, 0});
        return static_cast<std::uint32_t>(net.places.size() - 1);
    }
    std::uint32_t on_rim(Vec3 at, OnRim where) {
        where.place = place(at);
        rim_.push_back(where);
        return where.place;
    }

    const PlaneRegion& region_;
    std::vector<OnRim> rim_;
};

// What is at one place becomes one, and pairs each once.
void tidy(PlaneNet& net, double one_place) {
    const std::vector<std::size_t> first = first_within(net.places, one_place);
    std::vector<std::uint32_t> number(net.places.size());
    std::vector<Vec3> places;
    for (std::size_t at = 0; at < first.size(); ++at) {
        if (first[at] == at) {
            number[at] = static_cast<std::uint32_t>(places.size());
            places.push_back(net.places[at]);
        } else {
            number[at] = number[first[at]];
        }
    }
    net.places = std::move(places);
    for (auto& [a, b] : net.pairs)
        std::tie(a, b) = ordered(number[a], number[b]);
    std::erase_if(net.pairs, [](const auto& pair) { return pair.first == pair.second; });
    each_once(net.pairs);
}

}  // namespace

Pairs delaunay_pairs(std::span<const Vec3> points) {
    const Flat triangles = flat_triangles(points);
    Pairs pairs;
    for (const auto& edge : triangles.finite_edges())
        pairs.push_back(ordered(edge.first->vertex(Flat::cw(edge.second))->info(),
                                edge.first->vertex(Flat::ccw(edge.second))->info()));
    std::ranges::sort(pairs);
    return pairs;
}

Result<Pairs> shortest_tree(std::span<const Vec3> points, const Run& run) {
    const auto all = numbered<Spatial::Point>(points, [](Vec3 p) { return Spatial::Point(p.x, p.y, p.z); });
    const Spatial tetrahedra(all.begin(), all.end());
    if (run.cancelled()) return cancelled_error();
    struct Edge {
        double length;
        std::pair<std::uint32_t, std::uint32_t> ends;
    };
    std::vector<Edge> edges;
    for (const auto& edge : tetrahedra.finite_edges()) {
        const std::uint32_t a = edge.first->vertex(edge.second)->info(),
                            b = edge.first->vertex(edge.third)->info();
        edges.push_back({length(points[a] - points[b]), ordered(a, b)});
    }
    std::ranges::sort(edges, [](const Edge& a, const Edge& b) {
        return std::pair(a.length, a.ends) < std::pair(b.length, b.ends);
    });
    // Kruskal, On the shortest spanning subtree of a graph, Proc. AMS 7, 1956.
    Unions trees(points.size());
    Pairs pairs;
    for (const Edge& edge : edges)
        if (trees.join(edge.ends.first, edge.ends.second)) pairs.push_back(edge.ends);
    std::ranges::sort(pairs);
    return pairs;
}

bool PlaneRegion::contains(Vec3 place) const {
    return is_in_loop(places, place.x, place.y);
}

PlaneRegion region_about(std::span<const Vec3> points) {
    Box box;
    for (const Vec3 point : points)
        box.include(Vec3{point.x, point.y, 0});
    const Vec3 size = box.size();
    const double apart = std::sqrt(std::max(size.x * size.y, 1e-6 * dot(size, size)) /
                                   static_cast<double>(std::max<std::size_t>(1, points.size())));
    const double x0 = box.low.x - apart / 2, x1 = box.high.x + apart / 2, y0 = box.low.y - apart / 2,
                 y1 = box.high.y + apart / 2;
    return {{{x0, y0, 0}, {x1, y0, 0}, {x1, y1, 0}, {x0, y1, 0}}, {1, 1, 1, 1}};
}

Result<PlaneNet> voronoi_net(std::span<const Vec3> points, const PlaneRegion& region, const Run& run) {
    const Flat triangles = flat_triangles(points);
    if (triangles.number_of_vertices() < 2)
        return Error{ErrorCode::too_few_points, "", "are fewer than two at different places",
                     "Take more of them."};
    Box box;
    for (const Vec3 place : region.places)
        box.include(place);
    for (const Vec3 point : points)
        box.include(Vec3{point.x, point.y, 0});
    const double far = 4 * box.diagonal();
    const auto place = [](const Kernel::Point_2& at) { return Vec3{at.x(), at.y(), 0}; };
    // As far out of the region as a ray may be seen.
    const auto along = [&](const Kernel::Point_2& from, const Kernel::Vector_2& way) {
        const double size = std::hypot(way.x(), way.y());
        const double reach = far + length(place(from) - box.centre());
        return Vec3{from.x() + way.x() / size * reach, from.y() + way.y() / size * reach, 0};
    };
    NetBuilder builder(region);
    std::size_t looked_at = 0;
    for (auto edge = triangles.finite_edges_begin(); edge != triangles.finite_edges_end(); ++edge) {
        if (looked_at++ % 1024 == 0 && run.cancelled()) return cancelled_error();
        const CGAL::Object dual = triangles.dual(edge);
        if (const auto* segment = CGAL::object_cast<Kernel::Segment_2>(&dual)) {
            builder.add(place(segment->source()), place(segment->target()));
        } else if (const auto* ray = CGAL::object_cast<Kernel::Ray_2>(&dual)) {
            builder.add(place(ray->source()), along(ray->source(), ray->to_vector()));
        } else if (const auto* line = CGAL::object_cast<Kernel::Line_2>(&dual)) {
            const Kernel::Point_2 on = line->projection({box.centre().x, box.centre().y});
            builder.add(along(on, -line->to_vector()), along(on, line->to_vector()));
        }
    }
    builder.close_rim();
    tidy(builder.net, 1e-9 * box.diagonal());
    return std::move(builder.net);
}

}  // namespace plume
