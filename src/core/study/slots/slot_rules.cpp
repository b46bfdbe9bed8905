#include "core/study/slots/slot_rules.hpp"

namespace plume {

const SlotRules& rules_of(SlotType type) {
    switch (type) {
        case SlotType::count:
            return count_rules;
        case SlotType::number:
            return number_rules;
        case SlotType::length:
            return length_rules;
        case SlotType::angle:
            return angle_rules;
        case SlotType::force:
            return force_rules;
        case SlotType::quantity:
            return quantity_rules;
        case SlotType::choice:
            return choice_rules;
        case SlotType::reference:
            return reference_rules;
        case SlotType::places:
            return places_rules;
        case SlotType::name:
            return name_rules;
        case SlotType::formula:
            return formula_rules;
        case SlotType::seed:
            return seed_rules;
        case SlotType::text:
            return text_rules;
        case SlotType::addresses:
            return addresses_rules;
        case SlotType::file:
            return file_rules;
        case SlotType::picks:
            return picks_rules;
        case SlotType::response:
            return response_rules;
        case SlotType::results:
            return results_rules;
        case SlotType::target:
            return target_rules;
        case SlotType::camera:
            return camera_rules;
        case SlotType::group:
            return group_rules;
    }
    assert(false);
    return number_rules;
}

std::string_view key_of(SlotType type) {
    return rules_of(type).key;
}

Dimension SlotSpec::dimension() const {
    return rules_of(type).dimension;
}

bool SlotSpec::numeric() const {
    return rules_of(type).numeric;
}

SlotValue SlotSpec::preset_value() const {
    return rules_of(type).preset(*this);
}

SlotSpec slot_with_preset(SlotType type, std::string key, std::string label, std::string preset) {
    // Coordinates beyond this lose more than a tenth of a millimetre to rounding, and their squares must not
    // overflow.
    constexpr double farthest = 1e12;
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = type;
    spec.preset = std::move(preset);
    spec.least = -farthest;
    spec.most = farthest;
    return spec;
}

Error about_slot(Error error, const SlotSpec& slot) {
    if (error.where.empty()) error.where = slot.label;
    return about_slot(std::move(error), slot.key);
}

void add_text_to_hash(Hasher& hasher, const Resolved& value) {
    hasher.add(std::get<std::string>(value));
}

}  // namespace plume
