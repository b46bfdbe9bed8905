#include "core/study/step_kind.hpp"

#include <algorithm>
#include <array>

namespace plume {
namespace {

// Coordinates beyond this lose more than a tenth of a millimetre to rounding, and their squares must not
// overflow.
constexpr double farthest = 1e12;
// More than any machine here can hold, so that the estimate and not the slot answers for large counts.
constexpr double most_counted = 1e9;

SlotSpec preset_slot(SlotType type, std::string key, std::string label, std::string preset) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = type;
    spec.preset = std::move(preset);
    spec.least = -farthest;
    spec.most = farthest;
    return spec;
}

}  // namespace

std::string_view key_of(SlotType type) {
    static constexpr std::array<std::string_view, 15> keys{
        "count", "number",  "length", "angle", "quantity",  "choice", "reference", "places",
        "name",  "formula", "seed",   "text",  "addresses", "file",   "response"};
    return keys[static_cast<std::size_t>(type)];
}

Dimension SlotSpec::dimension() const {
    if (type == SlotType::length) return a_length;
    if (type == SlotType::angle) return an_angle;
    return plain_number;
}

bool SlotSpec::numeric() const {
    return type == SlotType::count || type == SlotType::number || type == SlotType::length ||
           type == SlotType::angle || type == SlotType::quantity || type == SlotType::seed;
}

SlotValue SlotSpec::preset_value() const {
    if (numeric()) return NumberText{preset};
    if (type == SlotType::choice || type == SlotType::name || type == SlotType::response)
        return WordKey{preset};
    if (type == SlotType::text || type == SlotType::addresses) return Lines{preset};
    if (type == SlotType::file) return FileName{};
    if (type == SlotType::formula) return FormulaText{preset, {}, {}};
    if (type == SlotType::places) return preset_places;
    return ResultName{};
}

SlotSpec count_slot(std::string key, std::string label, std::string preset, double least) {
    SlotSpec spec = preset_slot(SlotType::count, std::move(key), std::move(label), std::move(preset));
    spec.least = least;
    spec.most = most_counted;
    return spec;
}

SlotSpec number_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::number, std::move(key), std::move(label), std::move(preset));
}

SlotSpec length_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::length, std::move(key), std::move(label), std::move(preset));
}

SlotSpec length_above_zero_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = length_slot(std::move(key), std::move(label), std::move(preset));
    spec.least = 0;
    spec.above_least = true;
    return spec;
}

SlotSpec angle_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::angle, std::move(key), std::move(label), std::move(preset));
}

SlotSpec choice_slot(std::string key, std::string label, std::vector<Word> words) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::choice;
    spec.preset = words.front().key;
    spec.words = std::move(words);
    return spec;
}

SlotSpec reference_slot(std::string key, std::string label, std::vector<Kind> accepts) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::reference;
    spec.accepts = std::move(accepts);
    return spec;
}

SlotSpec places_slot(std::string key, std::string label, Places preset) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::places;
    spec.preset_places = std::move(preset);
    spec.least = -farthest;
    spec.most = farthest;
    return spec;
}

SlotSpec quantity_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::quantity, std::move(key), std::move(label), std::move(preset));
}

SlotSpec name_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::name, std::move(key), std::move(label), std::move(preset));
}

SlotSpec formula_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::formula, std::move(key), std::move(label), std::move(preset));
}

SlotSpec seed_slot(std::string key, std::string label, std::string preset) {
    SlotSpec spec = preset_slot(SlotType::seed, std::move(key), std::move(label), std::move(preset));
    spec.least = 0;
    spec.most = 9007199254740991;  // 2^53 - 1: beyond it a double no longer holds every whole number
    return spec;
}

SlotSpec text_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::text, std::move(key), std::move(label), std::move(preset));
}

SlotSpec addresses_slot(std::string key, std::string label, std::string preset) {
    return preset_slot(SlotType::addresses, std::move(key), std::move(label), std::move(preset));
}

SlotSpec file_slot(std::string key, std::string label, std::string file_kind) {
    SlotSpec spec = preset_slot(SlotType::file, std::move(key), std::move(label), {});
    spec.file_kind = std::move(file_kind);
    return spec;
}

SlotSpec response_slot(std::string key, std::string label, std::vector<Word> words) {
    SlotSpec spec = choice_slot(std::move(key), std::move(label), std::move(words));
    spec.type = SlotType::response;
    return spec;
}

SlotSpec corners_slot(std::string key, std::string label, Places preset) {
    SlotSpec spec = places_slot(std::move(key), std::move(label), std::move(preset));
    spec.corners = true;
    return spec;
}

bool reads_plain_numbers(const StepKind& kind) {
    if (kind.counts_plain_numbers) return true;
    return std::ranges::any_of(kind.slots, [](const SlotSpec& slot) {
        return slot.type == SlotType::formula || slot.type == SlotType::text || slot.file_kind == "table";
    });
}

const SlotSpec* StepKind::slot(std::string_view slot_key) const {
    const auto found = std::ranges::find(slots, slot_key, &SlotSpec::key);
    return found == slots.end() ? nullptr : &*found;
}

const StepKind* Catalogue::find(std::string_view key) const {
    const auto found = std::ranges::find(kinds_, key, &StepKind::key);
    return found == kinds_.end() ? nullptr : &*found;
}

}  // namespace plume
