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

// Bodies whose patches or vertices carry their body's number.
SolidSet carrying(const SolidSet& set, const Field& numbers) {
    SolidSet carried;
    for (std::size_t number = 0; number < set.bodies.size(); ++number) {
        const Body& body = set.bodies[number];
        const auto everywhere = [&](std::size_t count) {
            return std::vector<Field>{
                {numbers.name, Doubles(count, numbers.values[number]), numbers.dimension}};
        };
        if (!body.exact()) {
            Mesh::Parts parts = body.mesh().parts();
            parts.fields = everywhere(parts.x.size());
            carried.bodies.emplace_back(*Mesh::make(std::move(parts)), body.figures());
            continue;
        }
        std::vector<SplinePatch> patches;
        for (const SplinePatch& patch : body.patches()) {
            SplinePatch::Parts parts = patch.parts();
            parts.fields = everywhere(parts.x.size());
            patches.push_back(*SplinePatch::make(std::move(parts)));
        }
        carried.bodies.emplace_back(std::move(patches), body.figures(), body.edges_within());
    }
    return carried;
}

// Exact ones as smooth as the view needs; where one is a mesh, all as meshes. Their numbers are shown when
// they are asked for: a body is looked at for its form.
Status draw_bodies(SolidSet set, DrawOptions options, const Run& run, Drawable& drawable) {
    drawable.closed = true;
    if (options.colour_by.empty()) options.colour_by = "-";
    const auto own = std::ranges::find(set.fields, options.colour_by, &Field::name);
    if (own != set.fields.end()) set = carrying(set, *own);
    if (!all_exact(set)) {
        const auto mesh = mesh_of(set, options.surface_samples, run);
        return mesh ? draw_mesh(*mesh, true, options, run, drawable) : Status(mesh.error());
    }
    return draw_faces(set, options, run, drawable);
}

// The median of some thousand of its edges: of slender bars that of their sections.
double usual_edge_length(const Drawable& drawable) {
    const std::size_t edges = drawable.edges.size() / 2, every = edges / 2000 + 1;
    const auto place = [&](std::size_t index) {
        const DrawVertex& own = drawable.vertices[drawable.edges[index]];
        const DrawVertex v = drawable.repeats.empty() ? own : at_repeat(drawable.repeats.front(), own);
        return drawable.absolute(v.x, v.y, v.z);
    };
    std::vector<double> lengths;
    for (std::size_t edge = 0; edge < edges; edge += every)
        lengths.push_back(length(place(2 * edge) - place(2 * edge + 1)));
    if (lengths.empty()) return 0;
    const auto middle = lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2);
    std::ranges::nth_element(lengths, middle);
    return *middle;
}

// Of lines that are things themselves, for while something moves: pieces that go on from each other are drawn
// as one, so many at a time. Where these are many, too, every so many of them stands for all.
void add_coarse_lines(std::size_t most, Drawable& drawable) {
    const std::size_t pieces = drawable.edges.size() / 2, at_a_time = pieces / most + 1;
    const bool only_lines = drawable.triangles.empty() && drawable.shapes.empty();
    if (!only_lines || drawable.lines_are == LineRole::edges || at_a_time == 1) return;
    const auto from = [&](std::size_t piece) { return drawable.edges[2 * piece]; };
    const auto to = [&](std::size_t piece) { return drawable.edges[2 * piece + 1]; };
    std::vector<std::pair<std::uint32_t, std::uint32_t>> joined;
    for (std::size_t first = 0, next = 0; first < pieces; first = next) {
        next = first + 1;
        while (next < pieces && next - first < at_a_time && to(next - 1) == from(next))
            ++next;
        joined.emplace_back(from(first), to(next - 1));
    }
    const std::size_t every = joined.size() > 2 * most ? joined.size() / most + 1 : 1;
    for (std::size_t piece = 0; piece < joined.size(); piece += every)
        drawable.coarse.insert(drawable.coarse.end(), {joined[piece].first, joined[piece].second});
}

}  // namespace

bool refines(const Value& value) {
    if (const auto* set = std::get_if<SolidSet>(&value)) return all_exact(*set);
    if (const auto* mesh = std::get_if<Mesh>(&value)) return mesh->part_count() > 1;
    return kind_of(value) == Kind::surface;
}

std::size_t bytes_of(const Drawable& drawable) {
    const auto bytes = [](const auto&... arrays) { return (... + (arrays.size() * sizeof(arrays[0]))); };
    return bytes(drawable.vertices, drawable.triangles, drawable.coarse, drawable.edges, drawable.points,
                 drawable.repeats, drawable.shapes, drawable.vertex_parts, drawable.node_starts,
                 drawable.lines);
}

DrawVertex at_repeat(const DrawRepeat& repeat, const DrawVertex& v) {
    const auto vec = [](const std::array<float, 3>& a) {
        return Vec3{static_cast<double>(a[0]), static_cast<double>(a[1]), static_cast<double>(a[2])};
    };
    const Vec3 x = vec(repeat.x), y = vec(repeat.y), z = vec(repeat.z);
    const auto sum = [](Vec3 a, Vec3 b, Vec3 c, float by_a, float by_b, float by_c) {
        return a * static_cast<double>(by_a) + b * static_cast<double>(by_b) + c * static_cast<double>(by_c);
    };
    const Vec3 place = vec(repeat.to) + sum(x, y, z, v.x, v.y, v.z);
    // Areas, and with them normals, are turned by the cofactors.
    const Vec3 normal = unit_or_zero(sum(cross(y, z), cross(z, x), cross(x, y), v.nx, v.ny, v.nz));
    return {static_cast<float>(place.x),
            static_cast<float>(place.y),
            static_cast<float>(place.z),
            static_cast<float>(normal.x),
            static_cast<float>(normal.y),
            static_cast<float>(normal.z),
            repeat.colour};
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
        [&](const CurveSet& set) -> Status { return draw_curves(set, options, run, drawable); },
        [&](const DirectionsOnPoints& item) -> Status {
            draw_directions(item, options, drawable);
            return Done{};
        },
        [&](const Placements& placements) -> Status {
            draw_placements(placements, options, drawable);
            return Done{};
        },
        [&](const SolidSet& set) -> Status { return draw_bodies(set, options, run, drawable); },
        [&](const BarFrame& frame) -> Status {
            draw_frame(frame, options, drawable);
            return Done{};
        },
        // A number has no place; what leaves is drawn where it is made.
        [](const Quantity&) -> Status { return Done{}; }, [](const Delivery&) -> Status { return Done{}; }};
    const Status drawn = guarded([&]() -> Status { return std::visit(draw, value); });
    if (!drawn) return drawn.error();
    if (run.cancelled()) return cancelled_error();
    add_coarse_lines(options.most_coarse, drawable);
    drawable.edge_length = usual_edge_length(drawable) * drawable.edge_pieces;
    if (drawable.bounds.diagonal() > largest_drawn)
        return Error{
            ErrorCode::out_of_range, "",
            "This is too large to be drawn, " + short_text(drawable.bounds.diagonal()) + " from end to end",
            "Look at the numbers that move it so far."};
    return drawable;
}

}  // namespace plume
