#include "core/geometry/solids/thickened.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"

namespace plume {
namespace {

constexpr double hardly_apart = 1e-9;

double end_of(const SplinePatch& patch, int direction, bool last) {
    const SplineBasis& basis = basis_along(patch, direction);
    return last ? basis.end() : basis.start();
}

// The rim at the start or the end of a direction.
SplineCurve rim_of(const SplinePatch& patch, int direction, bool last) {
    return iso_curve(patch, 1 - direction, end_of(patch, direction, last));
}

bool coincide(const SplineCurve& a, const SplineCurve& b, double within) {
    for (std::size_t pole = 0; pole < a.x().size(); ++pole)
        if (length(a.pole(pole) - b.pole(pole)) > within) return false;
    return true;
}

bool is_place(const SplineCurve& curve, double within) {
    for (std::size_t pole = 1; pole < curve.x().size(); ++pole)
        if (length(curve.pole(pole) - curve.pole(0)) > within) return false;
    return true;
}

// Open where something has to close it: not where the direction comes round by itself.
bool has_rim(const SplinePatch& patch, int direction, double within) {
    return !basis_along(patch, direction).closed &&
           !coincide(rim_of(patch, direction, false), rim_of(patch, direction, true), within);
}

// From one rim to the other, straight; both have one basis.
Result<SplinePatch> ruled(const SplineCurve& from, const SplineCurve& to, const Run& run) {
    return lofted({{from, to}, false, false}, run);
}

}  // namespace

Result<Thickened> thickened(const SplinePatch& patch, const Thickness& thickness, double tolerance_abs,
                            const Run& run) {
    std::vector<OffsetBy> wanted;
    if (thickness.front) wanted.push_back(*thickness.front);
    if (thickness.back)
        wanted.push_back([by = *thickness.back](const OffsetGrid& grid) -> Result<Doubles> {
            Result<Doubles> distances = by(grid);
            if (distances)
                for (double& distance : *distances)
                    distance = -distance;
            return distances;
        });
    Result<Offsets> offsets = offsets_of(patch, wanted, tolerance_abs, run);
    if (!offsets) return offsets.error();
    const SplinePatch front = thickness.front ? offsets->at.front() : offsets->patch,
                      back = thickness.back ? offsets->at.back() : offsets->patch;
    const double within = hardly_apart * poles_box(patch).diagonal();
    std::vector<SplinePatch> faces{front, reversed(back, 0)};
    for (const int direction : {0, 1}) {
        if (!has_rim(patch, direction, within)) continue;
        for (const bool last : {false, true}) {
            const SplineCurve upper = rim_of(front, direction, last), lower = rim_of(back, direction, last);
            if (is_place(upper, within) && is_place(lower, within)) continue;
            // u runs along the rim: the normal of what rises from back to front looks out at the start of v
            // and at the end of u.
            const bool rises = (direction == 1) != last;
            Result<SplinePatch> side = rises ? ruled(lower, upper, run) : ruled(upper, lower, run);
            if (!side) return side.error();
            faces.push_back(*std::move(side));
        }
    }
    Result<Body> body = exact_body(std::move(faces), run);
    if (!body) return body.error();
    return Thickened{*std::move(body), offsets->deviation};
}

namespace {

// The direction in which the planes of the faces around a vertex, each moved by 1, meet as nearly as they
// can: the mean normal, stretched by the mean of its cosines.
std::vector<Vec3> moves_of(const Mesh& mesh) {
    std::vector<Vec3> normals = vertex_normals(mesh);
    std::vector<double> cosines(mesh.vertex_count(), 0), weights(mesh.vertex_count(), 0);
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const Vec3 area = area_vector(mesh, face);
        for (const std::uint32_t corner : mesh.face(face)) {
            cosines[corner] += dot(area, normals[corner]);
            weights[corner] += length(area);
        }
    }
    for (std::size_t vertex = 0; vertex < normals.size(); ++vertex)
        if (cosines[vertex] > 0.1 * weights[vertex])
            normals[vertex] = normals[vertex] * (weights[vertex] / cosines[vertex]);
    return normals;
}

}  // namespace

Result<Body> thickened(const Mesh& mesh, const Doubles& front, const Doubles& back, const Run& run) {
    const std::vector<Vec3> moves = moves_of(mesh);
    const std::size_t count = mesh.vertex_count();
    Doubles x(2 * count), y(2 * count), z(2 * count);
    const auto place = [&](std::size_t at, Vec3 p) {
        x[at] = p.x;
        y[at] = p.y;
        z[at] = p.z;
    };
    for (std::size_t vertex = 0; vertex < count; ++vertex) {
        place(vertex, mesh.vertex(vertex) + moves[vertex] * front[vertex]);
        place(count + vertex, mesh.vertex(vertex) - moves[vertex] * back[vertex]);
    }
    if (run.cancelled()) return cancelled_error();
    Mesh::Parts parts{std::move(x), std::move(y), std::move(z), {0}, {}, {}, {}};
    const auto below = static_cast<std::uint32_t>(count);
    const auto end_face = [&] { parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size())); };
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        parts.corners.insert(parts.corners.end(), corners.begin(), corners.end());
        end_face();
    }
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        std::transform(corners.rbegin(), corners.rend(), std::back_inserter(parts.corners),
                       [below](std::uint32_t corner) { return corner + below; });
        end_face();
    }
    for (const auto& [from, to] : open_edges(mesh)) {
        for (const std::uint32_t corner : {to, from, from + below, to + below})
            parts.corners.push_back(corner);
        end_face();
    }
    Result<Mesh> whole = Mesh::make(std::move(parts));
    if (!whole) return whole.error();
    return meshed_body(*std::move(whole));
}

}  // namespace plume
