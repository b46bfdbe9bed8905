#include "core/exchange/prisms.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/measures/outline_area.hpp"
#include "core/geometry/parts/mesh_parts.hpp"

namespace plume {
namespace {

constexpr double hardly_off = 1e-9;

// Vertices [first, first + count) and, pulled along, the same number behind them.
struct Rings {
    std::size_t first = 0, count = 0;
};

bool pulled_alike(const Mesh& mesh, Rings rings, Vec3 along, double within) {
    for (std::size_t at = rings.first; at < rings.first + rings.count; ++at)
        if (length(mesh.vertex(at + rings.count) - mesh.vertex(at) - along) > within) return false;
    return true;
}

std::vector<Vec3> outline_of(const Mesh& mesh, Rings rings, const Placement& at) {
    std::vector<Vec3> places;
    for (std::size_t vertex = rings.first; vertex < rings.first + rings.count; ++vertex) {
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
    for (std::size_t face = 0; face < quads + caps; ++face)
        if (mesh.face(faces.begin + face).size() != (face < quads ? 4 : sides)) return false;
    return true;
}

}  // namespace

std::optional<Prism> prism_of(const Mesh& mesh, std::size_t part) {
    const VertexRange range = vertices_of_part(mesh, part);
    const Mesh::Faces faces = mesh.part(part);
    const bool hollow = range.count % 4 == 0 && has_faces_of_a_bar(mesh, faces, range.count / 4, true);
    const std::size_t sides = range.count / (hollow ? 4 : 2);
    const bool solid = !hollow && range.count % 2 == 0 && has_faces_of_a_bar(mesh, faces, sides, false);
    if (sides < 3 || !(hollow || solid)) return {};
    const Rings outer{range.first, sides}, inner{range.first + 2 * sides, sides};
    const Vec3 start = mesh.vertex(range.first), along = mesh.vertex(range.first + sides) - start;
    Box box;
    for (std::size_t vertex = range.first; vertex < range.first + range.count; ++vertex)
        box.include(mesh.vertex(vertex));
    const double within = hardly_off * box.diagonal();
    if (!pulled_alike(mesh, outer, along, within) || (hollow && !pulled_alike(mesh, inner, along, within)))
        return {};
    Prism prism;
    prism.length = length(along);
    prism.at = placement_of(start, along, mesh.vertex(range.first + 1) - start);
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
