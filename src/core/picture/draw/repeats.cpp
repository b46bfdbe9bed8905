// Meshes all of whose parts are one shape: the shape is drawn at each of them. Where that would be more
// triangles than can be drawn in time, a box stands for the shape, and the shape itself only where a view
// sees it large enough.

#include <array>
#include <atomic>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/picture/draw/drawing.hpp"
#include "core/picture/repeated_parts.hpp"

namespace plume {
namespace {

constexpr std::size_t box_triangles = 12;

// One number for each part, if all its corners have the same; so it is with what numbers posts and copies.
std::optional<std::vector<float>> colours_of_parts(const Mesh& mesh, const MeshColours& colours,
                                                   const Run& run) {
    std::vector<float> result(mesh.part_count());
    std::atomic<bool> same = true;
    parallel_blocks(result.size(), 4096, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t part = begin; part < end; ++part) {
            const Mesh::Faces faces = mesh.part(part);
            const float colour = colours.at(faces.begin, mesh.face(faces.begin)[0]);
            result[part] = colour;
            for (std::size_t face = faces.begin; face < faces.end; ++face)
                for (const std::uint32_t corner : mesh.face(face))
                    if (colours.at(face, corner) != colour) same = false;
        }
    });
    if (!same || run.cancelled()) return {};
    return result;
}

// Of places relative to the drawable's origin.
DrawRepeat repeat_of(const Affine& map, Vec3 origin, float colour, std::size_t part) {
    const auto floats = [](Vec3 v) {
        return std::array{static_cast<float>(v.x), static_cast<float>(v.y), static_cast<float>(v.z)};
    };
    return {floats(map.x), floats(map.y),
            floats(map.z), floats(map.at(origin) - origin),
            colour,        static_cast<std::uint32_t>(part)};
}

std::vector<std::uint32_t> faces_of_first_part(const Mesh& mesh) {
    std::vector<std::uint32_t> faces(mesh.part(0).end);
    std::iota(faces.begin(), faces.end(), 0U);
    return faces;
}

std::size_t triangles_of_first_part(const Mesh& mesh) {
    const std::size_t faces = mesh.part(0).end;
    return mesh.parts().first[faces] - 2 * faces;
}

// The first part as its vertices, each as often as faces meet there, and its volume if it is closed.
struct Solid {
    std::vector<Vec3> corners;
    double volume = 0;
};
Solid solid_of_first_part(const Mesh& mesh) {
    Solid solid;
    const Vec3 origin = mesh.vertex(mesh.face(0)[0]);
    for (const std::uint32_t face : faces_of_first_part(mesh)) {
        const auto corners = mesh.face(face);
        for (const std::uint32_t corner : corners)
            solid.corners.push_back(mesh.vertex(corner));
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - origin;
            solid.volume +=
                dot(p, cross(mesh.vertex(corners[b]) - origin, mesh.vertex(corners[c]) - origin)) / 6;
        });
    }
    return solid;
}

struct Span {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    double size() const { return high - low; }
    double at(double share) const { return std::midpoint(low, high) + (share - 0.5) * size(); }
};

// A box along the axes of the shape, as long as it is and no more than its volume.
DrawShape add_box(const Mesh& mesh, Drawable& drawable) {
    const Solid solid = solid_of_first_part(mesh);
    const BestFit fit = best_fit(solid.corners);
    const std::array<Vec3, 3> axes{fit.placement.along, fit.placement.across, fit.placement.up};
    std::array<Span, 3> spans;
    for (const Vec3 corner : solid.corners)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double along = dot(corner - fit.placement.origin, axes[axis]);
            spans[axis].low = std::min(spans[axis].low, along);
            spans[axis].high = std::max(spans[axis].high, along);
        }
    const double whole = spans[0].size() * spans[1].size() * spans[2].size();
    const double share = whole > 0 ? std::sqrt(std::clamp(solid.volume / whole, 0.1, 1.0)) : 1;
    const auto corner = [&](std::array<bool, 3> high) {
        Vec3 place = fit.placement.origin;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double kept = axis == 0 ? 1 : share;
            place = place + axes[axis] * spans[axis].at(0.5 + (high[axis] ? 0.5 : -0.5) * kept);
        }
        return place;
    };
    DrawShape shape;
    shape.first_triangle_index = drawable.triangles.size();
    shape.triangle_index_count = 3 * box_triangles;
    for (std::size_t axis = 0; axis < 3; ++axis)
        for (const bool high : {false, true}) {
            const auto start = static_cast<std::uint32_t>(drawable.vertices.size());
            const Vec3 normal = axes[axis] * (high ? 1.0 : -1.0);
            for (const auto& [b, c] : {std::pair{false, false}, {true, false}, {true, true}, {false, true}}) {
                std::array<bool, 3> which{};
                which[axis] = high;
                // Anticlockwise seen from outside.
                which[(axis + (high ? 1 : 2)) % 3] = b;
                which[(axis + (high ? 2 : 1)) % 3] = c;
                drawable.vertices.push_back(vertex(corner(which), drawable.origin, normal, plain_coordinate));
            }
            for (const std::uint32_t index : {0U, 1U, 2U, 0U, 2U, 3U})
                drawable.triangles.push_back(start + index);
        }
    return shape;
}

DrawShape add_shape(const Mesh& mesh, const MeshColours& colours, const Run& run, Drawable& drawable) {
    add_facets(mesh, faces_of_first_part(mesh), nullptr, colours, run, drawable);
    drawable.vertex_parts.clear();
    return {0, drawable.triangles.size(), 0, drawable.edges.size(), 0, 0};
}

// Parts that the view sees large enough to tell their shape, the largest first, and no more than that.
std::vector<std::size_t> parts_worth_their_shape(const std::vector<Affine>& maps, const Box& first_box,
                                                 const DrawnView& view, std::size_t most) {
    constexpr double least_share = 0.008;  // of the view's height: some six pixels
    struct Seen {
        double share;
        std::size_t part;
    };
    std::vector<Seen> seen;
    const double size = first_box.diagonal();
    for (std::size_t part = 0; part < maps.size(); ++part) {
        const Vec3 centre = maps[part].at(first_box.centre());
        const double reach =
            size * std::max({length(maps[part].x), length(maps[part].y), length(maps[part].z)});
        double x = 0, y = 0, depth = 0;
        if (!view.camera.project(centre, view.aspect, x, y, depth)) continue;
        const double share = reach * view.camera.pixels_per_length(centre, 1);
        const double margin = 0.15 + share;
        if (share < least_share || x < -margin || x > 1 + margin || y < -margin || y > 1 + margin) continue;
        seen.push_back({share, part});
    }
    const std::size_t kept = std::min(most, seen.size());
    std::partial_sort(seen.begin(), seen.begin() + static_cast<std::ptrdiff_t>(kept), seen.end(),
                      [](const Seen& a, const Seen& b) {
                          return a.share > b.share || (a.share == b.share && a.part < b.part);
                      });
    std::vector<std::size_t> parts;
    for (std::size_t at = 0; at < kept; ++at)
        parts.push_back(seen[at].part);
    return parts;
}

Box box_of_first_part(const Mesh& mesh) {
    Box box;
    const std::uint32_t end = mesh.parts().first[mesh.part(0).end];
    for (std::uint32_t corner = 0; corner < end; ++corner)
        box.include(mesh.vertex(mesh.parts().corners[corner]));
    return box;
}

}  // namespace

bool draw_repeats(const Mesh& mesh, const MeshColours& colours, const DrawOptions& options, const Run& run,
                  Drawable& drawable) {
    const std::size_t own = triangles_of_first_part(mesh), count = mesh.part_count();
    const bool whole = own * count <= options.most_repeated;
    if (count < 2 || (!whole && box_triangles * count > options.most_repeated)) return false;
    if (whole && options.view) return false;
    const auto maps = repeats_of(mesh, run);
    const auto part_colours = maps ? colours_of_parts(mesh, colours, run) : std::nullopt;
    if (!part_colours) return false;
    std::vector<std::uint8_t> with_shape(count, whole ? 1 : 0);
    if (options.view)
        for (const std::size_t part :
             parts_worth_their_shape(*maps, box_of_first_part(mesh), *options.view,
                                     (options.most_repeated - box_triangles * count) / own))
            with_shape[part] = 1;
    drawable.refines = !whole;
    const auto add_repeats = [&](DrawShape shape, std::uint8_t wanted) {
        shape.first_repeat = drawable.repeats.size();
        for (std::size_t part = 0; part < count; ++part)
            if (with_shape[part] == wanted)
                drawable.repeats.push_back(
                    repeat_of((*maps)[part], drawable.origin, (*part_colours)[part], part));
        shape.repeat_count = drawable.repeats.size() - shape.first_repeat;
        drawable.shapes.push_back(shape);
    };
    const bool any = std::ranges::find(with_shape, 1) != with_shape.end();
    if (any) add_repeats(add_shape(mesh, colours, run, drawable), 1);
    if (!whole) add_repeats(add_box(mesh, drawable), 0);
    drawable.closer = options.view && any;
    drawable.thinned = !whole;
    return true;
}

}  // namespace plume
