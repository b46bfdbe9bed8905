#include "core/geometry/solids/combined.hpp"

#include <CGAL/Exact_predicates_inexact_constructions_kernel.h>
#include <CGAL/Polygon_mesh_processing/corefinement.h>
#include <CGAL/Polygon_mesh_processing/self_intersections.h>
#include <CGAL/Surface_mesh.h>

#include <algorithm>
#include <map>

#include "core/base/guarded.hpp"
#include "core/data/placements.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/body_mesh.hpp"

namespace plume {
namespace {

namespace pmp = CGAL::Polygon_mesh_processing;
using Kernel = CGAL::Exact_predicates_inexact_constructions_kernel;
using Triangles = CGAL::Surface_mesh<Kernel::Point_3>;
using Face = Triangles::Face_index;

// Which face of which operand a triangle comes from.
struct Origin {
    std::uint32_t operand = 0, part = 0;
    bool operator==(const Origin&) const = default;
};
using Origins = Triangles::Property_map<Face, Origin>;

Origins origins_of(Triangles& triangles) {
    return triangles.add_property_map<Face, Origin>("f:origin").first;
}

struct Cancelled {};

// Keeps the origins of triangles that are split and copied, and looks whether the work is still wanted.
class Keeper : public pmp::Corefinement::Default_visitor<Triangles> {
public:
    explicit Keeper(const Run& run) : run_(&run), maps_(std::make_shared<Maps>()) {}
    void add(Triangles& triangles) { maps_->emplace(&triangles, origins_of(triangles)); }

    void before_subface_creations(Face split, Triangles& triangles) {
        look();
        split_ = maps_->at(&triangles)[split];
    }
    void after_subface_created(Face made, Triangles& triangles) { maps_->at(&triangles)[made] = split_; }
    void after_face_copy(Face old, Triangles& from, Face made, Triangles& to) {
        maps_->at(&to)[made] = maps_->at(&from)[old];
    }
    template <class Halfedge>
    void intersection_point_detected(std::size_t, int, Halfedge, Halfedge, const Triangles&, const Triangles&,
                                     bool, bool) {
        look();
    }

private:
    using Maps = std::map<const Triangles*, Origins>;
    void look() const {
        if (run_->cancelled()) throw Cancelled();
    }
    const Run* run_;
    std::shared_ptr<Maps> maps_;
    Origin split_;
};

Triangles triangles_of(const Mesh& mesh, std::uint32_t operand) {
    Triangles triangles;
    Origins origins = origins_of(triangles);
    for (std::size_t vertex = 0; vertex < mesh.vertex_count(); ++vertex) {
        const Vec3 at = mesh.vertex(vertex);
        triangles.add_vertex({at.x, at.y, at.z});
    }
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        const auto part = static_cast<std::uint32_t>(mesh.part_of(face));
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Face made =
                triangles.add_face(Triangles::Vertex_index(corners[a]), Triangles::Vertex_index(corners[b]),
                                   Triangles::Vertex_index(corners[c]));
            if (made != Triangles::null_face()) origins[made] = {operand, part};
        });
    }
    return triangles;
}

// Triangles in the order of where they come from, a part for each face of an operand.
Mesh mesh_of(const Triangles& triangles) {
    const Origins origins = triangles.property_map<Face, Origin>("f:origin").first;
    std::vector<Face> faces(triangles.faces().begin(), triangles.faces().end());
    std::ranges::stable_sort(faces, {},
                             [&](Face face) { return std::pair(origins[face].operand, origins[face].part); });
    Mesh::Parts parts;
    Doubles x, y, z;
    std::vector<std::uint32_t> number(triangles.num_vertices() + triangles.number_of_removed_vertices(), 0);
    for (const auto vertex : triangles.vertices()) {
        number[vertex] = static_cast<std::uint32_t>(x.size());
        const Kernel::Point_3& at = triangles.point(vertex);
        x.push_back(at.x());
        y.push_back(at.y());
        z.push_back(at.z());
    }
    std::vector<double> operands(x.size(), 0), touching(x.size(), 0);
    std::optional<Origin> before;
    for (const Face face : faces) {
        if (const Origin from = origins[face]; before != from) {
            parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
            before = from;
        }
        for (const auto vertex : triangles.vertices_around_face(triangles.halfedge(face))) {
            parts.corners.push_back(number[vertex]);
            operands[number[vertex]] += origins[face].operand;
            touching[number[vertex]] += 1;
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    Doubles field(x.size());
    for (std::size_t vertex = 0; vertex < field.size(); ++vertex)
        field[vertex] = touching[vertex] > 0 ? operands[vertex] / touching[vertex] : 0;
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    parts.fields.push_back({"operand", std::move(field), plain_number});
    return *Mesh::make(std::move(parts));
}

bool overlap(const Box& a, const Box& b) {
    return a.low.x <= b.high.x && b.low.x <= a.high.x && a.low.y <= b.high.y && b.low.y <= a.high.y &&
           a.low.z <= b.high.z && b.low.z <= a.high.z;
}

Box box_of(const Triangles& triangles) {
    Box box;
    for (const auto vertex : triangles.vertices()) {
        const Kernel::Point_3& at = triangles.point(vertex);
        box.include(Vec3{at.x(), at.y(), at.z()});
    }
    return box;
}

struct Piece {
    Triangles triangles;
    Box box;
};

// One operation on two closed meshes.
Result<Piece> combined(Triangles& first, Triangles& second, Combination combination, const Run& run) {
    Triangles made;
    Keeper keeper(run);
    for (Triangles* triangles : {&first, &second, &made})
        keeper.add(*triangles);
    const auto options = CGAL::parameters::visitor(keeper).throw_on_self_intersection(true);
    const auto second_options = CGAL::parameters::all_default();
    bool done = false;
    try {
        switch (combination) {
            case Combination::joined:
                done = pmp::corefine_and_compute_union(first, second, made, options, second_options);
                break;
            case Combination::cut:
                done = pmp::corefine_and_compute_difference(first, second, made, options, second_options);
                break;
            case Combination::shared:
                done = pmp::corefine_and_compute_intersection(first, second, made, options, second_options);
                break;
        }
    } catch (const Cancelled&) {
        return cancelled_error();
    } catch (const pmp::Corefinement::Self_intersection_exception&) {
        return Error{ErrorCode::unlike_arrangement, "", "holds a body that runs through itself",
                     "Thin it, or smooth what folds."};
    }
    if (!done)
        return Error{ErrorCode::unlike_arrangement, "",
                     "makes a body that would touch itself along an edge or at a place only",
                     "Move one of the two a little, so that they overlap or stand apart."};
    const Box box = box_of(made);
    return Piece{std::move(made), box};
}

Result<std::vector<Piece>> pieces_of(const SolidSet& set, std::uint32_t operand, std::size_t target,
                                     const Run& run) {
    std::vector<Piece> pieces;
    for (const Body& body : set.bodies) {
        const auto mesh = closed_mesh(body, target, run);
        if (!mesh) return mesh.error();
        pieces.push_back({triangles_of(*mesh, operand), mesh->bounds()});
    }
    return pieces;
}

// All that overlap become one; others stay by themselves.
Result<std::vector<Piece>> all_joined(std::vector<Piece> pieces, const Run& run) {
    std::vector<Piece> made;
    double done = 0;
    for (Piece& piece : pieces) {
        run.report(done++ / static_cast<double>(pieces.size()));
        for (std::size_t at = 0; at < made.size();) {
            if (!overlap(made[at].box, piece.box)) {
                ++at;
                continue;
            }
            Result<Piece> both = combined(made[at].triangles, piece.triangles, Combination::joined, run);
            if (!both) return both.error();
            piece = *std::move(both);
            made.erase(made.begin() + static_cast<std::ptrdiff_t>(at));
        }
        made.push_back(std::move(piece));
    }
    return made;
}

Result<std::vector<Piece>> all_cut(std::vector<Piece> pieces, std::vector<Piece>& tools, const Run& run) {
    for (std::size_t at = 0; at < pieces.size(); ++at)
        for (Piece& tool : tools) {
            if (!overlap(pieces[at].box, tool.box)) continue;
            run.report(static_cast<double>(at) / static_cast<double>(pieces.size()));
            Triangles copy = tool.triangles;  // corefinement splits both
            Result<Piece> left = combined(pieces[at].triangles, copy, Combination::cut, run);
            if (!left) return left.error();
            pieces[at] = *std::move(left);
        }
    return pieces;
}

Result<std::vector<Piece>> all_shared(std::vector<Piece>& first, std::vector<Piece>& second, const Run& run) {
    std::vector<Piece> made;
    for (Piece& a : first)
        for (Piece& b : second) {
            if (!overlap(a.box, b.box)) continue;
            Triangles copy_a = a.triangles, copy_b = b.triangles;
            Result<Piece> both = combined(copy_a, copy_b, Combination::shared, run);
            if (!both) return both.error();
            made.push_back(*std::move(both));
        }
    return made;
}

Result<SolidSet> bodies_of(const std::vector<Piece>& pieces, const Run& run) {
    SolidSet set;
    for (const Piece& piece : pieces) {
        if (piece.triangles.number_of_faces() == 0) continue;
        Result<SolidSet> bodies = plume::bodies_of(mesh_of(piece.triangles), run);
        if (!bodies) return bodies.error();
        set.bodies.insert(set.bodies.end(), bodies->bodies.begin(), bodies->bodies.end());
    }
    return set;
}

Result<SolidSet> combined_unguarded(const SolidSet& first, const SolidSet& second, Combination combination,
                                    std::size_t target, const Run& run) {
    auto a = pieces_of(first, 0, target, run), b = pieces_of(second, 1, target, run);
    if (!a) return a.error();
    if (!b) return b.error();
    if (combination == Combination::joined) {
        std::vector<Piece> all = *std::move(a);
        std::ranges::move(*b, std::back_inserter(all));
        const auto made = all_joined(std::move(all), run);
        return made ? bodies_of(*made, run) : Result<SolidSet>(made.error());
    }
    const auto made =
        combination == Combination::cut ? all_cut(*std::move(a), *b, run) : all_shared(*a, *b, run);
    return made ? bodies_of(*made, run) : Result<SolidSet>(made.error());
}

// A box on one side of a plane, far larger than what is to be cut.
Mesh half_space(const Box& box, Vec3 origin, Vec3 normal, bool above) {
    const Vec3 up = unit_or_zero(normal), middle = box.centre();
    const Placement plane = placement_of(middle - up * dot(middle - origin, up), up, {});
    const double reach = 2 * box.diagonal() + length(middle - plane.origin), height = above ? reach : -reach;
    Doubles x, y, z;
    for (const double level : {0.0, height})
        for (const auto& [i, j] : {std::pair{-1, -1}, std::pair{1, -1}, std::pair{1, 1}, std::pair{-1, 1}}) {
            const Vec3 corner = plane.to_world({i * reach, j * reach, level});
            x.push_back(corner.x);
            y.push_back(corner.y);
            z.push_back(corner.z);
        }
    std::vector<std::uint32_t> corners{3, 2, 1, 0, 4, 5, 6, 7, 0, 1, 5, 4,
                                       1, 2, 6, 5, 2, 3, 7, 6, 3, 0, 4, 7};
    if (!above)
        for (std::size_t face = 0; face < corners.size(); face += 4)
            std::reverse(corners.begin() + static_cast<std::ptrdiff_t>(face),
                         corners.begin() + static_cast<std::ptrdiff_t>(face) + 4);
    return *Mesh::make(
        {std::move(x), std::move(y), std::move(z), {0, 4, 8, 12, 16, 20, 24}, std::move(corners), {}, {}});
}

}  // namespace

Result<SolidSet> combined(const SolidSet& first, const SolidSet& second, Combination combination,
                          std::size_t target, const Run& run) {
    return guarded([&] { return combined_unguarded(first, second, combination, target, run); });
}

Result<SolidSet> one_side_of(const SolidSet& set, Vec3 origin, Vec3 normal, bool above, std::size_t target,
                             const Run& run) {
    const Box box = bounds_of(Value(set));
    Result<Body> side = meshed_body(half_space(box, origin, normal, above));
    if (!side) return side.error();
    return combined(set, SolidSet{{*std::move(side)}}, Combination::shared, target, run);
}

Result<bool> runs_through_itself(const Mesh& mesh, const Run& run) {
    return guarded([&]() -> Result<bool> {
        if (run.cancelled()) return cancelled_error();
        return pmp::does_self_intersect(triangles_of(mesh, 0));
    });
}

Result<std::vector<Overlap>> overlaps_of(const SolidSet& set, std::size_t target, const Run& run) {
    std::vector<Box> boxes;
    for (const Body& body : set.bodies)
        boxes.push_back(bounds_of(Value(SolidSet{{body}})));
    std::vector<Overlap> overlaps;
    for (std::size_t first = 0; first < boxes.size(); ++first)
        for (std::size_t second = first + 1; second < boxes.size(); ++second) {
            if (run.cancelled()) return cancelled_error();
            if (!overlap(boxes[first], boxes[second])) continue;
            const auto both =
                combined({{set.bodies[first]}}, {{set.bodies[second]}}, Combination::shared, target, run);
            if (!both) {
                // Touching at an edge or a face only.
                if (both.error().code == ErrorCode::unlike_arrangement) continue;
                return both.error();
            }
            const BodyFigures shared = figures_of(*both);
            const double size = std::min(boxes[first].diagonal(), boxes[second].diagonal());
            if (shared.volume > 1e-9 * size * size * size)
                overlaps.push_back({first, second, shared.volume, shared.centroid});
        }
    return overlaps;
}

Result<Mesh> merged(const std::vector<Mesh>& closed, const Run& run) {
    SolidSet set;
    for (const Mesh& mesh : closed) {
        Result<SolidSet> bodies = bodies_of(mesh, run);
        if (!bodies) return bodies.error();
        std::ranges::move(bodies->bodies, std::back_inserter(set.bodies));
    }
    const Result<SolidSet> made = combined(set, {}, Combination::joined, 0, run);
    if (!made) return made.error();
    std::vector<Mesh> meshes;
    for (const Body& body : made->bodies) {
        Result<Mesh> mesh = closed_mesh(body, 0, run);
        if (!mesh) return mesh.error();
        Mesh::Parts parts = mesh->parts();
        parts.fields.clear();
        parts.part_starts.clear();
        meshes.push_back(*Mesh::make(std::move(parts)));
    }
    return joined(meshes);
}

}  // namespace plume
