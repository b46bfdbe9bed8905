// Meshes all of whose parts are one shape: the shape is drawn at each of them. Where that would be more
// triangles than can be drawn in time, something simpler stands for the shape, and the shape itself only
// where a view sees it large enough.

#include <array>
#include <atomic>
#include <numeric>

#include "core/base/parallel.hpp"
#include "core/picture/draw/drawing.hpp"
#include "core/picture/draw/stand_ins.hpp"
#include "core/picture/repeated_parts.hpp"

namespace plume {
namespace {

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

std::size_t triangles_of_first_part(const Mesh& mesh) {
    const std::size_t faces = mesh.part(0).end;
    return mesh.parts().first[faces] - 2 * faces;
}

DrawShape add_shape(const Mesh& mesh, const MeshColours& colours, const Run& run, Drawable& drawable) {
    std::vector<std::uint32_t> faces(mesh.part(0).end);
    std::iota(faces.begin(), faces.end(), 0U);
    add_facets(mesh, faces, nullptr, colours, run, drawable);
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

}  // namespace

bool draw_repeats(const Mesh& mesh, const MeshColours& colours, const DrawOptions& options, const Run& run,
                  Drawable& drawable) {
    const std::size_t own = triangles_of_first_part(mesh), count = mesh.part_count();
    const bool whole = own * count <= options.most_repeated;
    if (count < 2 || (!whole && fewest_stand_in_triangles * count > options.most_repeated)) return false;
    if (whole && options.view) return false;
    const FirstPart first(mesh);
    const std::size_t stand_in = first.stand_in_triangles(options.most_repeated / count);
    if (!whole && stand_in == 0) return false;
    const auto maps = repeats_of(mesh, run);
    const auto part_colours = maps ? colours_of_parts(mesh, colours, run) : std::nullopt;
    if (!part_colours) return false;
    std::vector<std::uint8_t> with_shape(count, whole ? 1 : 0);
    if (options.view)
        for (const std::size_t part : parts_worth_their_shape(
                 *maps, first.bounds(), *options.view, (options.most_repeated - stand_in * count) / own))
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
    if (!whole) add_repeats(first.add_stand_in(stand_in, drawable), 0);
    drawable.closer = options.view && any;
    drawable.thinned = !whole;
    if (!options.view && own * count > 2 * options.most_coarse && first.slender())
        first.add_coarse(*maps, *part_colours, options.most_coarse, drawable);
    return true;
}

}  // namespace plume
