#include "core/study/edits/chosen_keys.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/base/numbers.hpp"
#include "core/study/edits/keyed_things.hpp"

namespace plume {
namespace {

std::string at_text(double seconds) {
    return short_text(seconds, 6) + " s";
}

Error no_key(double seconds) {
    return {ErrorCode::unknown_name, "", "There is no key at " + at_text(seconds), "Choose one of the keys."};
}

bool holds(const std::vector<double>& seconds, double moment) {
    const auto at = std::ranges::lower_bound(seconds, moment - same_moment_s);
    return at != seconds.end() && *at <= moment + same_moment_s;
}

template <class Key>
struct Parted {
    std::vector<Key> chosen, others;
};

template <class Key>
Result<Parted<Key>> parted(const std::vector<Key>& keys, const std::vector<double>& seconds) {
    Parted<Key> parts;
    for (const Key& key : keys)
        (holds(seconds, key.seconds) ? parts.chosen : parts.others).push_back(key);
    for (std::size_t at = 0; at < seconds.size(); ++at) {
        const bool there =
            at < parts.chosen.size() && std::abs(parts.chosen[at].seconds - seconds[at]) <= same_moment_s;
        if (!there) return no_key(seconds[at]);
    }
    return parts;
}

// `change` is handed each thing with its keys, the chosen ones apart, and gives what it has instead.
template <class Change>
Edited changed_keys(const Study& study, const KeyChoice& choice, Change change) {
    auto result = std::make_shared<const Study>(study);
    for (const ChosenKeys& chosen : choice) {
        Edited edited = changed_thing(*result, chosen.of, [&](auto& thing) -> Status {
            const auto parts = parted(thing.keys, chosen.seconds);
            if (!parts) return parts.error();
            return change(thing, *parts);
        });
        if (!edited) return edited;
        result = *std::move(edited);
    }
    return result;
}

void keep_last(Control& control, const ControlKey& key) {
    control.value = key.value;
}
void keep_last(Place& place, const PlaceKey& key) {
    place.x = key.x;
    place.y = key.y;
    place.z = key.z;
}
void keep_last(KeptCamera& kept, const CameraKey& key) {
    kept.camera = key.camera;
}

template <class Key>
std::vector<Key> merged(const std::vector<Key>& a, const std::vector<Key>& b) {
    std::vector<Key> all(a.size() + b.size());
    std::ranges::merge(a, b, all.begin(), {}, &Key::seconds, &Key::seconds);
    return all;
}

// Among others, so much later; nothing of them may be there.
template <class Key>
Result<std::vector<Key>> put_later(const std::vector<Key>& others, std::vector<Key> keys, double by) {
    for (Key& key : keys) {
        key.seconds += by;
        if (!std::isfinite(key.seconds) || key.seconds < 0 || key.seconds > longest_time_s)
            return Error{ErrorCode::out_of_range, "A key", "cannot be at " + at_text(key.seconds),
                         "Choose a moment from 0 s on, within a day."};
    }
    std::vector<Key> all = merged(others, keys);
    if (const auto twice = twice_keyed(all))
        return Error{ErrorCode::name_clash, "", "There is a key at " + at_text(*twice) + " already",
                     "Choose another moment, or remove that key first."};
    return all;
}

}  // namespace

bool is_chosen(const KeyChoice& choice, const Keyed& of, double seconds) {
    const auto chosen = std::ranges::find(choice, of, &ChosenKeys::of);
    return chosen != choice.end() && holds(chosen->seconds, seconds);
}

void choose(KeyChoice& choice, const Keyed& of, double seconds) {
    auto chosen = std::ranges::find(choice, of, &ChosenKeys::of);
    if (chosen == choice.end()) chosen = choice.insert(chosen, {of, {}});
    if (holds(chosen->seconds, seconds)) return;
    chosen->seconds.insert(std::ranges::upper_bound(chosen->seconds, seconds), seconds);
}

std::size_t key_count(const KeyChoice& choice) {
    std::size_t count = 0;
    for (const ChosenKeys& chosen : choice)
        count += chosen.seconds.size();
    return count;
}

double first_moment(const KeyChoice& choice) {
    double first = std::numeric_limits<double>::infinity();
    for (const ChosenKeys& chosen : choice)
        if (!chosen.seconds.empty()) first = std::min(first, chosen.seconds.front());
    return std::isfinite(first) ? first : 0;
}

KeyChoice moved_by(KeyChoice choice, double seconds) {
    for (ChosenKeys& chosen : choice)
        for (double& moment : chosen.seconds)
            moment += seconds;
    return choice;
}

Edited remove_keys(const Study& study, const KeyChoice& choice) {
    return changed_keys(study, choice, [](auto& thing, const auto& parts) -> Status {
        if (parts.others.empty() && !parts.chosen.empty()) keep_last(thing, parts.chosen.back());
        thing.keys = parts.others;
        return Done{};
    });
}

Edited ease_keys(const Study& study, const KeyChoice& choice, Easing easing) {
    return changed_keys(study, choice, [&](auto& thing, auto parts) -> Status {
        for (auto& key : parts.chosen)
            key.easing = easing;
        thing.keys = merged(parts.others, parts.chosen);
        return Done{};
    });
}

Edited move_keys(const Study& study, const KeyChoice& choice, double by) {
    return changed_keys(study, choice, [&](auto& thing, const auto& parts) -> Status {
        auto keys = put_later(parts.others, parts.chosen, by);
        if (!keys) return keys.error();
        thing.keys = *std::move(keys);
        return Done{};
    });
}

Edited copy_keys(const Study& study, const KeyChoice& choice, double by) {
    return changed_keys(study, choice, [&](auto& thing, const auto& parts) -> Status {
        auto keys = put_later(thing.keys, parts.chosen, by);
        if (!keys) return keys.error();
        thing.keys = *std::move(keys);
        return Done{};
    });
}

}  // namespace plume
