#include "core/geometry/solids/thickened.hpp"

#include <Eigen/Eigenvalues>
#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/parallel_results.hpp"
#include "core/geometry/curves/curve_corners.hpp"
#include "core/geometry/curves/curve_edit.hpp"
#include "core/geometry/solids/bodies.hpp"
#include "core/geometry/surfaces/loft.hpp"
#include "core/geometry/surfaces/patch_edit.hpp"
#include "core/geometry/surfaces/patch_evaluator.hpp"
#include "core/geometry/surfaces/patch_figures.hpp"
#include "core/geometry/surfaces/trimming.hpp"

namespace plume {
namespace {

constexpr double hardly_apart = 1e-9;
// Of the size: how true walls are to trims.
constexpr double trims_share = 1e-7;

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

// Open where something has to close it: not where the direction comes round by itself.
bool has_rim(const SplinePatch& patch, int direction, double within) {
    return !basis_along(patch, direction).closed &&
           !coincide(rim_of(patch, direction, false), rim_of(patch, direction, true), within);
}

// From one rim to the other, straight; both have one basis.
Result<SplinePatch> ruled(const SplineCurve& from, const SplineCurve& to, const Run& run) {
    return lofted({{from, to}, false, false}, run);
}

// Walls along the rims of a patch that is whole.
Status add_rim_walls(const SplinePatch& front, const SplinePatch& back, double within, const Run& run,
                     std::vector<SplinePatch>& faces) {
    for (const int direction : {0, 1}) {
        if (!has_rim(front, direction, within) && !has_rim(back, direction, within)) continue;
        for (const bool last : {false, true}) {
            const SplineCurve upper = rim_of(front, direction, last), lower = rim_of(back, direction, last);
            if (is_tip(upper, within) && is_tip(lower, within)) continue;
            // u runs along the rim: the normal of what rises from back to front looks out at the start of v
            // and at the end of u.
            const bool rises = (direction == 1) != last;
            Result<SplinePatch> side = rises ? ruled(lower, upper, run) : ruled(upper, lower, run);
            if (!side) return side.error();
            faces.push_back(*std::move(side));
        }
    }
    return Done{};
}

// Where a rim turns by more, one wall ends and the next begins.
constexpr double least_corner_rad = 0.05;

// Places along the lower rim of a wall, from which it is known again from its other side.
constexpr std::array probed_shares{0.0, 0.3, 0.5, 0.7, 1.0};
using RimPlaces = std::array<Vec3, probed_shares.size()>;
RimPlaces rim_places(const SplinePatch& wall) {
    const PatchEvaluator evaluator(wall);
    RimPlaces places;
    for (std::size_t at = 0; at < places.size(); ++at)
        places[at] =
            evaluator.at(std::lerp(wall.u().start(), wall.u().end(), probed_shares[at]), wall.v().start())
                .position;
    return places;
}

// The same stretch of space, run through either way: the two sides of a seam.
bool is_seam(const RimPlaces& a, const RimPlaces& b, double within) {
    for (std::size_t at = 0; at < a.size(); ++at)
        if (length(a[at] - b[b.size() - 1 - at]) > within) return false;
    return true;
}

// Walls from corner to corner along the trims; none along a seam that two of their stretches share. The
// faces get the trims over the basis of the walls. How far these are from the trims at most.
Result<double> add_trim_walls(SplinePatch& front, SplinePatch& back, double tolerance_abs, const Run& run,
                              std::vector<SplinePatch>& faces) {
    const std::vector<double> turns = trim_turns(front);
    const std::array both{back, front};
    std::vector<SplineCurve> trims;
    std::vector<SplinePatch> walls;
    double deviation = 0;
    const auto all = parallel_results<LiftedTrim>(turns.size(), run, [&](std::size_t trim) {
        return lifted(both, front.trims()[trim], tolerance_abs, run);
    });
    if (!all) return all.error();
    for (std::size_t trim = 0; trim < turns.size(); ++trim) {
        const LiftedTrim& rims = (*all)[trim];
        deviation = std::max(deviation, rims.deviation);
        trims.push_back(rims.trim);
        const SplineCurve &lower = rims.on[0], &upper = rims.on[1];
        const std::vector<CurveCorner> corners = corners_of(lower, least_corner_rad);
        const std::vector<SplineCurve> below = cut_at_corners(lower, corners),
                                       above = cut_at_corners(upper, corners);
        for (std::size_t side = 0; side < below.size(); ++side) {
            // With what is there to its left a wall that rises looks outwards.
            const bool rises = turns[trim] > 0;
            Result<SplinePatch> wall =
                ruled(rises ? below[side] : above[side], rises ? above[side] : below[side], run);
            if (!wall) return wall.error();
            walls.push_back(*std::move(wall));
        }
    }
    const double within = 4 * std::max(deviation, tolerance_abs);
    std::vector<bool> on_seam(walls.size(), false);
    std::vector<RimPlaces> rims;
    for (const SplinePatch& wall : walls)
        rims.push_back(rim_places(wall));
    for (std::size_t a = 0; a < walls.size(); ++a)
        for (std::size_t b = 0; b < a; ++b)
            if (is_seam(rims[a], rims[b], within)) on_seam[a] = on_seam[b] = true;
    for (std::size_t wall = 0; wall < walls.size(); ++wall)
        if (!on_seam[wall]) faces.push_back(walls[wall]);
    front = with_trims(front, trims);
    back = with_trims(back, trims);
    return deviation;
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
    SplinePatch front = thickness.front ? offsets->at.front() : offsets->patch,
                back = thickness.back ? offsets->at.back() : offsets->patch;
    if (patch.trimmed()) {
        front = with_trims(front, patch.trims());
        back = with_trims(back, patch.trims());
    }
    Result<Body> body = body_between(std::move(front), std::move(back), run);
    if (!body) return body.error();
    return Thickened{*std::move(body), offsets->deviation};
}

Result<Body> body_between(SplinePatch front, SplinePatch back, const Run& run) {
    const double size = poles_box(front).diagonal();
    std::vector<SplinePatch> walls;
    double edges_within = 0;
    if (front.trimmed()) {
        const auto apart = add_trim_walls(front, back, trims_share * size, run, walls);
        if (!apart) return apart.error();
        edges_within = *apart;
    } else if (Status done = add_rim_walls(front, back, hardly_apart * size, run, walls); !done) {
        return done.error();
    }
    std::vector<SplinePatch> faces{front, reversed(back, 0)};
    faces.insert(faces.end(), walls.begin(), walls.end());
    return exact_body(std::move(faces), run, edges_within);
}

namespace {

// Where the planes of the faces around a vertex, each moved by 1, meet as nearly as they can: least squares
// by the angles of the faces there (however a flat face is cut up, its angles come to the same), the shortest
// way where they leave one open.
class MeetingPlanes {
public:
    void add(Vec3 normal, double angle) {
        const Eigen::Vector3d n(normal.x, normal.y, normal.z);
        sums_ += angle * n * n.transpose();
        wanted_ += angle * n;
    }
    Vec3 way() const {
        // Directions in which the faces turn by less than some degrees are left open.
        constexpr double hardly_turned = 2e-3;
        const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(sums_);
        const double most = axes.eigenvalues()[2];
        Eigen::Vector3d way = Eigen::Vector3d::Zero();
        for (int axis = 0; axis < 3; ++axis)
            if (axes.eigenvalues()[axis] > hardly_turned * most)
                way += axes.eigenvectors().col(axis) *
                       (axes.eigenvectors().col(axis).dot(wanted_) / axes.eigenvalues()[axis]);
        return {way.x(), way.y(), way.z()};
    }

private:
    Eigen::Matrix3d sums_ = Eigen::Matrix3d::Zero();
    Eigen::Vector3d wanted_ = Eigen::Vector3d::Zero();
};

std::vector<Vec3> moves_of(const Mesh& mesh) {
    std::vector<MeetingPlanes> planes(mesh.vertex_count());
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const Vec3 normal = unit_or_zero(area_vector(mesh, face));
        const auto corners = mesh.face(face);
        for (std::size_t at = 0; at < corners.size(); ++at) {
            const Vec3 here = mesh.vertex(corners[at]);
            const Vec3 before = mesh.vertex(corners[(at + corners.size() - 1) % corners.size()]) - here,
                       behind = mesh.vertex(corners[(at + 1) % corners.size()]) - here;
            planes[corners[at]].add(normal, std::atan2(length(cross(behind, before)), dot(behind, before)));
        }
    }
    std::vector<Vec3> moves;
    moves.reserve(planes.size());
    for (const MeetingPlanes& around : planes)
        moves.push_back(around.way());
    return moves;
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
