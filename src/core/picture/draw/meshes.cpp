#include "core/picture/draw/drawing.hpp"

#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel.hpp"
#include "core/data/not_finite.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/picture/mesh_draft.hpp"

namespace plume {
namespace {

// Numbers of the faces whose corners are all finite; the others are counted.
std::vector<std::uint32_t> finite_faces(const Mesh& mesh, Drawable& drawable) {
    std::vector<std::uint32_t> faces(mesh.face_count());
    std::iota(faces.begin(), faces.end(), 0U);
    if (all_finite(mesh.x()) && all_finite(mesh.y()) && all_finite(mesh.z())) return faces;
    std::erase_if(faces, [&](std::uint32_t face) {
        if (std::ranges::all_of(mesh.face(face), [&](std::uint32_t c) { return is_finite(mesh.vertex(c)); }))
            return false;
        if (drawable.not_finite_points++ == 0) drawable.first_not_finite = face;
        return true;
    });
    return faces;
}

bool tells_parts(const Mesh& mesh, const Drawable& drawable) {
    return drawable.parts_are == DrawnPart::faces || mesh.part_count() > 1;
}

std::uint32_t part_drawn(const Mesh& mesh, std::uint32_t face, const Drawable& drawable) {
    return drawable.parts_are == DrawnPart::faces ? face : static_cast<std::uint32_t>(mesh.part_of(face));
}

// Leaves in `faces` those of which something is drawn.
Status add_draft(const Mesh& mesh, std::vector<std::uint32_t>& faces, const MeshColours& colours,
                 std::size_t most, bool coarse, const Run& run, Drawable& drawable) {
    auto triangles = draft_of(mesh, faces, most, run);
    if (!triangles) return triangles.error();
    faces.clear();
    for (const DraftTriangle& triangle : *triangles)
        if (faces.empty() || faces.back() != triangle.face) faces.push_back(triangle.face);
    if (coarse) thin_layers(*triangles, drawable.bounds);
    DrawArray<std::uint32_t>& indices = coarse ? drawable.coarse : drawable.triangles;
    for (const DraftTriangle& triangle : *triangles) {
        const Vec3 normal = unit_or_zero(area_vector(mesh, triangle.face));
        if (tells_parts(mesh, drawable))
            drawable.vertex_parts.insert(drawable.vertex_parts.end(), 3,
                                         part_drawn(mesh, triangle.face, drawable));
        for (std::size_t corner = 0; corner < 3; ++corner) {
            indices.push_back(static_cast<std::uint32_t>(drawable.vertices.size()));
            drawable.vertices.push_back(vertex(triangle.corners[corner], drawable.origin, normal,
                                               colours.at(triangle.face, triangle.vertices[corner])));
        }
    }
    return Done{};
}

std::size_t triangle_count_of(const Mesh& mesh) {
    return mesh.corner_count() - 2 * mesh.face_count();
}

// Where faces of a body turn by more, there is an edge.
constexpr double crease_rad = 0.45;

}  // namespace

bool colours_faces(const Mesh& mesh, const std::string& wanted) {
    return wanted.empty()
               ? !mesh.face_fields().empty()
               : std::ranges::find(mesh.face_fields(), wanted, &Field::name) != mesh.face_fields().end();
}

MeshColours::MeshColours(const Mesh& mesh, const std::string& wanted, Drawable& drawable)
    : by_face_(colours_faces(mesh, wanted)),
      colours_(by_face_ ? mesh.face_fields() : mesh.fields(), wanted, "", drawable,
               [](std::size_t) { return true; }) {}

// Facets are shaded flat: every corner gets a vertex of its own with the facet's normal, or the one that the
// creases give it. Where each facet's corners come to stand is counted first, so that facets are written side
// by side.
void add_facets(const Mesh& mesh, const std::vector<std::uint32_t>& faces, const Creases* creases,
                const MeshColours& colours, const Run& run, Drawable& drawable) {
    std::vector<std::uint32_t> first(faces.size() + 1, 0);
    for (std::size_t at = 0; at < faces.size(); ++at)
        first[at + 1] = first[at] + static_cast<std::uint32_t>(mesh.face(faces[at]).size());
    drawable.vertices.resize(first.back());
    if (tells_parts(mesh, drawable)) drawable.vertex_parts.resize(first.back());
    drawable.edges.resize(2 * static_cast<std::size_t>(first.back()));
    drawable.triangles.resize(3 * (static_cast<std::size_t>(first.back()) - 2 * faces.size()));
    parallel_blocks(faces.size(), 4096, run, [&](std::size_t begin, std::size_t end) {
        for (std::size_t at = begin; at < end; ++at) {
            const auto corners = mesh.face(faces[at]);
            const Vec3 normal = unit_or_zero(area_vector(mesh, faces[at]));
            const std::uint32_t start = first[at], count = first[at + 1] - start;
            if (!drawable.vertex_parts.empty())
                std::fill_n(drawable.vertex_parts.data() + start, count,
                            part_drawn(mesh, faces[at], drawable));
            std::uint32_t* triangle =
                drawable.triangles.data() + 3 * (static_cast<std::size_t>(start) - 2 * at);
            for (std::uint32_t corner = 0; corner < count; ++corner) {
                drawable.vertices[start + corner] =
                    vertex(mesh.vertex(corners[corner]), drawable.origin,
                           creases ? creases->normals[start + corner] : normal,
                           colours.at(faces[at], corners[corner]));
                drawable.edges[2 * static_cast<std::size_t>(start + corner)] = start + corner;
                drawable.edges[2 * static_cast<std::size_t>(start + corner) + 1] =
                    start + (corner + 1) % count;
            }
            for_each_triangle(mesh, faces[at], [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
                *triangle++ = start + a;
                *triangle++ = start + b;
                *triangle++ = start + c;
            });
        }
    });
    if (!creases) return;
    std::size_t kept = 0;
    for (std::size_t corner = 0; corner < creases->is_edge.size(); ++corner) {
        if (creases->is_edge[corner] == 0) continue;
        drawable.edges[kept++] = drawable.edges[2 * corner];
        drawable.edges[kept++] = drawable.edges[2 * corner + 1];
    }
    drawable.edges.resize(kept);
}

namespace {

// More facets than can be seen are drawn by fewer, without edges, which would stand too close to be told
// apart.
Status draw_whole(const Mesh& mesh, std::vector<std::uint32_t>& faces, bool creased,
                  const MeshColours& colours, const DrawOptions& options, const Run& run,
                  Drawable& drawable) {
    drawable.thinned = triangle_count_of(mesh) > options.most_triangles;
    if (drawable.thinned)
        return add_draft(mesh, faces, colours, options.most_triangles, false, run, drawable);
    if (creased) {
        const Creases seen = creases_of(mesh, crease_rad);
        add_facets(mesh, faces, &seen, colours, run, drawable);
    } else
        add_facets(mesh, faces, nullptr, colours, run, drawable);
    return Done{};
}

}  // namespace

Status draw_mesh(const Mesh& mesh, bool creased, const DrawOptions& options, const Run& run,
                 Drawable& drawable) {
    settle(drawable, mesh.bounds());
    drawable.refines = false;
    // Creased ones are bodies, whose facets are nothing by themselves.
    if (!creased && mesh.part_count() == 1) drawable.parts_are = DrawnPart::faces;
    const MeshColours colours(mesh, options.colour_by, drawable);
    std::vector<std::uint32_t> faces = finite_faces(mesh, drawable);
    const bool whole = faces.size() == mesh.face_count();
    const bool repeated = whole && !creased && draw_repeats(mesh, colours, options, run, drawable);
    // Repeats alone are drawn otherwise for a view.
    if (options.view) return Done{};
    if (!repeated) {
        Status drawn = draw_whole(mesh, faces, creased && whole, colours, options, run, drawable);
        if (!drawn) return drawn;
    }
    if (triangle_count_of(mesh) <= 2 * options.most_coarse || !drawable.coarse.empty()) return Done{};
    // Of a form drawn by few triangles the coarse one is made of these.
    return add_draft(mesh, faces, colours, options.most_coarse, true, run, drawable);
}

}  // namespace plume
