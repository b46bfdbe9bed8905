// Places: names with coordinates and weights, each an expression.

#include "core/base/numbers.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

// One number of a place, within the limits of the slot given.
Result<double> resolved_part(SlotSpec slot, const Place& place, const char* what, const std::string& text,
                             SlotType type, const Scope& scope) {
    slot.label = std::string(what) + " of ‘" + place.name + "’";
    slot.type = type;
    return resolve_number(slot, text, scope);
}

// Of a place, or of one of its keys.
template <class At>
Result<Vec3> resolved_coordinates(const SlotSpec& slot, const Place& place, const At& at,
                                  const Scope& scope) {
    const bool told = !slot.told_by.empty();
    SlotSpec first = slot;
    if (told) {
        first.least = 0;
        first.most = 1;
    }
    const auto x = resolved_part(first, place, told ? "Share" : "x", at.x,
                                 told ? SlotType::number : SlotType::length, scope),
               y = resolved_part(slot, place, told ? "across" : "y", at.y, SlotType::length, scope),
               z = resolved_part(slot, place, told ? "up" : "z", at.z, SlotType::length, scope);
    for (const auto* number : {&x, &y, &z})
        if (!number->ok()) return number->error();
    return Vec3{*x, *y, *z};
}

Result<Vec3> resolved_key(const SlotSpec& slot, const Place& place, std::size_t index, const Scope& scope) {
    Result<Vec3> at = resolved_coordinates(slot, place, place.keys[index], scope);
    if (at) return at;
    Error error = at.error();
    error.where += " at " + short_text(place.keys[index].seconds) + " s";
    return error;
}

// All keys are looked at whatever the moment: what is wrong with one is known before it is played.
Result<Vec3> coordinates_at(const SlotSpec& slot, const Place& place, const Scope& scope, double seconds) {
    if (place.keys.empty()) return resolved_coordinates(slot, place, place, scope);
    if (const auto twice = twice_keyed(place.keys)) return about_slot(keyed_twice(place.name, *twice), slot);
    std::vector<Vec3> at;
    for (std::size_t index = 0; index < place.keys.size(); ++index) {
        const Result<Vec3> one = resolved_key(slot, place, index, scope);
        if (!one) return one.error();
        at.push_back(*one);
    }
    const BetweenKeys between = between_keys(place.keys, seconds);
    return at[between.before] + (at[between.behind] - at[between.before]) * between.share;
}

Result<ResolvedPlace> resolved_place(const SlotSpec& slot, const Place& place, const Standpoint& from) {
    const Result<Vec3> at = coordinates_at(slot, place, from.scope, from.seconds);
    if (!at) return at.error();
    const auto weight = resolved_part(slot, place, "weight", place.weight, SlotType::number, from.scope);
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
