#include "core/steps/sheets/led_out.hpp"

#include <optional>

#include "core/base/parallel.hpp"
#include "core/geometry/frames/unions.hpp"
#include "core/geometry/meshes/mesh_sides.hpp"
#include "core/geometry/meshes/mesh_volume.hpp"
#include "core/geometry/meshes/sides_through.hpp"
#include "core/geometry/meshes/triangle_tree.hpp"
#include "core/geometry/meshes/vertex_places.hpp"
#include "core/steps/sheets/loose_pieces.hpp"

namespace plume {
namespace {

constexpr std::size_t places_a_block = 256;
// Of the gap; what is less deep lies on the form, and no way is across it.
constexpr double least_deep = 1e-9;

// Of an edge, what is left of it at least where its ends are led.
constexpr double least_left = 0.25;

// Where places would come to lie so near each other that nothing could take them apart any more.
std::vector<char> crowded(const SheetEdges& edges, const std::vector<Vec3>& from,
                          const std::vector<Vec3>& to) {
    std::vector<char> is_crowded(from.size(), 0);
    for (const auto& [a, b] : edges)
        if (length(to[b] - to[a]) < least_left * length(from[b] - from[a])) is_crowded[a] = is_crowded[b] = 1;
    return is_crowded;
}

// Leads every place for which out_to(at) says where to.
template <class OutTo>
Result<LedOut> led(const SheetEdges& edges, const std::vector<double>& firmness, std::vector<Vec3>& places,
                   const Run& run, const OutTo& out_to) {
    std::vector<char> is_there(places.size(), 0);
    std::vector<Vec3> to = places;
    const bool done =
        parallel_blocks(places.size(), places_a_block, run, [&](std::size_t begin, std::size_t end) {
            for (std::size_t at = begin; at < end; ++at) {
                const std::optional<Vec3> out = out_to(at);
                if (!out) continue;
                is_there[at] = 1;
                if (firmness[at] < 1) to[at] = *out;
            }
        });
    if (!done) return cancelled_error();
    const std::vector<char> is_crowded = crowded(edges, places, to);
    LedOut result;
    for (std::size_t at = 0; at < places.size(); ++at) {
        if (is_there[at] == 0) continue;
        if (firmness[at] == 1) {
            ++result.held;
        } else if (is_crowded[at] != 0) {
            ++result.crowded;
        } else {
            ++result.led;
            places[at] = to[at];
        }
    }
    return result;
}

Result<LedOut> lead_out_of_closed(const Mesh& form, const SheetEdges& edges, double gap,
                                  const std::vector<double>& firmness, std::vector<Vec3>& places,
                                  const Run& run) {
    const TriangleTree tree(form, TriangleNormals::weighed);
    // Faces that look inwards all of them enclose as much as those that look outwards.
    const double outwards = volume_of(form) < 0 ? -1 : 1;
    auto result = led(edges, firmness, places, run, [&](std::size_t at) -> std::optional<Vec3> {
        const PlaceOnMesh nearest = tree.nearest(places[at]);
        const Vec3 out = nearest.normal * outwards;
        if (dot(places[at] - nearest.place, out) >= 0) return {};
        return nearest.place + out * (gap / length(out));
    });
    if (result) result->closed = true;
    return result;
}

// Of places: whether they are cut off from a larger part of what hangs together. `cut`: edges, in order.
std::vector<char> beyond_largest(const Sheet& sheet, const SheetEdges& edges,
                                 const std::vector<std::uint32_t>& cut) {
    Unions parts(sheet.vertex_count);
    auto next_cut = cut.begin();
    for (std::size_t edge = 0; edge < edges.size(); ++edge) {
        if (next_cut != cut.end() && *next_cut == edge)
            ++next_cut;
        else
            parts.join(edges[edge][0], edges[edge][1]);
    }
    std::vector<std::size_t> size(sheet.vertex_count, 0);
    for (std::uint32_t at = 0; at < sheet.vertex_count; ++at)
        ++size[parts.of(at)];
    std::vector<char> beyond(sheet.vertex_count, 0);
    for (const Piece& piece : pieces_of(sheet)) {
        // Of parts of the same size the first stays.
        std::uint32_t largest = parts.of(piece.front());
        for (const std::uint32_t at : piece)
            if (size[parts.of(at)] > size[largest]) largest = parts.of(at);
        for (const std::uint32_t at : piece)
            beyond[at] = parts.of(at) == largest ? 0 : 1;
    }
    return beyond;
}

}  // namespace

Result<LedOut> lead_out(const Mesh& form, const Sheet& sheet, double gap, const std::vector<double>& firmness,
                        std::vector<Vec3>& places, const Run& run) {
    const SheetEdges edges = edges_of(sheet);
    if (is_closed(form)) return lead_out_of_closed(form, edges, gap, firmness, places, run);
    const auto through = sides_through(places, edges, form, run);
    if (!through) return through.error();
    if (through->empty()) return LedOut{};
    const std::vector<char> beyond = beyond_largest(sheet, edges, *through);
    const TriangleTree tree(form);
    return led(edges, firmness, places, run, [&](std::size_t at) -> std::optional<Vec3> {
        if (beyond[at] == 0) return {};
        const Vec3 nearest = tree.nearest(places[at]).place, across = nearest - places[at];
        const double deep = length(across);
        if (deep <= least_deep * gap) return {};
        return nearest + across * (gap / deep);
    });
}

Result<GoesThrough> what_goes_through(const Mesh& form, const Sheet& sheet, const std::vector<Vec3>& places,
                                      const Mesh* lying, const Run& run) {
    const auto through = sides_through(places, edges_of(sheet), form, run);
    if (!through) return through.error();
    GoesThrough goes{through->size(), 0};
    if (lying == nullptr) return goes;
    const auto pierced = sides_through(vertex_places(form), sides_of(form).ends, *lying, run);
    if (!pierced) return pierced.error();
    goes.sides = pierced->size();
    return goes;
}

}  // namespace plume
