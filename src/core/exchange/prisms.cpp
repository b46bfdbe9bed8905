#include "core/exchange/prisms.hpp"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/geometry/measures/outline_area.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

constexpr double hardly_off = 1e-9;

// Vertices in the order they follow each other, and as many, pulled along, so much further on in the mesh.
struct Rings {
    std::vector<std::uint32_t> low;
    std::uint32_t further = 0;
};

Rings rings_in_order(std::size_t first, std::size_t count) {
    Rings rings{std::vector<std::uint32_t>(count), static_cast<std::uint32_t>(count)};
    for (std::size_t at = 0; at < count; ++at)
        rings.low[at] = static_cast<std::uint32_t>(first + at);
    return rings;
}

// As the face that closes them has them, whatever order their vertices stand in.
std::optional<Rings> rings_of_cap(const Mesh& mesh, Mesh::Faces faces, std::size_t first, std::size_t count) {
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        const auto corners = mesh.face(face);
        if (corners.size() != count ||
            !std::ranges::all_of(corners, [&](std::uint32_t corner) { return corner < first + count; }))
            continue;
        return Rings{{corners.begin(), corners.end()}, static_cast<std::uint32_t>(count)};
    }
    return {};
}

bool pulled_alike(const Mesh& mesh, const Rings& rings, Vec3 along, double within) {
    return std::ranges::all_of(rings.low, [&](std::uint32_t at) {
        return length(mesh.vertex(at + rings.further) - mesh.vertex(at) - along) <= within;
    });
}

// How many faces stand between neighbours of the rings and what they are pulled to.
std::size_t sides_between(const Mesh& mesh, Mesh::Faces faces, const Rings& rings) {
    const std::size_t count = rings.low.size();
    std::map<std::uint32_t, std::size_t> place_of;
    for (std::size_t at = 0; at < count; ++at)
        place_of[rings.low[at]] = at;
    std::size_t sides = 0;
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        const auto corners = mesh.face(face);
        std::vector<std::size_t> low, high;
        for (const std::uint32_t corner : corners)
            if (const auto found = place_of.find(corner); found != place_of.end())
                low.push_back(found->second);
            else if (const auto above = place_of.find(corner - rings.further); above != place_of.end())
                high.push_back(above->second);
        std::ranges::sort(low);
        std::ranges::sort(high);
        if (corners.size() != 4 || low.size() != 2 || low != high) continue;
        const std::size_t apart = low[1] - low[0];
        sides += apart == 1 || apart == count - 1 ? 1U : 0U;
    }
    return sides;
}

std::vector<Vec3> outline_of(const Mesh& mesh, const Rings& rings, const Placement& at) {
    std::vector<Vec3> places;
    for (const std::uint32_t vertex : rings.low) {
        Vec3 local = at.to_local(mesh.vertex(vertex));
        local.z = 0;
        places.push_back(local);
    }
    return places;
}

// Faces as bars of that many sides have them: nothing else stands for the same vertices.
bool has_faces_of_a_bar(const Mesh& mesh, Mesh::Faces faces, std::size_t sides, bool hollow) {
    const std::size_t quads = hollow ? 4 * sides : sides, caps = hollow ? 0 : 2;
    if (faces.end - faces.begin != quads + caps) return false;
    std::size_t of_four = 0, of_all = 0;
    for (std::size_t face = faces.begin; face < faces.end; ++face) {
        of_four += mesh.face(face).size() == 4 ? 1U : 0U;
        of_all += mesh.face(face).size() == sides ? 1U : 0U;
    }
    return sides == 4 ? of_four == quads + caps : of_four == quads && of_all == caps;
}

}  // namespace

std::optional<Prism> prism_of(const Mesh& mesh, std::size_t part) {
    const VertexRange range = vertices_of_part(mesh, part);
    const Mesh::Faces faces = mesh.part(part);
    const bool hollow = range.count % 4 == 0 && has_faces_of_a_bar(mesh, faces, range.count / 4, true);
    const std::size_t sides = range.count / (hollow ? 4 : 2);
    const bool solid = !hollow && range.count % 2 == 0 && has_faces_of_a_bar(mesh, faces, sides, false);
    if (sides < 3 || !(hollow || solid)) return {};
    const auto capped = solid ? rings_of_cap(mesh, faces, range.first, sides) : std::nullopt;
    if (solid && !capped) return {};
    const Rings outer = capped ? *capped : rings_in_order(range.first, sides),
                inner = rings_in_order(range.first + 2 * sides, hollow ? sides : 0);
    if (sides_between(mesh, faces, outer) != sides || (hollow && sides_between(mesh, faces, inner) != sides))
        return {};
    const Vec3 start = mesh.vertex(outer.low[0]), along = mesh.vertex(outer.low[0] + outer.further) - start;
    Box box;
    for (std::size_t vertex = range.first; vertex < range.first + range.count; ++vertex)
        box.include(mesh.vertex(vertex));
    const double within = hardly_off * box.diagonal();
    if (!pulled_alike(mesh, outer, along, within) || (hollow && !pulled_alike(mesh, inner, along, within)))
        return {};
    Prism prism;
    prism.length = length(along);
    prism.at = placement_of(start, along, mesh.vertex(outer.low[1]) - start);
    for (std::size_t vertex = range.first; vertex < range.first + range.count; ++vertex) {
        const double z = prism.at.to_local(mesh.vertex(vertex)).z;
        if (std::min(std::abs(z), std::abs(z - prism.length)) > within) return {};
    }
    prism.outline = outline_of(mesh, outer, prism.at);
    if (hollow) prism.hollow = outline_of(mesh, inner, prism.at);
    for (std::vector<Vec3>* ring : {&prism.outline, &prism.hollow})
        if (area_vector(*ring).z < 0) std::ranges::reverse(*ring);
    return prism;
}

}  // namespace plume
