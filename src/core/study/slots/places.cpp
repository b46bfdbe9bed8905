// Places: names with coordinates and weights, each an expression.

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

Result<ResolvedPlace> resolved_place(const SlotSpec& slot, const Place& place, const Scope& scope) {
    const auto read = [&](const char* what, const std::string& text, SlotType type) {
        return resolved_part(slot, place, what, text, type, scope);
    };
    const bool told = !slot.told_by.empty();
    const auto share = [&] {
        SlotSpec part = slot;
        part.least = 0;
        part.most = 1;
        return resolved_part(part, place, "Share", place.x, SlotType::number, scope);
    };
    const auto x = told ? share() : read("x", place.x, SlotType::length),
               y = read(told ? "across" : "y", place.y, SlotType::length),
               z = read(told ? "up" : "z", place.z, SlotType::length),
               weight = read("weight", place.weight, SlotType::number);
    for (const auto* number : {&x, &y, &z, &weight})
        if (!number->ok()) return number->error();
    return ResolvedPlace{place.name, {*x, *y, *z}, *weight};
}

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    std::vector<ResolvedPlace> resolved;
    for (const Place& place : std::get<Places>(value)) {
        Result<ResolvedPlace> one = resolved_place(slot, place, from.scope);
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
    std::string names;
    for (const Place& place : std::get<Places>(value))
        names += (names.empty() ? "" : ", ") + place.name;
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
