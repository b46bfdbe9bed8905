#include "core/growth/kept_apart.hpp"

#include <cmath>

#include "core/base/noise.hpp"

namespace plume {

KeptApart::KeptApart(double distance, const Population& parts) : distance_(distance) {
    for (std::size_t part = 0; part < parts.size(); ++part)
        add(parts.placements[part].origin, static_cast<std::uint32_t>(part), parts.parents[part]);
}

// Cells far apart may share a number; what lies in them is measured anyway.
std::uint64_t KeptApart::cell_of(Vec3 place, int x, int y, int z) const {
    const auto number = [&](double at, int step) {
        const double cell = std::floor(at / distance_) + step;
        return std::abs(cell) < 1e15 ? static_cast<std::uint64_t>(static_cast<std::int64_t>(cell)) : 0;
    };
    return random_bits(random_bits(random_bits(number(place.x, x)) + number(place.y, y)) +
                       number(place.z, z));
}

void KeptApart::add(Vec3 place, std::uint32_t part, std::uint32_t parent) {
    cells_.emplace(cell_of(place, 0, 0, 0), Standing{place, part, parent});
}

bool KeptApart::is_free(Vec3 place, std::uint32_t parent) const {
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

Result<std::size_t> KeptApart::leave_out(const Population& parts, std::vector<std::uint8_t>& kept,
                                         const Run& run) {
    const std::size_t first = parts.last_begin();
    std::size_t left_out = 0;
    auto number = static_cast<std::uint32_t>(first);
    for (std::size_t local = 0; local < kept.size(); ++local) {
        if (local % 1024 == 0 && run.cancelled()) return cancelled_error();
        if (!kept[local]) continue;
        const Vec3 place = parts.placements[first + local].origin;
        const std::uint32_t parent = parts.parents[first + local];
        if (is_free(place, parent)) {
            add(place, number++, parent);
        } else {
            kept[local] = 0;
            ++left_out;
        }
    }
    return left_out;
}

}  // namespace plume
