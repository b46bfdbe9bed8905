#include "core/geometry/meshes/remeshed.hpp"

#include <CGAL/Simple_cartesian.h>
#include <CGAL/Surface_mesh.h>
#include <CGAL/boost/graph/Euler_operations.h>

#include <algorithm>
#include <cmath>

#include "core/geometry/meshes/face_places.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"

namespace plume {
namespace {

using Kernel = CGAL::Simple_cartesian<double>;
using Surface = CGAL::Surface_mesh<Kernel::Point_3>;
using Vertex = Surface::Vertex_index;
using Side = Surface::Edge_index;
using Half = Surface::Halfedge_index;

// Of the wished length.
// A hair off the fractions: sides of even grids are on the same side of them whatever their last digit.
constexpr double too_long = 4.0 / 3 * (1 + 1e-9), too_short = 4.0 / 5 * (1 - 1e-9);

class Remeshing {
public:
    Remeshing(const Mesh& mesh, const RemeshRule& rule, const Run& run)
        : mesh_(mesh), rule_(rule), run_(run), tree_(mesh), triangles_(mesh) {
        surface_.clear();
        wished_ = surface_.add_property_map<Vertex, double>("v:wished", 0).first;
        fixed_ = surface_.add_property_map<Side, bool>("e:fixed", false).first;
        held_ = surface_.add_property_map<Vertex, bool>("v:held", false).first;
    }

    Result<Mesh> made() {
        if (!take())
            return Error{ErrorCode::unlike_arrangement, "",
                         "has sides of more than two faces, or faces "
                         "that turn against each other",
                         "Mend the mesh first."};
        fix_creases();
        for (int round = 0; round < rule_.rounds; ++round) {
            if (run_.cancelled()) return cancelled_error();
            run_.report(static_cast<double>(round) / rule_.rounds);
            split();
            collapse();
            flip();
            even_out();
        }
        return taken_back();
    }

private:
    static Vec3 vec(const Kernel::Point_3& p) { return {p.x(), p.y(), p.z()}; }
    Vec3 at(Vertex vertex) const { return vec(surface_.point(vertex)); }
    void set(Vertex vertex, Vec3 place) { surface_.point(vertex) = {place.x, place.y, place.z}; }

    bool take() {
        for (std::size_t vertex = 0; vertex < mesh_.vertex_count(); ++vertex) {
            const Vec3 place = mesh_.vertex(vertex);
            const Vertex made = surface_.add_vertex({place.x, place.y, place.z});
            wished_[made] = rule_.length(vertex);
        }
        for (std::size_t face = 0; face < mesh_.face_count(); ++face)
            for (const auto& [a, b, c] : triangles_.of(face))
                if (surface_.add_face(Vertex(a), Vertex(b), Vertex(c)) == Surface::null_face()) return false;
        return true;
    }
    Vec3 normal_of(Half half) const {
        const Vec3 a = at(surface_.source(half)), b = at(surface_.target(half)),
                   c = at(surface_.target(surface_.next(half)));
        return cross(b - a, c - a);
    }
    void fix_creases() {
        for (const Side side : surface_.edges()) {
            const Half half = surface_.halfedge(side);
            bool fixed = surface_.is_border(side);
            if (!fixed) {
                const Vec3 one = normal_of(half), other = normal_of(surface_.opposite(half));
                fixed = std::atan2(length(cross(one, other)), dot(one, other)) > rule_.crease_rad;
            }
            fixed_[side] = fixed;
            if (!fixed) continue;
            held_[surface_.source(half)] = true;
            held_[surface_.target(half)] = true;
        }
    }
    double length_of(Side side) const {
        return length(at(surface_.vertex(side, 0)) - at(surface_.vertex(side, 1)));
    }
    double wished(Side side) const {
        return (wished_[surface_.vertex(side, 0)] + wished_[surface_.vertex(side, 1)]) / 2;
    }

    void split() {
        // New sides may be too long as well: they come behind those there are.
        std::vector<Side> waiting(surface_.edges().begin(), surface_.edges().end());
        for (std::size_t next = 0; next < waiting.size(); ++next) {
            const Side side = waiting[next];
            if (!(length_of(side) > too_long * wished(side))) continue;
            if (next % 4096 == 0 && run_.cancelled()) return;
            const Vec3 middle = (at(surface_.vertex(side, 0)) + at(surface_.vertex(side, 1))) * 0.5;
            const double wish = wished(side);
            const bool fixed = fixed_[side];
            const Half made = CGAL::Euler::split_edge(surface_.halfedge(side), surface_);
            const Vertex vertex = surface_.target(made);
            set(vertex, middle);
            wished_[vertex] = wish;
            held_[vertex] = fixed;
            fixed_[surface_.edge(made)] = fixed;
            waiting.push_back(surface_.edge(made));
            waiting.push_back(side);
            // Cut both faces beside it in two.
            for (const Half half : {made, surface_.opposite(surface_.next(made))}) {
                if (surface_.is_border(half)) continue;
                const Half across =
                    CGAL::Euler::split_face(half, surface_.next(surface_.next(half)), surface_);
                fixed_[surface_.edge(across)] = false;
                waiting.push_back(surface_.edge(across));
            }
        }
    }
    // Whether a vertex may go there without a face turning over or a side growing too long.
    bool may_move(Vertex vertex, Vec3 to, Vertex without) const {
        for (const Half half : CGAL::halfedges_around_target(vertex, surface_)) {
            const Vertex other = surface_.source(half);
            if (other != without &&
                length(at(other) - to) > too_long * (wished_[other] + wished_[vertex]) / 2)
                return false;
            if (surface_.is_border(half)) continue;
            const Vertex third = surface_.target(surface_.next(half));
            if (other == without || third == without) continue;
            const Vec3 before = cross(at(vertex) - at(other), at(third) - at(other)),
                       after = cross(to - at(other), at(third) - at(other));
            if (!(dot(before, after) > 0.3 * length(before) * length(after))) return false;
        }
        return true;
    }
    void collapse() {
        const std::vector<Side> sides(surface_.edges().begin(), surface_.edges().end());
        for (const Side side : sides) {
            if (surface_.is_removed(side) || !(length_of(side) < too_short * wished(side))) continue;
            Vertex gone = surface_.vertex(side, 0), stays = surface_.vertex(side, 1);
            if (held_[gone]) std::swap(gone, stays);
            // What is held on both ends stays; a held vertex keeps its place.
            if (held_[gone]) continue;
            const Vec3 to = held_[stays] ? at(stays) : (at(gone) + at(stays)) * 0.5;
            if (!CGAL::Euler::does_satisfy_link_condition(side, surface_)) continue;
            if (!may_move(gone, to, stays) || (!held_[stays] && !may_move(stays, to, gone))) continue;
            const bool held = held_[stays];
            const double wish = wished_[stays];
            const Vertex left = CGAL::Euler::collapse_edge(side, surface_);
            set(left, to);
            held_[left] = held;
            wished_[left] = wish;
        }
    }
    int wanted_neighbours(Vertex vertex) const { return surface_.is_border(vertex) ? 4 : 6; }
    void flip() {
        for (const Side side : surface_.edges()) {
            if (fixed_[side] || surface_.is_border(side)) continue;
            const Half half = surface_.halfedge(side), back = surface_.opposite(half);
            const Vertex a = surface_.source(half), b = surface_.target(half),
                         c = surface_.target(surface_.next(half)), d = surface_.target(surface_.next(back));
            if (surface_.halfedge(c, d) != Surface::null_halfedge()) continue;
            if (length(at(c) - at(d)) > too_long * (wished_[c] + wished_[d]) / 2) continue;
            const auto off = [&](Vertex vertex, int change) {
                const int by = static_cast<int>(surface_.degree(vertex)) + change - wanted_neighbours(vertex);
                return by * by;
            };
            if (off(a, -1) + off(b, -1) + off(c, 1) + off(d, 1) >=
                off(a, 0) + off(b, 0) + off(c, 0) + off(d, 0))
                continue;
            // Both new faces have to look where the old ones did.
            const Vec3 before = normal_of(half) + normal_of(back);
            const Vec3 one = cross(at(d) - at(a), at(c) - at(a)), other = cross(at(c) - at(b), at(d) - at(b));
            if (!(dot(one, before) > 0.3 * length(one) * length(before)) ||
                !(dot(other, before) > 0.3 * length(other) * length(before)))
                continue;
            CGAL::Euler::flip_edge(half, surface_);
        }
    }
    // Towards the mean of the neighbours, along the surface, and back onto it.
    void even_out() {
        std::vector<std::pair<Vertex, Vec3>> moves;
        std::size_t guess = 0;
        for (const Vertex vertex : surface_.vertices()) {
            if (held_[vertex] || surface_.is_isolated(vertex)) continue;
            Vec3 mean, normal;
            double count = 0;
            for (const Half half : CGAL::halfedges_around_target(vertex, surface_)) {
                mean = mean + at(surface_.source(half));
                count += 1;
                if (!surface_.is_border(half)) normal = normal + normal_of(half);
            }
            const Vec3 by = mean * (1 / count) - at(vertex), up = unit_or_zero(normal);
            const PlaceOnMesh on = tree_.nearest(at(vertex) + by - up * dot(by, up), guess);
            guess = on.triangle;
            // Where it may not go there, it still has to lie on the surface.
            moves.emplace_back(vertex, may_move(vertex, on.place, Surface::null_vertex())
                                           ? on.place
                                           : tree_.nearest(at(vertex), guess).place);
        }
        for (const auto& [vertex, place] : moves)
            set(vertex, place);
        for (const auto& [vertex, place] : moves)
            wished_[vertex] = read(place, [&](std::uint32_t own) { return rule_.length(own); });
    }

    // A number of the mesh's vertices where a place lies on it.
    template <class Number>
    double read(Vec3 place, const Number& number) const {
        const PlaceOnMesh on = tree_.nearest(place);
        return triangles_.shares_at(on.face, on.place).read(number);
    }
    Result<Mesh> taken_back() {
        surface_.collect_garbage();
        Mesh::Parts parts;
        Doubles x, y, z;
        std::vector<std::uint32_t> number(surface_.number_of_vertices());
        for (const Vertex vertex : surface_.vertices()) {
            if (surface_.is_isolated(vertex)) continue;
            number[vertex] = static_cast<std::uint32_t>(x.size());
            const Vec3 place = at(vertex);
            x.push_back(place.x);
            y.push_back(place.y);
            z.push_back(place.z);
        }
        for (const auto face : surface_.faces()) {
            for (const Vertex vertex : surface_.vertices_around_face(surface_.halfedge(face)))
                parts.corners.push_back(number[vertex]);
            parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
        }
        for (const Field& field : mesh_.fields()) {
            Doubles values(x.size());
            for (std::size_t at = 0; at < values.size(); ++at)
                values[at] =
                    read({x[at], y[at], z[at]}, [&](std::uint32_t own) { return field.values[own]; });
            parts.fields.push_back({field.name, std::move(values), field.dimension});
        }
        parts.x = std::move(x);
        parts.y = std::move(y);
        parts.z = std::move(z);
        return Mesh::make(std::move(parts));
    }

    const Mesh& mesh_;
    const RemeshRule& rule_;
    const Run& run_;
    TriangleTree tree_;
    FaceTriangles triangles_;
    Surface surface_;
    Surface::Property_map<Vertex, double> wished_;
    Surface::Property_map<Vertex, bool> held_;
    Surface::Property_map<Side, bool> fixed_;
};

}  // namespace

Result<Mesh> remeshed(const Mesh& mesh, const RemeshRule& rule, const Run& run) {
    return Remeshing(mesh, rule, run).made();
}

}  // namespace plume
