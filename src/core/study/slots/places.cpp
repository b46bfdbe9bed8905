// Places: names with coordinates and weights, each an expression.

#include "core/base/numbers.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

// The numbers of a place, each within limits of its own.
struct PlaceNumbers {
    SlotSpec x, y, z, weight;
};

PlaceNumbers numbers_of(const SlotSpec& slot, const Place& place) {
    const auto number = [&](const char* what, SlotType type) {
        SlotSpec one = slot;
        one.label = std::string(what) + " of ‘" + place.name + "’";
        one.type = type;
        return one;
    };
    const bool told = !slot.told_by.empty();
    PlaceNumbers numbers{number(told ? "Share" : "x", told ? SlotType::number : SlotType::length),
                         number(told ? "across" : "y", SlotType::length),
                         number(told ? "up" : "z", SlotType::length), number("weight", SlotType::number)};
    if (told) {
        numbers.x.least = 0;
        numbers.x.most = 1;
    }
    return numbers;
}

// Of a place, or of one of its keys.
template <class At>
Result<Vec3> resolved_at(const PlaceNumbers& numbers, const At& at, const Scope& scope) {
    const auto x = resolve_number(numbers.x, at.x, scope), y = resolve_number(numbers.y, at.y, scope),
               z = resolve_number(numbers.z, at.z, scope);
    for (const auto* number : {&x, &y, &z})
        if (!number->ok()) return number->error();
    return Vec3{*x, *y, *z};
}

Result<Vec3> resolved_key(const PlaceNumbers& numbers, const PlaceKey& key, const Scope& scope) {
    Result<Vec3> at = resolved_at(numbers, key, scope);
    if (at) return at;
    Error error = at.error();
    error.where += " at " + short_text(key.seconds) + " s";
    return error;
}

// All keys are looked at whatever the moment: what is wrong with one is known before it is played.
Result<Vec3> resolved_at(const SlotSpec& slot, const PlaceNumbers& numbers, const Place& place,
                         const Standpoint& from) {
    if (place.keys.empty()) return resolved_at(numbers, place, from.scope);
    if (const auto twice = twice_keyed(place.keys)) return about_slot(keyed_twice(place.name, *twice), slot);
    std::vector<Vec3> at;
    at.reserve(place.keys.size());
    for (const PlaceKey& key : place.keys) {
        const Result<Vec3> one = resolved_key(numbers, key, from.scope);
        if (!one) return one.error();
        at.push_back(*one);
    }
    const BetweenKeys between = between_keys(place.keys, from.seconds);
    return at[between.before] + (at[between.behind] - at[between.before]) * between.share;
}

Result<ResolvedPlace> resolved_place(const SlotSpec& slot, const Place& place, const Standpoint& from) {
    const PlaceNumbers numbers = numbers_of(slot, place);
    const Result<Vec3> at = resolved_at(slot, numbers, place, from);
    if (!at) return at.error();
    const auto weight = resolve_number(numbers.weight, place.weight, from.scope);
    if (!weight) return weight.error();
    return ResolvedPlace{place.name, *at, *weight};
}

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    std::vector<ResolvedPlace> resolved;
    for (const Place& place : std::get<Places>(value)) {
        Result<ResolvedPlace> one = resolved_place(slot, place, from);
        if (!one) return one.error();
        resolved.push_back(*std::move(one));
    }
    return Resolved(std::move(resolved));
}

void add_places_to_hash(Hasher& hasher, const Resolved& value) {
    for (const ResolvedPlace& place : std::get<std::vector<ResolvedPlace>>(value))
        hasher.add(place.name)
            .add(place.position.x)
            .add(place.position.y)
            .add(place.position.z)
            .add(place.weight);
}

std::string text(const SlotSpec& /*slot*/, const SlotValue& value) {
    std::string names, moving;
    std::size_t count = 0;
    for (const Place& place : std::get<Places>(value)) {
        names += (names.empty() ? "" : ", ") + place.name;
        if (place.keys.empty()) continue;
        moving = place.name;
        ++count;
    }
    if (count > 0) names += " · " + (count == 1 ? moving + " moves" : std::to_string(count) + " move");
    return names.empty() ? "none" : names;
}

}  // namespace

const SlotRules places_rules{.key = "places",
                             .needs = "a list of places",
                             .preset = [](const SlotSpec& slot) -> SlotValue { return slot.preset_places; },
                             .holds = holds_form<Places>,
                             .meant = never_meant,
                             .resolve = resolve,
                             .add_to_hash = add_places_to_hash,
                             .text = text};

SlotSpec places_slot(std::string key, std::string label, Places preset) {
    SlotSpec spec = slot_with_preset(SlotType::places, std::move(key), std::move(label), {});
    spec.preset_places = std::move(preset);
    return spec;
}

SlotSpec corners_slot(std::string key, std::string label, Places preset) {
    SlotSpec spec = places_slot(std::move(key), std::move(label), std::move(preset));
    spec.corners = true;
    return spec;
}

}  // namespace plume
