#include "core/geometry/meshes/triangle_tree.hpp"

#include <algorithm>
#include <cmath>

#include "core/geometry/meshes/face_places.hpp"

namespace plume {
namespace {

double angle_between(Vec3 a, Vec3 b) {
    return std::atan2(length(cross(a, b)), dot(a, b));
}

}  // namespace

TriangleTree::TriangleTree(const Mesh& mesh, TriangleNormals normals) : tree_({}) {
    const MeshTriangles all = finite_triangles_of(mesh);
    tree_ = BoxTree(boxes_of(mesh, all));
    triangles_.reserve(all.vertices.size());
    corners_.reserve(all.vertices.size());
    for (const std::uint32_t number : tree_.order()) {
        const Corners& corners = all.vertices[number];
        const Vec3 a = mesh.vertex(corners[0]);
        triangles_.push_back(
            {a, mesh.vertex(corners[1]) - a, mesh.vertex(corners[2]) - a, all.faces[number]});
        corners_.push_back(corners);
    }
    if (normals == TriangleNormals::weighed) weigh_normals(mesh.vertex_count());
}

void TriangleTree::weigh_normals(std::size_t vertex_count) {
    vertex_normals_.resize(vertex_count);
    side_normals_.resize(triangles_.size());
    // Sides that are the same stand together once they are sorted by their vertices.
    struct Side {
        std::uint32_t low, high, triangle, number;
    };
    std::vector<Side> sides;
    sides.reserve(3 * triangles_.size());
    for (std::size_t at = 0; at < triangles_.size(); ++at) {
        const Triangle& one = triangles_[at];
        const Vec3 normal = unit_or_zero(cross(one.to_b, one.to_c));
        const std::array<Vec3, 3> along{one.to_b, one.to_c - one.to_b, one.to_c * -1};
        for (std::uint32_t side = 0; side < 3; ++side) {
            const double angle = angle_between(along[side], along[(side + 2) % 3] * -1);
            Vec3& sum = vertex_normals_[corners_[at][side]];
            sum = sum + normal * angle;
            const std::uint32_t from = corners_[at][side], to = corners_[at][(side + 1) % 3];
            sides.push_back({std::min(from, to), std::max(from, to), static_cast<std::uint32_t>(at), side});
        }
    }
    const auto key = [](const Side& side) { return std::pair(side.low, side.high); };
    std::ranges::sort(sides, {}, key);
    for (std::size_t begin = 0, end = 0; begin < sides.size(); begin = end) {
        Vec3 sum;
        for (; end < sides.size() && key(sides[end]) == key(sides[begin]); ++end)
            sum = sum + normal_of(sides[end].triangle, 0);
        for (std::size_t at = begin; at < end; ++at)
            side_normals_[sides[at].triangle][sides[at].number] = sum;
    }
}

Vec3 TriangleTree::normal_of(std::size_t triangle, int region) const {
    if (region == 0 || vertex_normals_.empty())
        return unit_or_zero(cross(triangles_[triangle].to_b, triangles_[triangle].to_c));
    if (region <= 3) return vertex_normals_[corners_[triangle][static_cast<std::size_t>(region - 1)]];
    return side_normals_[triangle][static_cast<std::size_t>(region - 4)];
}

double TriangleTree::square_to(std::size_t triangle, Vec3 point) const {
    const Triangle& one = triangles_[triangle];
    const OnTriangle on = nearest_on_triangle(one.to_b, one.to_c, point - one.a);
    const Vec3 apart = point - (one.a + one.to_b * on.share_b + one.to_c * on.share_c);
    return dot(apart, apart);
}

PlaceOnMesh TriangleTree::nearest(Vec3 point, std::size_t guess) const {
    if (triangles_.empty()) return {};
    std::size_t best = guess;
    double square = square_to(best, point);
    tree_.nearest(point, square, [&](std::uint32_t place) {
        const double other = square_to(place, point);
        if (other < square) {
            square = other;
            best = place;
        }
        return square;
    });
    const Triangle& found = triangles_[best];
    const OnTriangle on = nearest_on_triangle(found.to_b, found.to_c, point - found.a);
    return {std::sqrt(square), found.a + found.to_b * on.share_b + found.to_c * on.share_c,
            normal_of(best, on.region), found.face, best};
}

std::optional<MeetOnMesh> TriangleTree::first_along(Vec3 from, Vec3 direction, double beyond) const {
    std::optional<MeetOnMesh> first;
    // Rays through a side that two faces share meet one of them at least.
    constexpr double slack = 1e-12;
    tree_.along(from, direction, beyond, Box::infinite, [&](std::uint32_t place) {
        const Triangle& one = triangles_[place];
        const double until = first ? first->at : Box::infinite;
        const Vec3 across = cross(direction, one.to_c);
        const double turn = dot(one.to_b, across);
        if (turn == 0) return until;
        const Vec3 off = from - one.a;
        const double b = dot(off, across) / turn;
        if (!(b >= -slack && b <= 1 + slack)) return until;
        const Vec3 side = cross(off, one.to_b);
        const double c = dot(direction, side) / turn;
        if (!(c >= -slack && b + c <= 1 + slack)) return until;
        const double at = dot(one.to_c, side) / turn;
        if (!(at > beyond && at < until)) return until;
        first = MeetOnMesh{at, one.face};
        return at;
    });
    return first;
}

}  // namespace plume
