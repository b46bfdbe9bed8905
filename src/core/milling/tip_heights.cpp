#include "core/milling/tip_heights.hpp"

#include <limits>
#include <numeric>
#include <unordered_map>

#include "core/geometry/meshes/triangulate.hpp"

namespace plume {
namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();
// Of a unit normal what rises: less is a wall.
constexpr double wall = 1e-9;

// Touches so near each other in height are one.
constexpr double as_high = 1e-9;

void raise(TipHeight& tip, double z, bool rim) {
    if (z > tip.z + as_high)
        tip = {z, rim};
    else if (z > tip.z - as_high)
        tip = {std::max(z, tip.z), tip.on_rim && rim};
}

double turning(Vec3 a, Vec3 b, double x, double y) {
    return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x);
}

std::uint64_t side_between(std::uint32_t a, std::uint32_t b) {
    return (static_cast<std::uint64_t>(std::min(a, b)) << 32U) | std::max(a, b);
}

}  // namespace

TipHeights::TipHeights(const Mesh& mesh, const Cutter& cutter) : cutter_(cutter) {
    add_triangles(mesh);
    mark_sides();
    fill_grid();
}

void TipHeights::add_triangles(const Mesh& mesh) {
    for (std::size_t face = 0; face < mesh.face_count(); ++face) {
        const auto around = mesh.face(face);
        for_each_triangle(mesh, face, [&](std::uint32_t a, std::uint32_t b, std::uint32_t c) {
            Triangle triangle;
            triangle.at = {mesh.vertex(around[a]), mesh.vertex(around[b]), mesh.vertex(around[c])};
            std::array<std::uint32_t, 3> corners{around[a], around[b], around[c]};
            // Anticlockwise seen from the cutter, whichever side it looks at.
            if (turning(triangle.at[0], triangle.at[1], triangle.at[2].x, triangle.at[2].y) < 0) {
                std::swap(triangle.at[1], triangle.at[2]);
                std::swap(corners[1], corners[2]);
            }
            const Vec3 normal =
                unit_or_zero(cross(triangle.at[1] - triangle.at[0], triangle.at[2] - triangle.at[0]));
            if (normal.z > wall) {
                triangle.normal = normal;
                prepare(triangle);
            }
            triangle.highest = std::max({triangle.at[0].z, triangle.at[1].z, triangle.at[2].z});
            triangles_.push_back(triangle);
            corners_.push_back(corners);
        });
    }
}

// A side is left out where two faces lie on different sides of it and are hollow together, or flat.
void TipHeights::mark_sides() {
    struct Seen {
        std::uint32_t triangle = 0;
        std::uint8_t side = 0;
        std::uint32_t count = 0;
    };
    std::unordered_map<std::uint64_t, Seen> seen;
    seen.reserve(triangles_.size() * 2);
    for (std::uint32_t number = 0; number < triangles_.size(); ++number)
        for (std::uint8_t side = 0; side < 3; ++side) {
            const std::uint32_t from = corners_[number][side], to = corners_[number][(side + 1U) % 3];
            Seen& first = seen.try_emplace(side_between(from, to), Seen{number, side, 0}).first->second;
            ++first.count;
            if (first.count == 1) {
                triangles_[number].sides |= static_cast<std::uint8_t>(1U << side);
                triangles_[number].rims |= static_cast<std::uint8_t>(1U << side);
                continue;
            }
            // Once, by the first of them.
            Triangle& one = triangles_[first.triangle];
            const Triangle& other = triangles_[number];
            const auto bit = static_cast<std::uint8_t>(1U << first.side);
            one.rims &= static_cast<std::uint8_t>(~bit);
            if (first.count > 2) {
                one.sides |= bit;
                continue;
            }
            const bool both_lie = one.normal.z > 0 && other.normal.z > 0;
            // They run along it different ways where they lie on different sides of it.
            const bool folded = corners_[first.triangle][first.side] == from;
            const Vec3 beyond = other.at[(side + 2U) % 3] - one.at[first.side];
            if (both_lie && !folded && dot(one.normal, beyond) >= 0)
                one.sides &= static_cast<std::uint8_t>(~bit);
        }
    mark_rim_corners();
    corners_ = {};
}

void TipHeights::mark_rim_corners() {
    std::uint32_t last = 0;
    for (const auto& corners : corners_)
        last = std::max({last, corners[0], corners[1], corners[2]});
    std::vector<std::uint8_t> on_rim(last + 1U, 0);
    for (std::size_t number = 0; number < triangles_.size(); ++number)
        for (std::size_t side = 0; side < 3; ++side)
            if (triangles_[number].rims & (1U << side))
                on_rim[corners_[number][side]] = on_rim[corners_[number][(side + 1) % 3]] = 1;
    for (std::size_t number = 0; number < triangles_.size(); ++number)
        for (std::size_t corner = 0; corner < 3; ++corner)
            triangles_[number].rim_corners |=
                static_cast<std::uint8_t>(on_rim[corners_[number][corner]] << corner);
}

void TipHeights::fill_grid() {
    if (triangles_.empty()) return;
    constexpr double most_cells = 2000;
    const double reach = cutter_.radius;
    double low_x = infinite, low_y = infinite, high_x = -infinite, high_y = -infinite;
    for (const Triangle& triangle : triangles_)
        for (const Vec3 corner : triangle.at) {
            low_x = std::min(low_x, corner.x - reach);
            low_y = std::min(low_y, corner.y - reach);
            high_x = std::max(high_x, corner.x + reach);
            high_y = std::max(high_y, corner.y + reach);
        }
    low_x_ = low_x;
    low_y_ = low_y;
    const double width = high_x - low_x, depth = high_y - low_y;
    cell_ = std::max({std::sqrt(width * depth / static_cast<double>(triangles_.size())), reach / 4,
                      std::max(width, depth) / most_cells});
    columns_ = static_cast<std::size_t>(width / cell_) + 1;
    rows_ = static_cast<std::size_t>(depth / cell_) + 1;
    // Highest first, so that a look may end early.
    std::vector<std::uint32_t> order(triangles_.size());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, [&](std::uint32_t a, std::uint32_t b) {
        return triangles_[a].highest > triangles_[b].highest;
    });
    const auto for_each_cell = [&](const auto& use) {
        for (const std::uint32_t number : order) {
            const auto& [a, b, c] = triangles_[number].at;
            const auto column = [&](double x) { return static_cast<std::size_t>((x - low_x_) / cell_); };
            const auto row = [&](double y) { return static_cast<std::size_t>((y - low_y_) / cell_); };
            const std::size_t left = column(std::min({a.x, b.x, c.x}) - reach),
                              right = std::min(column(std::max({a.x, b.x, c.x}) + reach), columns_ - 1),
                              bottom = row(std::min({a.y, b.y, c.y}) - reach),
                              top = std::min(row(std::max({a.y, b.y, c.y}) + reach), rows_ - 1);
            for (std::size_t at_row = bottom; at_row <= top; ++at_row)
                for (std::size_t at_column = left; at_column <= right; ++at_column)
                    use(at_row * columns_ + at_column, number);
        }
    };
    first_.assign(columns_ * rows_ + 1, 0);
    for_each_cell([&](std::size_t cell, std::uint32_t) { ++first_[cell + 1]; });
    std::partial_sum(first_.begin(), first_.end(), first_.begin());
    entries_.resize(first_.back());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    for_each_cell([&](std::size_t cell, std::uint32_t number) { entries_[next[cell]++] = number; });
}

TipHeight TipHeights::at(double x, double y) const {
    TipHeight tip{-infinite, false};
    const double column = (x - low_x_) / cell_, row = (y - low_y_) / cell_;
    if (!(column >= 0 && row >= 0 && column < static_cast<double>(columns_) &&
          row < static_cast<double>(rows_)))
        return tip;
    const std::size_t cell = static_cast<std::size_t>(row) * columns_ + static_cast<std::size_t>(column);
    for (std::size_t entry = first_[cell]; entry < first_[cell + 1]; ++entry) {
        const Triangle& triangle = triangles_[entries_[entry]];
        if (triangle.highest <= tip.z - as_high) break;
        if (triangle.normal.z > 0) touch_face(triangle, x, y, tip);
        for (std::size_t side = 0; side < 3; ++side)
            if (triangle.sides & (1U << side)) touch_side(triangle, side, x, y, tip);
    }
    return tip;
}

// A face is touched where the cutter's normal is the face's: out from the axis, uphill.
void TipHeights::prepare(Triangle& triangle) const {
    const Vec3 n = triangle.normal;
    const double level = std::hypot(n.x, n.y);
    if (level > wall) {
        const double out = cutter_.flat_radius() + cutter_.corner * level;
        triangle.out_x = -n.x / level * out;
        triangle.out_y = -n.y / level * out;
    }
    triangle.along_x = -n.x / n.z;
    triangle.along_y = -n.y / n.z;
    const Vec3 a = triangle.at[0];
    triangle.z = a.z - cutter_.corner * (1 - n.z) + triangle.along_x * (triangle.out_x - a.x) +
                 triangle.along_y * (triangle.out_y - a.y);
}

void TipHeights::touch_face(const Triangle& triangle, double x, double y, TipHeight& tip) {
    const double z = triangle.z + triangle.along_x * x + triangle.along_y * y;
    if (z <= tip.z - as_high) return;
    const double at_x = x + triangle.out_x, at_y = y + triangle.out_y;
    const auto& [a, b, c] = triangle.at;
    if (turning(a, b, at_x, at_y) < 0 || turning(b, c, at_x, at_y) < 0 || turning(c, a, at_x, at_y) < 0)
        return;
    raise(tip, z, false);
}

void TipHeights::touch_side(const Triangle& triangle, std::size_t side, double x, double y,
                            TipHeight& tip) const {
    const Vec3 from = triangle.at[side], to = triangle.at[(side + 1) % 3];
    if (std::max(from.z, to.z) <= tip.z - as_high) return;
    const auto on_rim = [&](std::size_t corner) { return (triangle.rim_corners & (1U << corner)) != 0; };
    const double dx = to.x - from.x, dy = to.y - from.y, squared = dx * dx + dy * dy;
    const double aside = (x - from.x) * dy - (y - from.y) * dx;
    if (aside * aside > cutter_.radius * cutter_.radius * squared) return;
    const double drawn = std::sqrt(squared);
    if (drawn <= 0) {
        const bool first = from.z > to.z;
        const double distance = std::hypot(from.x - x, from.y - y);
        if (distance <= cutter_.radius)
            raise(tip, std::max(from.z, to.z) - cutter_.rise_at(distance),
                  on_rim(first ? side : (side + 1) % 3));
        return;
    }
    const double foot = ((x - from.x) * dx + (y - from.y) * dy) / drawn, off = std::abs(aside) / drawn;
    const double reach = std::sqrt(std::max(0.0, cutter_.radius * cutter_.radius - off * off));
    const double begin = std::max(0.0, foot - reach), end = std::min(drawn, foot + reach);
    if (begin > end) return;
    const double rise = (to.z - from.z) / drawn;
    const double at = std::clamp(foot + touch_along(cutter_, rise, off), begin, end);
    const double distance = std::sqrt((at - foot) * (at - foot) + off * off);
    const double z = from.z + rise * at - cutter_.rise_at(std::min(distance, cutter_.radius));
    bool rim = (triangle.rims & (1U << side)) != 0;
    if (at <= 0) rim = on_rim(side);
    if (at >= drawn) rim = on_rim((side + 1) % 3);
    raise(tip, z, rim);
}

}  // namespace plume
