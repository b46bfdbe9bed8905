#include "core/sheets/feature_grid.hpp"

#include <algorithm>
#include <bit>
#include <cmath>

namespace plume {

void FeatureGrid::build(const std::vector<Box>& boxes, double cell) {
    cell_ = cell;
    std::vector<Entry> loose;
    loose.reserve(boxes.size() * 4);
    for (std::uint32_t feature = 0; feature < boxes.size(); ++feature) {
        const Cell low = cell_of(boxes[feature].low), high = cell_of(boxes[feature].high);
        for (std::int32_t x = low.x; x <= high.x; ++x)
            for (std::int32_t y = low.y; y <= high.y; ++y)
                for (std::int32_t z = low.z; z <= high.z; ++z)
                    loose.push_back({{x, y, z}, low, feature});
    }
    mask_ = std::bit_ceil(std::max<std::size_t>(loose.size(), 16)) - 1;
    first_.assign(mask_ + 2, 0);
    for (const Entry& entry : loose)
        ++first_[bucket_of(entry.cell) + 1];
    for (std::size_t bucket = 0; bucket <= mask_; ++bucket)
        first_[bucket + 1] += first_[bucket];
    entries_.resize(loose.size());
    std::vector<std::uint32_t> next(first_.begin(), first_.end() - 1);
    for (const Entry& entry : loose)
        entries_[next[bucket_of(entry.cell)]++] = entry;
}

FeatureGrid::Cell FeatureGrid::cell_of(Vec3 place) const {
    // What is so far away that cells cannot be counted is in the last one.
    constexpr double most = 1e9;
    const auto one = [&](double along) {
        return static_cast<std::int32_t>(std::floor(std::clamp(along / cell_, -most, most)));
    };
    return {one(place.x), one(place.y), one(place.z)};
}

std::size_t FeatureGrid::bucket_of(Cell cell) const {
    const auto part = [](std::int32_t along, std::uint64_t times) {
        return static_cast<std::uint64_t>(static_cast<std::uint32_t>(along)) * times;
    };
    std::uint64_t hash = part(cell.x, 0x9E3779B97F4A7C15U) ^ part(cell.y, 0xC2B2AE3D27D4EB4FU) ^
                         part(cell.z, 0x165667B19E3779F9U);
    hash ^= hash >> 29;
    return static_cast<std::size_t>(hash) & mask_;
}

}  // namespace plume
