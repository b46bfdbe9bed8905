// Lines of the step's own language, and addresses: text that names points.

#include <algorithm>

#include "core/study/slots/slot_rules.hpp"

#include "core/base/small_letters.hpp"

namespace plume {
namespace {

// A single number is an address, or a row of one.
std::optional<SlotValue> meant(const SlotValue& value) {
    if (const auto* word = std::get_if<WordKey>(&value)) return Lines{word->key};
    const auto* number = std::get_if<NumberText>(&value);
    if (number && read_literal(number->text)) return Lines{number->text};
    return {};
}

Result<Resolved> resolve(const SlotSpec& /*slot*/, const SlotValue& value, const Standpoint& /*from*/) {
    return Resolved(std::get<Lines>(value).text);
}

// Short texts stand in the sentence, longer ones are counted.
constexpr std::size_t longest_shown = 48;

std::string lines_text(const SlotSpec& /*slot*/, const SlotValue& value) {
    const std::string& text = std::get<Lines>(value).text;
    if (text.empty()) return "nothing yet";
    const auto lines = std::ranges::count(text, '\n') + 1;
    if (lines == 1 && text.size() <= longest_shown) return text;
    return std::to_string(lines) + (lines == 1 ? " line" : " lines");
}

std::string addresses_text(const SlotSpec& slot, const SlotValue& value) {
    const std::string& text = std::get<Lines>(value).text;
    if (text.empty()) return "none yet";
    const auto lines = std::ranges::count(text, '\n');
    if (lines == 0 && text.size() <= longest_shown) return text;
    return std::to_string(std::ranges::count(text, ' ') + lines + 1) + " " + in_small_letters(slot.label);
}

constexpr SlotRules rules(std::string_view key, std::string_view needs,
                          std::string (*text)(const SlotSpec&, const SlotValue&)) {
    return {.key = key,
            .needs = needs,
            .preset = [](const SlotSpec& slot) -> SlotValue { return Lines{slot.preset}; },
            .holds = holds_form<Lines>,
            .meant = meant,
            .resolve = resolve,
            .add_to_hash = add_text_to_hash,
            .text = text};
}

}  // namespace

const SlotRules text_rules = rules("text", "lines of text", lines_text);
const SlotRules addresses_rules = rules("addresses", "addresses", addresses_text);

SlotSpec text_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::text, std::move(key), std::move(label), std::move(preset));
}

SlotSpec script_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = text_slot(std::move(key), std::move(label), std::move(preset));
    spec.script = true;
    return spec;
}

SlotSpec addresses_slot(std::string key, std::string label, std::string preset) {
    return slot_with_preset(SlotType::addresses, std::move(key), std::move(label), std::move(preset));
}

SlotSpec point_addresses_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = addresses_slot(std::move(key), std::move(label), std::move(preset));
    spec.of_points = true;
    return spec;
}

}  // namespace plume
