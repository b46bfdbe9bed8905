#include "core/geometry/parts/near_points.hpp"

#include <algorithm>
#include <bit>
#include <numeric>

namespace plume {
namespace {

// Mixes three cell numbers; cells that share a slot are told apart by the distances themselves.
std::uint64_t mixed(std::int64_t i, std::int64_t j, std::int64_t k) {
    std::uint64_t h = static_cast<std::uint64_t>(i) * 0x9e3779b97f4a7c15U;
    h ^= static_cast<std::uint64_t>(j) * 0xc2b2ae3d27d4eb4fU;
    h ^= static_cast<std::uint64_t>(k) * 0x165667b19e3779f9U;
    return h ^ (h >> 29U) ^ (h >> 47U);
}

std::int64_t cell_number(double offset, double reach) {
    // Beyond 2^52 cells neighbours cannot be told apart anyway.
    return static_cast<std::int64_t>(std::clamp(std::floor(offset / reach), -4.5e15, 4.5e15));
}

// Of the cube so many cubes on from that of a place, counted from `low`.
std::uint64_t cube(Vec3 place, Vec3 low, double reach, int di, int dj, int dk) {
    return mixed(cell_number(place.x - low.x, reach) + di, cell_number(place.y - low.y, reach) + dj,
                 cell_number(place.z - low.z, reach) + dk);
}

}  // namespace

NearPoints::NearPoints(std::span<const Vec3> points, double reach) : points_(points), reach_(reach) {
    if (points.empty()) return;
    low_ = points.front();
    mask_ = std::bit_ceil(points.size() * 2) - 1;
    std::vector<std::uint64_t> cells(points.size());
    for (std::size_t index = 0; index < points.size(); ++index)
        cells[index] = cell_of(points[index], 0, 0, 0);
    first_.assign(mask_ + 2, 0);
    for (const std::uint64_t cell : cells)
        ++first_[cell + 1];
    std::partial_sum(first_.begin(), first_.end(), first_.begin());
    order_.resize(points.size());
    std::vector<std::size_t> next(first_.begin(), first_.end() - 1);
    for (std::size_t index = 0; index < points.size(); ++index)
        order_[next[cells[index]]++] = index;
}

std::uint64_t NearPoints::cell_of(Vec3 place, int di, int dj, int dk) const {
    return cube(place, low_, reach_, di, dj, dk) & mask_;
}

// Goes on while `found` says so; whether it went to the end.
template <class Found>
bool NearPoints::look(Vec3 place, Found found) const {
    if (points_.empty()) return true;
    // Two of the 27 cells may share a slot: each slot is looked into once.
    std::uint64_t seen[27];
    std::size_t seen_count = 0;
    for (int di = -1; di <= 1; ++di)
        for (int dj = -1; dj <= 1; ++dj)
            for (int dk = -1; dk <= 1; ++dk) {
                const std::uint64_t cell = cell_of(place, di, dj, dk);
                if (std::find(seen, seen + seen_count, cell) != seen + seen_count) continue;
                seen[seen_count++] = cell;
                for (std::size_t at = first_[cell]; at < first_[cell + 1]; ++at) {
                    const double distance = length(points_[order_[at]] - place);
                    if (distance <= reach_ && !found(order_[at], distance)) return false;
                }
            }
    return true;
}

void NearPoints::for_each_near(Vec3 place,
                               const std::function<void(std::size_t index, double distance)>& found) const {
    look(place, [&](std::size_t index, double distance) {
        found(index, distance);
        return true;
    });
}

void NearPoints::for_each_near_until(
    Vec3 place, const std::function<bool(std::size_t index, double distance)>& found) const {
    look(place, found);
}

bool NearPoints::any_near(Vec3 place) const {
    return !look(place, [](std::size_t, double) { return false; });
}

std::vector<std::size_t> first_within(std::span<const Vec3> points, double tolerance_abs) {
    std::vector<std::size_t> first(points.size());
    if (points.empty()) return first;
    // A tolerance of nothing still joins what is exactly the same place.
    const double reach = std::max(tolerance_abs, 1e-300);
    // Firsts by the cube they lie in, each with the one put in before it.
    constexpr auto none = static_cast<std::size_t>(-1);
    const std::uint64_t mask = std::bit_ceil(points.size() * 2) - 1;
    std::vector<std::size_t> newest(mask + 1, none), before(points.size(), none);
    const auto slot = [&](Vec3 place, int di, int dj, int dk) {
        return cube(place, points.front(), reach, di, dj, dk) & mask;
    };
    for (std::size_t index = 0; index < points.size(); ++index) {
        std::size_t least = index;
        for (int di = -1; di <= 1; ++di)
            for (int dj = -1; dj <= 1; ++dj)
                for (int dk = -1; dk <= 1; ++dk)
                    for (std::size_t other = newest[slot(points[index], di, dj, dk)]; other != none;
                         other = before[other])
                        if (length(points[other] - points[index]) <= tolerance_abs)
                            least = std::min(least, other);
        first[index] = least;
        if (least != index) continue;
        const std::uint64_t mine = slot(points[index], 0, 0, 0);
        before[index] = newest[mine];
        newest[mine] = index;
    }
    return first;
}

}  // namespace plume
