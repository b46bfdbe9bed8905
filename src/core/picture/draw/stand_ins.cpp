#include "core/picture/draw/stand_ins.hpp"

#include <array>
#include <numeric>

#include "core/geometry/measures/best_fit.hpp"
#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

constexpr std::size_t box_triangles = 12, cross_triangles = 4;

// The part as its vertices, each as often as faces meet there, and its volume if it is closed.
struct Solid {
    std::vector<Vec3> corners;
    double volume = 0;
};
Solid solid_of_first_part(const Mesh& mesh) {
    Solid solid;
    const Vec3 origin = mesh.vertex(mesh.face(0)[0]);
    for (std::size_t face = 0; face < mesh.part(0).end; ++face) {
        const auto corners = mesh.face(face);
        for (const std::uint32_t corner : corners)
            solid.corners.push_back(mesh.vertex(corner));
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            const Vec3 p = mesh.vertex(corners[a]) - origin;
            solid.volume +=
                dot(p, cross(mesh.vertex(corners[b]) - origin, mesh.vertex(corners[c]) - origin)) / 6;
        });
    }
    return solid;
}

struct Span {
    double low = std::numeric_limits<double>::infinity(), high = -low;
    double size() const { return high - low; }
};

void add_rectangle(const std::array<Vec3, 4>& corners, Vec3 normal, float colour,
                   DrawArray<std::uint32_t>& to, Drawable& drawable) {
    const auto start = static_cast<std::uint32_t>(drawable.vertices.size());
    for (const Vec3 corner : corners)
        drawable.vertices.push_back(vertex(corner, drawable.origin, normal, colour));
    for (const std::uint32_t index : {0U, 1U, 2U, 0U, 2U, 3U})
        to.push_back(start + index);
}

Vec3 normal_of(const std::array<Vec3, 4>& corners) {
    return unit_or_zero(cross(corners[1] - corners[0], corners[3] - corners[0]));
}

}  // namespace

FirstPart::FirstPart(const Mesh& mesh) {
    const Solid solid = solid_of_first_part(mesh);
    const BestFit fit = best_fit(solid.corners);
    const std::array<Vec3, 3> axes{fit.placement.along, fit.placement.across, fit.placement.up};
    std::array<Span, 3> spans;
    for (const Vec3 corner : solid.corners) {
        bounds_.include(corner);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double along = dot(corner - fit.placement.origin, axes[axis]);
            spans[axis].low = std::min(spans[axis].low, along);
            spans[axis].high = std::max(spans[axis].high, along);
        }
    }
    const double whole = spans[0].size() * spans[1].size() * spans[2].size();
    const double share = whole > 0 ? std::sqrt(std::clamp(solid.volume / whole, 0.1, 1.0)) : 1;
    centre_ = fit.placement.origin;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        centre_ = centre_ + axes[axis] * std::midpoint(spans[axis].low, spans[axis].high);
        halves_[axis] = axes[axis] * (spans[axis].size() / 2 * (axis == 0 ? 1 : share));
    }
}

bool FirstPart::slender() const {
    return length(halves_[0]) > 4 * std::max(length(halves_[1]), length(halves_[2]));
}

std::size_t FirstPart::stand_in_triangles(std::size_t most) const {
    if (most >= box_triangles) return box_triangles;
    return most >= cross_triangles && slender() ? cross_triangles : 0;
}

Vec3 FirstPart::place(double along, double across, double up) const {
    return centre_ + halves_[0] * along + halves_[1] * across + halves_[2] * up;
}

std::array<Vec3, 4> FirstPart::middle_rectangle(bool upright) const {
    const auto at = [&](double along, double side) {
        return upright ? place(along, 0, side) : place(along, side, 0);
    };
    return {at(-1, -1), at(1, -1), at(1, 1), at(-1, 1)};
}

DrawShape FirstPart::add_stand_in(std::size_t triangles, Drawable& drawable) const {
    DrawShape shape;
    shape.first_triangle_index = drawable.triangles.size();
    shape.triangle_index_count = 3 * triangles;
    if (triangles == cross_triangles) {
        for (const bool upright : {false, true}) {
            const auto corners = middle_rectangle(upright);
            add_rectangle(corners, normal_of(corners), plain_coordinate, drawable.triangles, drawable);
        }
        return shape;
    }
    for (std::size_t axis = 0; axis < 3; ++axis)
        for (const double side : {-1.0, 1.0}) {
            const auto corner = [&](double b, double c) {
                std::array<double, 3> at{};
                at[axis] = side;
                // Anticlockwise seen from outside.
                at[(axis + (side > 0 ? 1 : 2)) % 3] = b;
                at[(axis + (side > 0 ? 2 : 1)) % 3] = c;
                return place(at[0], at[1], at[2]);
            };
            add_rectangle({corner(-1, -1), corner(1, -1), corner(1, 1), corner(-1, 1)},
                          unit_or_zero(halves_[axis]) * side, plain_coordinate, drawable.triangles, drawable);
        }
    return shape;
}

void FirstPart::add_coarse(std::span<const Affine> maps, std::span<const float> colours,
                           std::size_t most_triangles, Drawable& drawable) const {
    const std::array<Vec3, 4> own = middle_rectangle(length(halves_[2]) > length(halves_[1]));
    const std::size_t most = std::max<std::size_t>(most_triangles / 2, 1);
    const std::size_t step = (maps.size() + most - 1) / most;
    for (std::size_t part = 0; part < maps.size(); part += step) {
        std::array<Vec3, 4> corners = own;
        for (Vec3& corner : corners)
            corner = maps[part].at(corner);
        add_rectangle(corners, normal_of(corners), colours[part], drawable.coarse, drawable);
    }
}

}  // namespace plume
