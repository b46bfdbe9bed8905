#include "core/picture/drawable.hpp"

#include <algorithm>

#include "core/base/guarded.hpp"
#include "core/base/numbers.hpp"
#include "core/base/overloaded.hpp"
#include "core/geometry/solids/body_mesh.hpp"
#include "core/picture/draw/drawing.hpp"

namespace plume {
namespace {

// Graphics cards and ray tracers reckon in floats and square them.
constexpr double largest_drawn = 1e18;

bool all_exact(const SolidSet& set) {
    return std::ranges::all_of(set.bodies, &Body::exact);
}

// Exact ones as smooth as the view needs; where one is a mesh, all as meshes. Their numbers are shown when
// they are asked for: a body is looked at for its form.
Status draw_bodies(const SolidSet& set, DrawOptions options, const Run& run, Drawable& drawable) {
    if (options.colour_by.empty()) options.colour_by = "-";
    if (!all_exact(set)) {
        const auto mesh = mesh_of(set, options.surface_samples, run);
        return mesh ? draw_mesh(*mesh, true, options, run, drawable) : Status(mesh.error());
    }
    return draw_faces(set, options, run, drawable);
}

// The mean of some thousand of its edges.
double usual_edge_length(const Drawable& drawable) {
    const std::size_t edges = drawable.edges.size() / 2, every = edges / 2000 + 1;
    double sum = 0;
    std::size_t count = 0;
    for (std::size_t edge = 0; edge < edges; edge += every, ++count) {
        const DrawVertex &a = drawable.vertices[drawable.edges[2 * edge]],
                         &b = drawable.vertices[drawable.edges[2 * edge + 1]];
        sum += length(drawable.absolute(a.x, a.y, a.z) - drawable.absolute(b.x, b.y, b.z));
    }
    return count > 0 ? sum / static_cast<double>(count) : 0;
}

}  // namespace

bool refines(const Value& value) {
    if (const auto* set = std::get_if<SolidSet>(&value)) return all_exact(*set);
    return kind_of(value) == Kind::surface;
}

Result<Drawable> make_drawable(const Value& value, const DrawOptions& options, const Run& run) {
    Drawable drawable;
    drawable.refines = refines(value);
    const Overloaded draw{
        [&](const PointLattice& lattice) -> Status {
            draw_lattice(lattice, "", options, drawable);
            return Done{};
        },
        [&](const FieldOnPoints& item) -> Status {
            draw_lattice(item.points, item.name, options, drawable);
            return Done{};
        },
        [&](const Attractors& attractors) -> Status {
            draw_attractors(attractors, drawable);
            return Done{};
        },
        [&](const Mesh& mesh) -> Status { return draw_mesh(mesh, false, options, run, drawable); },
        [&](const SurfaceSet& set) -> Status { return draw_surfaces(set, options, run, drawable); },
        [&](const CurveSet& set) -> Status {
            draw_curves(set, options, drawable);
            return Done{};
        },
        [&](const DirectionsOnPoints& item) -> Status {
            draw_directions(item, options, drawable);
            return Done{};
        },
        [&](const Placements& placements) -> Status {
            draw_placements(placements, drawable);
            return Done{};
        },
        [&](const SolidSet& set) -> Status { return draw_bodies(set, options, run, drawable); },
        [](const Quantity&) -> Status { return Done{}; }};  // a number has no place
    const Status drawn = guarded([&]() -> Status { return std::visit(draw, value); });
    if (!drawn) return drawn.error();
    if (run.cancelled()) return cancelled_error();
    drawable.edge_length = usual_edge_length(drawable) * drawable.edge_pieces;
    if (drawable.bounds.diagonal() > largest_drawn)
        return Error{
            ErrorCode::out_of_range, "",
            "This is too large to be drawn, " + short_text(drawable.bounds.diagonal()) + " from end to end",
            "Look at the numbers that move it so far."};
    return drawable;
}

}  // namespace plume
