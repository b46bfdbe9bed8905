#include "core/study/keys.hpp"

#include <array>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, easing_count> easing_keys{"smooth", "straight", "jump"};

}  // namespace

std::string_view key_of(Easing easing) {
    return easing_keys[static_cast<std::size_t>(easing)];
}

std::optional<Easing> easing_from(std::string_view key) {
    const auto found = std::ranges::find(easing_keys, key);
    if (found == easing_keys.end()) return {};
    return static_cast<Easing>(found - easing_keys.begin());
}

double eased(Easing easing, double share) {
    switch (easing) {
        case Easing::smooth:
            return share * share * (3 - 2 * share);
        case Easing::straight:
            return share;
        case Easing::jump:
            return share < 1 ? 0 : 1;
    }
    return share;
}

Error keyed_twice(const std::string& name, double seconds) {
    return {ErrorCode::name_clash, "‘" + name + "’", "has two keys at " + short_text(seconds) + " s",
            "Move or remove one of them."};
}

}  // namespace plume
