#include "core/forces/place_grid.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace plume {
namespace {

constexpr int key_bits = 21;

std::uint64_t key(std::int64_t x, std::int64_t y, std::int64_t z) {
    constexpr std::int64_t middle = 1 << (key_bits - 1);
    const auto part = [](std::int64_t cell) { return static_cast<std::uint64_t>(cell + middle); };
    return (part(z) << (2 * key_bits)) | (part(y) << key_bits) | part(x);
}

}  // namespace

std::int64_t PlaceGrid::cell_of(double coordinate) const {
    constexpr double most = (1 << (key_bits - 1)) - 2;
    return static_cast<std::int64_t>(std::clamp(std::floor(coordinate / cell_), -most, most));
}

void PlaceGrid::sort(const std::vector<Vec3>& places) {
    entries_.resize(places.size());
    for (std::uint32_t at = 0; at < places.size(); ++at)
        entries_[at] = {key(cell_of(places[at].x), cell_of(places[at].y), cell_of(places[at].z)), at};
    std::ranges::sort(entries_);
}

void PlaceGrid::gather(Vec3 place, bool anew, Runs& runs, std::vector<std::uint32_t>& others) const {
    const std::int64_t x = cell_of(place.x), y = cell_of(place.y), z = cell_of(place.z);
    others.clear();
    for (std::int64_t row = 0; row < 9; ++row) {
        const std::int64_t j = y + row % 3 - 1, k = z + row / 3 - 1;
        std::size_t& run = runs[static_cast<std::size_t>(row)];
        const Entry first{key(x - 1, j, k), 0};
        if (anew)
            run = static_cast<std::size_t>(std::ranges::lower_bound(entries_, first) - entries_.begin());
        while (run < entries_.size() && entries_[run] < first)
            ++run;
        const std::uint64_t last = key(x + 1, j, k);
        for (std::size_t near = run; near < entries_.size() && entries_[near].first <= last; ++near)
            others.push_back(entries_[near].second);
    }
}

Vec3 way_by_number(std::uint32_t number) {
    const double turn = number * std::numbers::pi * (3 - std::sqrt(5.0));
    const double height = std::fmod(number * 0.754877666, 2.0) - 1;
    const double wide = std::sqrt(std::max(0.0, 1 - height * height));
    return {wide * std::cos(turn), wide * std::sin(turn), height};
}

}  // namespace plume
