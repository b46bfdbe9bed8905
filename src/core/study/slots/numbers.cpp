// Counts, plain numbers, lengths, angles and forces: a number as typed, of one dimension.

#include <cmath>

#include "core/base/numbers.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

SlotValue preset(const SlotSpec& slot) {
    return NumberText{slot.preset};
}

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const Result<double> number = resolve_number(slot, std::get<NumberText>(value).text, from.scope);
    if (!number) return number.error();
    return Resolved(*number);
}

constexpr SlotRules rules(std::string_view key, Dimension dimension, bool whole = false) {
    return {.key = key,
            .needs = "a number or an expression",
            .numeric = true,
            .whole = whole,
            .dimension = dimension,
            .preset = preset,
            .holds = holds_form<NumberText>,
            .meant = meant_as_text<NumberText>,
            .resolve = resolve,
            .add_to_hash = add_number_to_hash,
            .text = typed_number};
}

}  // namespace

const SlotRules count_rules = rules("count", plain_number, true);
const SlotRules seed_rules = rules("seed", plain_number, true);
const SlotRules number_rules = rules("number", plain_number);
const SlotRules length_rules = rules("length", a_length);
const SlotRules angle_rules = rules("angle", an_angle);
const SlotRules force_rules = rules("force", a_force);

std::string typed_number(const SlotSpec& /*slot*/, const SlotValue& value) {
    return std::get<NumberText>(value).text;
}

void add_number_to_hash(Hasher& hasher, const Resolved& value) {
    hasher.add(std::get<double>(value));
}

Result<double> resolve_number(const SlotSpec& slot, std::string_view text, const Scope& scope) {
    const Result<double> value = evaluate_as(slot.dimension(), text, scope);
    if (!value) return about_slot(value.error(), slot);
    const auto refused = [&](ErrorCode code, std::string message, std::string mend) {
        return about_slot(Error{code, "", std::move(message), std::move(mend)}, slot);
    };
    const auto shown = [&](double number) {
        return quantity_text({number, slot.dimension()}, scope.units, slot.type == SlotType::seed ? 17 : 8);
    };
    if (rules_of(slot.type).whole && *value != std::floor(*value))
        return refused(ErrorCode::bad_number, "has to be a whole number, and is " + shown(*value),
                       "Round it, or wrap the expression in round( ).");
    const bool low = *value < slot.least || (slot.above_least && *value <= slot.least);
    if (low || *value > slot.most)
        return refused(ErrorCode::out_of_range,
                       std::string("has to be ") +
                           (low ? (slot.above_least ? "above " : "at least ") : "at most ") +
                           shown(low ? slot.least : slot.most) + ", and is " + shown(*value),
                       low ? "Type a larger number." : "Type a smaller number.");
    return *value;
}

SlotSpec count_slot(std::string key, std::string label, std::string preset, double least) {
    SlotSpec spec = slot_with_preset(SlotType::count, std::move(key), std::move(label), std::move(preset));
    spec.least = least;
    // More than any machine here can hold, so that the estimate and not the slot answers for large counts.
    spec.most = 1e9;
    return spec;
}

SlotSpec seed_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = slot_with_preset(SlotType::seed, std::move(key), std::move(label), std::move(preset));
    spec.least = 0;
    spec.most = 9007199254740991;  // 2^53 - 1: beyond it a double no longer holds every whole number
    return spec;
}

SlotSpec number_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::number, std::move(key), std::move(label), std::move(preset));
}

SlotSpec length_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::length, std::move(key), std::move(label), std::move(preset));
}

SlotSpec length_above_zero_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = length_slot(std::move(key), std::move(label), std::move(preset));
    spec.least = 0;
    spec.above_least = true;
    return spec;
}

SlotSpec angle_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::angle, std::move(key), std::move(label), std::move(preset));
}

SlotSpec force_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::force, std::move(key), std::move(label), std::move(preset));
}

}  // namespace plume
