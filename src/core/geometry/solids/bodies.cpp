#include "core/geometry/solids/bodies.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/numbers.hpp"
#include "core/base/parallel_results.hpp"
#include "core/base/sum.hpp"
#include "core/data/gathered.hpp"
#include "core/data/place_text.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/meshes/joined_meshes.hpp"
#include "core/geometry/meshes/triangulate.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"

namespace plume {
namespace {

Error no_volume() {
    return {ErrorCode::too_few_points, "", "This encloses no volume",
            "Give it a thickness in every direction."};
}

bool is_nothing(double volume, double size) {
    return !(std::abs(volume) > 1e-15 * size * size * size) || !std::isfinite(volume);
}

// Moments from a place, taken about the centroid.
BodyFigures about_centroid(Vec3 from, double volume, double area, Vec3 moment, Vec3 second) {
    const Vec3 off = moment * (1 / volume);
    return {volume,
            area,
            from + off,
            {second.x - volume * off.x * off.x, second.y - volume * off.y * off.y,
             second.z - volume * off.z * off.z}};
}

// Volume and centroid by the cones of triangles from a place amid them.
BodyFigures figures_of(const Mesh& mesh) {
    const Vec3 middle = mesh.bounds().centre();
    Sum volume, area, x, y, z, xx, yy, zz;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - middle, q = mesh.vertex(corners[b]) - middle,
                       r = mesh.vertex(corners[c]) - middle;
            const double cone = dot(p, cross(q, r)) / 6;
            const Vec3 moment = (p + q + r) * (cone / 4);
            volume.add(cone);
            area.add(length(cross(q - p, r - p)) / 2);
            x.add(moment.x);
            y.add(moment.y);
            z.add(moment.z);
            const auto second = [&](double Vec3::*part) {
                const double a2 = p.*part, b2 = q.*part, c2 = r.*part;
                return cone / 10 * (a2 * a2 + b2 * b2 + c2 * c2 + a2 * b2 + a2 * c2 + b2 * c2);
            };
            xx.add(second(&Vec3::x));
            yy.add(second(&Vec3::y));
            zz.add(second(&Vec3::z));
        });
    }
    const Vec3 moment{x.value(), y.value(), z.value()};
    return about_centroid(middle, volume.value(), area.value(), moment, {xx.value(), yy.value(), zz.value()});
}

constexpr std::uint32_t no_number = 0xffffffff;
using Faces = std::vector<std::size_t>;

// The faces that hang together by vertices, piece by piece.
std::vector<Faces> pieces_of(const Mesh& mesh) {
    std::vector<std::uint32_t> root(mesh.vertex_count());
    std::iota(root.begin(), root.end(), 0U);
    const auto find = [&](std::uint32_t at) {
        while (root[at] != at)
            at = root[at] = root[root[at]];
        return at;
    };
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face))
            root[find(corner)] = find(mesh.face(face)[0]);
    std::vector<std::uint32_t> number(mesh.vertex_count(), no_number);
    std::vector<Faces> pieces;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        std::uint32_t& piece = number[find(mesh.face(face)[0])];
        if (piece == no_number) {
            piece = static_cast<std::uint32_t>(pieces.size());
            pieces.emplace_back();
        }
        pieces[piece].push_back(face);
    }
    return pieces;
}

// Some faces with the vertices they use; parts that have faces among them stay parts. `number` is one a
// vertex, all of them no_number before and after.
Mesh with_faces(const Mesh& mesh, const Faces& faces, std::vector<std::uint32_t>& number) {
    std::vector<std::size_t> kept;
    Mesh::Parts parts;
    std::size_t part = mesh.part_count();
    for (const std::size_t face : faces) {
        if (mesh.part_of(face) != part) {
            part = mesh.part_of(face);
            parts.part_starts.push_back(static_cast<std::uint32_t>(parts.first.size() - 1));
        }
        for (const std::uint32_t corner : mesh.face(face)) {
            if (number[corner] == no_number) {
                number[corner] = static_cast<std::uint32_t>(kept.size());
                kept.push_back(corner);
            }
            parts.corners.push_back(number[corner]);
        }
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    }
    for (const std::size_t corner : kept)
        number[corner] = no_number;
    parts.x = gathered(mesh.x(), kept);
    parts.y = gathered(mesh.y(), kept);
    parts.z = gathered(mesh.z(), kept);
    parts.fields = gathered(mesh.fields(), kept);
    return *Mesh::make(std::move(parts));
}

// Whether a place is inside of a closed mesh: a line upwards leaves it more often than it enters.
bool contains(const Mesh& mesh, Vec3 place) {
    int turns = 0;
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - place, q = mesh.vertex(corners[b]) - place,
                       r = mesh.vertex(corners[c]) - place;
            const double pq = p.x * q.y - p.y * q.x, qr = q.x * r.y - q.y * r.x, rp = r.x * p.y - r.y * p.x;
            const double area = pq + qr + rp;
            if (area == 0 || (pq < 0) != (area < 0) || (qr < 0) != (area < 0) || (rp < 0) != (area < 0))
                return;
            if ((qr * p.z + rp * q.z + pq * r.z) / area > 0) turns += area > 0 ? 1 : -1;
        });
    }
    return turns > 0;
}

}  // namespace

std::vector<std::pair<std::uint32_t, std::uint32_t>> open_edges(const Mesh& mesh) {
    // Edges are kept with the corner they start from: from each few do.
    std::vector<std::uint32_t> first(mesh.vertex_count() + 1, 0), ends(mesh.corner_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face)
        for (const std::uint32_t corner : mesh.face(face))
            ++first[corner + 1];
    std::partial_sum(first.begin(), first.end(), first.begin());
    std::vector<std::uint32_t> filled(first.begin(), first.end() - 1);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        for (std::size_t at = 0; at < corners.size(); ++at)
            ends[filled[corners[at]]++] = corners[(at + 1) % corners.size()];
    }
    const auto count = [&](std::uint32_t from, std::uint32_t to) {
        return std::count(ends.begin() + first[from], ends.begin() + first[from + 1], to);
    };
    std::vector<std::pair<std::uint32_t, std::uint32_t>> open;
    for (std::uint32_t from = 0; from < mesh.vertex_count(); ++from)
        for (std::uint32_t at = first[from]; at < first[from + 1]; ++at)
            if (count(from, ends[at]) != count(ends[at], from)) open.emplace_back(from, ends[at]);
    return open;
}

Error open_edges_error(const Mesh& mesh, const std::vector<std::pair<std::uint32_t, std::uint32_t>>& open) {
    const Vec3 at = (mesh.vertex(open.front().first) + mesh.vertex(open.front().second)) * 0.5;
    return {ErrorCode::has_gaps, "",
            "is not closed: " + grouped_text(static_cast<std::int64_t>(open.size())) +
                (open.size() == 1 ? " edge is open, at " : " edges are open, the first at ") + place_text(at),
            "Cap its open ends, or join what closes it."};
}

Result<Body> exact_body(std::vector<SplinePatch> patches, const Run& run, double edges_within,
                        std::optional<Mesh> mesh) {
    Box box;
    for (const SplinePatch& patch : patches)
        box.include(poles_box(patch));
    const Vec3 middle = box.centre();
    double volume = 0, area = 0;
    Vec3 moment, second;
    const auto all = parallel_results<PatchFigures>(
        patches.size(), run, [&](std::size_t patch) { return figures_of(patches[patch], middle, run); });
    if (!all) return all.error();
    for (const PatchFigures& one : *all) {
        volume += one.volume;
        area += one.area;
        moment = moment + one.moment;
        second = second + one.second;
    }
    if (is_nothing(volume, box.diagonal())) return no_volume();
    BodyFigures figures = about_centroid(middle, volume, area, moment, second);
    if (volume < 0) {
        figures.volume = -figures.volume;
        figures.second = figures.second * -1;
        for (SplinePatch& patch : patches)
            patch = reversed(patch, 0);
        if (mesh) mesh = turned_over(*mesh);
    }
    return Body(std::move(patches), figures, edges_within, std::move(mesh));
}

Result<Body> meshed_body(Mesh mesh) {
    if (const auto open = open_edges(mesh); !open.empty()) return open_edges_error(mesh, open);
    BodyFigures figures = figures_of(mesh);
    if (is_nothing(figures.volume, mesh.bounds().diagonal())) return no_volume();
    if (figures.volume < 0) {
        mesh = turned_over(mesh);
        figures.volume = -figures.volume;
        figures.second = figures.second * -1;
    }
    return Body(std::move(mesh), figures);
}

Result<SolidSet> bodies_of(const Mesh& closed, const Run& run) {
    if (const auto open = open_edges(closed); !open.empty()) return open_edges_error(closed, open);
    const std::vector<Faces> pieces = pieces_of(closed);
    std::vector<std::uint32_t> number(closed.vertex_count(), no_number);
    std::vector<Mesh> outer, hollows;
    for (const Faces& piece : pieces) {
        if (run.cancelled()) return cancelled_error();
        Mesh mesh = pieces.size() == 1 ? closed : with_faces(closed, piece, number);
        const bool hollow = pieces.size() > 1 && figures_of(mesh).volume < 0;
        (hollow ? hollows : outer).push_back(std::move(mesh));
    }
    // All turned inwards: bodies with their faces the wrong way round.
    if (outer.empty()) outer.swap(hollows);
    std::vector<std::vector<Mesh>> shells;
    shells.reserve(outer.size());
    for (Mesh& mesh : outer)
        shells.push_back({std::move(mesh)});
    for (Mesh& hollow : hollows) {
        const auto around = std::ranges::find_if(
            shells, [&](const auto& body) { return contains(body.front(), hollow.vertex(0)); });
        if (around == shells.end())
            shells.push_back({std::move(hollow)});
        else
            around->push_back(std::move(hollow));
    }
    SolidSet set;
    for (const std::vector<Mesh>& body : shells) {
        Result<Mesh> whole = joined(body);
        if (!whole) return whole.error();
        Result<Body> made = meshed_body(*std::move(whole));
        if (!made) return made.error();
        set.bodies.push_back(*std::move(made));
    }
    return set;
}

}  // namespace plume
