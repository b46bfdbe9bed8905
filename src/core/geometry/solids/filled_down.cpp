#include "core/geometry/solids/filled_down.hpp"

#include <algorithm>
#include <array>

#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/curves/spline_basis.hpp"
#include "core/geometry/levels/level_lines.hpp"
#include "core/geometry/measures/bounds.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/solids/thickened.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"

namespace plume {
namespace {

Error reaches_through() {
    return {ErrorCode::out_of_range, "", "reaches through the level it is filled to",
            "Choose a level below all of it, or above."};
}
Error overhangs() {
    return {ErrorCode::unlike_arrangement, "", "overhangs, so that what lies under it is not one body",
            "Fill along another direction, or take the part that does not."};
}

Vec3 shadow_of(Vec3 place, const Placement& plane) {
    return place - plane.up * plane.to_local(place).z;
}

// Whether it turns one side to the direction everywhere: looked at in the middle and the corners of each bay.
bool is_seen_from_one_side(const SplinePatch& patch, Vec3 up) {
    const PatchEvaluator evaluator(patch);
    bool towards = false, away = false;
    const std::vector<double> us = knot_lines(patch.u(), 2), vs = knot_lines(patch.v(), 2);
    for (const double v : vs)
        for (const double u : us) {
            const SurfacePoint at = evaluator.at(u, v);
            const double side = dot(cross(at.along_u, at.along_v), up);
            const double size = length(at.along_u) * length(at.along_v);
            towards = towards || side > 1e-9 * size;
            away = away || side < -1e-9 * size;
        }
    return !(towards && away);
}

}  // namespace

Result<Body> filled_down(const SplinePatch& patch, const Placement& plane, const Run& run) {
    const Box heights = bounds_of(heights_above(patch, plane));
    if (heights.low.x < 0 && heights.high.x > 0) return reaches_through();
    if (!is_seen_from_one_side(patch, plane.up)) return overhangs();
    SplinePatch::Parts parts = patch.parts();
    Doubles x(parts.x.size()), y(parts.x.size()), z(parts.x.size());
    for (std::size_t pole = 0; pole < x.size(); ++pole) {
        const Vec3 shadow = shadow_of({patch.x()[pole], patch.y()[pole], patch.z()[pole]}, plane);
        x[pole] = shadow.x;
        y[pole] = shadow.y;
        z[pole] = shadow.z;
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    auto shadow = SplinePatch::make(std::move(parts));
    if (!shadow) return shadow.error();
    return body_between(patch, *std::move(shadow), run);
}

Result<Body> filled_down(const Mesh& mesh, const Placement& plane, const Run& run) {
    if (run.cancelled()) return cancelled_error();
    bool above = false, below = false, towards = false, away = false;
    const std::size_t count = mesh.vertex_count();
    for (std::size_t vertex = 0; vertex < count; ++vertex) {
        const double height = plane.to_local(mesh.vertex(vertex)).z;
        above = above || height > 0;
        below = below || height < 0;
    }
    if (above && below) return reaches_through();
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const double side = dot(area_vector(mesh, face), plane.up);
        towards = towards || side > 0;
        away = away || side < 0;
    }
    if (towards && away) return overhangs();
    Mesh::Parts parts;
    Doubles x(2 * count), y(2 * count), z(2 * count);
    for (std::size_t vertex = 0; vertex < count; ++vertex) {
        const Vec3 place = mesh.vertex(vertex), shadow = shadow_of(place, plane);
        x[vertex] = place.x, x[count + vertex] = shadow.x;
        y[vertex] = place.y, y[count + vertex] = shadow.y;
        z[vertex] = place.z, z[count + vertex] = shadow.z;
    }
    const auto add = [&](auto begin, auto end, std::size_t by) {
        for (; begin != end; ++begin)
            parts.corners.push_back(static_cast<std::uint32_t>(*begin + by));
        parts.first.push_back(static_cast<std::uint32_t>(parts.corners.size()));
    };
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto corners = mesh.face(face);
        add(corners.begin(), corners.end(), 0);
        add(corners.rbegin(), corners.rend(), count);
    }
    const auto shift = static_cast<std::uint32_t>(count);
    for (const auto& [from, to] : open_edges(mesh)) {
        const std::array<std::uint32_t, 4> wall{to, from, from + shift, to + shift};
        add(wall.begin(), wall.end(), 0);
    }
    parts.x = std::move(x);
    parts.y = std::move(y);
    parts.z = std::move(z);
    auto closed = Mesh::make(std::move(parts));
    if (!closed) return closed.error();
    return meshed_body(*std::move(closed));
}

}  // namespace plume
