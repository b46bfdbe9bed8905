#include "core/data/ramp_style.hpp"

#include <algorithm>
#include <array>

namespace plume {
namespace {

constexpr std::array<std::string_view, ramp_count> keys{"estuary", "dusk", "tide", "ink"};

}  // namespace

std::string_view key_of(Ramp ramp) {
    return keys[static_cast<std::size_t>(ramp)];
}

std::optional<Ramp> ramp_from(std::string_view key) {
    const auto found = std::ranges::find(keys, key);
    if (found == keys.end()) return {};
    return static_cast<Ramp>(found - keys.begin());
}

}  // namespace plume
