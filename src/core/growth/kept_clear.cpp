#include "core/growth/kept_clear.hpp"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/base/noise.hpp"

namespace plume {
namespace {

// Cells far apart may share a number; what lies in them is measured anyway.
std::uint64_t cell_number(Vec3 place, double width, int x, int y, int z) {
    const auto number = [&](double at, int step) {
        const double cell = std::floor(at / width) + step;
        return std::abs(cell) < 1e15 ? static_cast<std::uint64_t>(static_cast<std::int64_t>(cell)) : 0;
    };
    return random_bits(random_bits(random_bits(number(place.x, x)) + number(place.y, y)) +
                       number(place.z, z));
}

}  // namespace

void KeptClear::add_all(const Population& parts) {
    for (std::size_t part = 0; part < parts.size(); ++part)
        add(parts, part, static_cast<std::uint32_t>(part));
}

Result<std::size_t> KeptClear::leave_out(const Population& parts, std::vector<std::uint8_t>& kept,
                                         const Run& run) {
    const std::size_t first = parts.last_begin();
    std::size_t left_out = 0;
    auto number = static_cast<std::uint32_t>(first);
    for (std::size_t local = 0; local < kept.size(); ++local) {
        if (local % 1024 == 0 && run.cancelled()) return cancelled_error();
        if (!kept[local]) continue;
        if (is_free(parts, first + local)) {
            add(parts, first + local, number++);
        } else {
            kept[local] = 0;
            ++left_out;
        }
    }
    return left_out;
}

// By distance
// ------------------------------------------------------------------------------------------------

std::uint64_t KeptApart::cell_of(Vec3 place, int x, int y, int z) const {
    return cell_number(place, distance_, x, y, z);
}

void KeptApart::add(const Population& parts, std::size_t part, std::uint32_t number) {
    const Vec3 place = parts.placements[part].origin;
    cells_.emplace(cell_of(place, 0, 0, 0), Standing{place, number, parts.parents[part]});
}

bool KeptApart::is_free(const Population& parts, std::size_t part) const {
    const Vec3 place = parts.placements[part].origin;
    const std::uint32_t parent = parts.parents[part];
    for (int x = -1; x <= 1; ++x)
        for (int y = -1; y <= 1; ++y)
            for (int z = -1; z <= 1; ++z) {
                const auto [begin, end] = cells_.equal_range(cell_of(place, x, y, z));
                for (auto at = begin; at != end; ++at) {
                    const Standing& other = at->second;
                    if (other.part == parent || other.parent == parent) continue;
                    if (length(other.place - place) < distance_) return false;
                }
            }
    return true;
}

// By boxes
// ---------------------------------------------------------------------------------------------------

KeptBoxes::Box KeptBoxes::box_of(const Population& parts, std::size_t part) const {
    const Placement& placement = parts.placements[part];
    const double half = parts.sizes[part] / 2;
    Box box;
    box.axes = {placement.along, placement.across, placement.up};
    box.halves = {shares_.x * half, shares_.y * half, shares_.z * half};
    box.centre = placement.origin + placement.up * box.halves[2];
    box.radius = std::hypot(box.halves[0], box.halves[1], box.halves[2]);
    return box;
}

void KeptBoxes::add(const Population& parts, std::size_t part, std::uint32_t number) {
    Box box = box_of(parts, part);
    box.part = number;
    const auto index = static_cast<std::uint32_t>(boxes_.size());
    const int power = std::ilogb(2 * box.radius) + 1;
    Level& level = levels_[power];
    level.cell = std::ldexp(1.0, power);
    level.boxes.push_back(index);
    level.cells.emplace(cell_number(box.centre, level.cell, 0, 0, 0), index);
    boxes_.push_back(box);
}

bool KeptBoxes::is_free(const Population& parts, std::size_t part) const {
    const Box box = box_of(parts, part);
    return std::ranges::none_of(
        levels_, [&](const auto& entry) { return meets_any(box, entry.second, parts.parents[part]); });
}

bool KeptBoxes::meets_any(const Box& box, const Level& level, std::uint32_t parent) const {
    const auto meets = [&](std::uint32_t index) {
        const Box& other = boxes_[index];
        return other.part != parent && length(other.centre - box.centre) < box.radius + other.radius &&
               meet(box, other);
    };
    // Centres of those that could meet it lie no further off than both radii, which of this level are at most
    // half a cell.
    const double reach = std::ceil((box.radius + level.cell / 2) / level.cell);
    const double cells = std::pow(2 * reach + 1, 3);
    if (!(cells <= static_cast<double>(level.boxes.size()))) return std::ranges::any_of(level.boxes, meets);
    const int steps = static_cast<int>(reach);
    for (int x = -steps; x <= steps; ++x)
        for (int y = -steps; y <= steps; ++y)
            for (int z = -steps; z <= steps; ++z) {
                const auto [begin, end] =
                    level.cells.equal_range(cell_number(box.centre, level.cell, x, y, z));
                for (auto at = begin; at != end; ++at)
                    if (meets(at->second)) return true;
            }
    return false;
}

bool KeptBoxes::meet(const Box& a, const Box& b) {
    // What only touches, or overlaps by rounding, is clear.
    constexpr double touching = 1e-6;
    const double slack = touching * std::min(a.radius, b.radius);
    const Vec3 offset = b.centre - a.centre;
    const auto parted_by = [&](Vec3 axis) {
        double reach = 0;
        for (std::size_t side = 0; side < 3; ++side)
            reach += a.halves[side] * std::abs(dot(a.axes[side], axis)) +
                     b.halves[side] * std::abs(dot(b.axes[side], axis));
        return std::abs(dot(offset, axis)) > reach - slack;
    };
    for (std::size_t side = 0; side < 3; ++side)
        if (parted_by(a.axes[side]) || parted_by(b.axes[side])) return false;
    constexpr double parallel = 1e-9;
    for (const Vec3 first : a.axes)
        for (const Vec3 second : b.axes) {
            const Vec3 axis = cross(first, second);
            const double size = length(axis);
            if (size > parallel && parted_by(axis * (1 / size))) return false;
        }
    return true;
}

}  // namespace plume
