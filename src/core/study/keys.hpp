#pragma once
// Keys: values at moments, in seconds from 0 on, with how it goes on from each to the next. Before the first
// key its value holds, behind the last one the last one's.

#include <algorithm>
#include <cmath>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"
#include "core/data/camera.hpp"

namespace plume {

// From a key to the next.
enum class Easing {
    smooth,    // at rest on both
    straight,  // evenly
    jump,      // stays, and is at the next all at once
};
inline constexpr int easing_count = 3;
std::string_view key_of(Easing easing);
std::optional<Easing> easing_from(std::string_view key);
// 0 to 1 of the value for 0 to 1 of the time; smooth is 3t^2 - 2t^3.
double eased(Easing easing, double share);

// In the control's unit.
struct ControlKey {
    double seconds = 0, value = 0;
    Easing easing = Easing::smooth;
    bool operator==(const ControlKey&) const = default;
};
// Expressions, as those of its place.
struct PlaceKey {
    double seconds = 0;
    std::string x, y, z;
    Easing easing = Easing::smooth;
    bool operator==(const PlaceKey&) const = default;
};
struct CameraKey {
    double seconds = 0;
    Camera camera;
    Easing easing = Easing::smooth;
    bool operator==(const CameraKey&) const = default;
};

// How long a study runs, and in how many steps a second.
struct Timeline {
    double seconds = 6;
    double rate = 30;
    bool operator==(const Timeline&) const = default;
    // Its last frame; the first is 0.
    std::size_t last_frame() const { return static_cast<std::size_t>(std::llround(seconds * rate)); }
};
inline constexpr double longest_time_s = 86'400, fastest_rate = 240;

// Moments that are nearer than this are one.
inline constexpr double same_moment_s = 1e-6;

// The key at a moment; the end where there is none.
template <class Keys>
auto key_at(Keys& keys, double seconds) {
    return std::ranges::find_if(
        keys, [&](const auto& key) { return std::abs(key.seconds - seconds) <= same_moment_s; });
}

// In its order; in place of the one at that moment, which goes on as it did.
template <class Key>
void put_key(std::vector<Key>& keys, Key key) {
    if (const auto old = key_at(keys, key.seconds); old != keys.end()) {
        key.easing = old->easing;
        key.seconds = old->seconds;
        *old = std::move(key);
        return;
    }
    keys.insert(std::ranges::upper_bound(keys, key.seconds, {}, &Key::seconds), std::move(key));
}

// Two keys that a moment lies between, and how far their values are mixed; twice the same one outside.
struct BetweenKeys {
    std::size_t before = 0, behind = 0;
    double share = 0;
};
// Of keys in ascending order, at least one.
template <class Key>
BetweenKeys between_keys(const std::vector<Key>& keys, double seconds) {
    const auto next = std::ranges::upper_bound(keys, seconds, {}, &Key::seconds);
    const auto behind = static_cast<std::size_t>(next - keys.begin());
    if (behind == 0) return {};
    if (behind == keys.size()) return {behind - 1, behind - 1, 0};
    const Key &from = keys[behind - 1], &to = keys[behind];
    const double share = (seconds - from.seconds) / (to.seconds - from.seconds);
    return {behind - 1, behind, eased(from.easing, share)};
}

// The first moment that two keys have; keys are in ascending order.
template <class Key>
std::optional<double> twice_keyed(const std::vector<Key>& keys) {
    const auto twice = std::ranges::adjacent_find(
        keys, [](const Key& a, const Key& b) { return b.seconds - a.seconds <= same_moment_s; });
    if (twice == keys.end()) return {};
    return twice->seconds;
}
Error keyed_twice(const std::string& name, double seconds);

}  // namespace plume
