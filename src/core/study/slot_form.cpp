#include "core/study/slot_form.hpp"

#include <algorithm>

#include "core/base/overloaded.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"

namespace plume {
namespace {

std::string what_it_is(const SlotValue& value) {
    return std::visit(
        Overloaded{[](const NumberText& number) { return "the expression ‘" + shortened(number.text) + "’"; },
                   [](const WordKey& word) { return "‘" + shortened(word.key) + "’"; },
                   [](const ResultName& result) { return "the result ‘" + shortened(result.name) + "’"; },
                   [](const Places&) { return std::string("a list of places"); },
                   [](const FormulaText&) { return std::string("a formula"); },
                   [](const Lines&) { return std::string("lines of text"); },
                   [](const FileName& file) { return "the file ‘" + shortened(file.path) + "’"; },
                   [](const OddValue& odd) { return "‘" + shortened(odd.json) + "’"; }},
        value);
}

std::string_view what_it_needs(SlotType type) {
    switch (type) {
        case SlotType::count:
        case SlotType::number:
        case SlotType::length:
        case SlotType::angle:
        case SlotType::quantity:
        case SlotType::seed:
            return "a number or an expression";
        case SlotType::choice:
            return "one of its words";
        case SlotType::reference:
            return "the name of a result";
        case SlotType::places:
            return "a list of places";
        case SlotType::name:
            return "a name";
        case SlotType::formula:
            return "a formula";
        case SlotType::text:
            return "lines of text";
        case SlotType::addresses:
            return "addresses";
        case SlotType::file:
            return "a file";
        case SlotType::response:
            return "one of its words or a drawn response";
    }
    return "another value";
}

// A plain text where the type has a form of its own; nothing where it cannot be meant.
std::optional<SlotValue> from_text(const SlotSpec& slot, const std::string& text) {
    if (slot.numeric()) return NumberText{text};
    if (slot.type == SlotType::reference) return ResultName{text};
    if (slot.type == SlotType::formula) return FormulaText{text, {}, {}};
    if (slot.type == SlotType::text || slot.type == SlotType::addresses) return Lines{text};
    if (slot.type == SlotType::file) return FileName{text};
    return {};
}

std::optional<SlotValue> converted(const SlotSpec& slot, const SlotValue& value) {
    if (const auto* word = std::get_if<WordKey>(&value)) return from_text(slot, word->key);
    const auto* lines = std::get_if<Lines>(&value);
    if (lines && slot.type == SlotType::formula) return FormulaText{lines->text, {}, {}};
    // A single number is an address, or a row of one.
    const auto* number = std::get_if<NumberText>(&value);
    const bool text = slot.type == SlotType::text || slot.type == SlotType::addresses;
    if (number && text && read_literal(number->text)) return Lines{number->text};
    return {};
}

// Whether the value is kept as the slot's type keeps it.
bool holds_form(const SlotSpec& slot, const SlotValue& value) {
    switch (slot.type) {
        case SlotType::count:
        case SlotType::number:
        case SlotType::length:
        case SlotType::angle:
        case SlotType::quantity:
        case SlotType::seed:
            return std::holds_alternative<NumberText>(value);
        case SlotType::choice:
        case SlotType::name:
        case SlotType::response:
            return std::holds_alternative<WordKey>(value);
        case SlotType::reference:
            return std::holds_alternative<ResultName>(value);
        case SlotType::places:
            return std::holds_alternative<Places>(value);
        case SlotType::formula:
            return std::holds_alternative<FormulaText>(value);
        case SlotType::text:
        case SlotType::addresses:
            return std::holds_alternative<Lines>(value);
        case SlotType::file:
            return std::holds_alternative<FileName>(value);
    }
    return false;
}

Error form_error(const SlotSpec& slot, const SlotValue& value) {
    return {ErrorCode::wrong_form, slot.label,
            "needs " + std::string(what_it_needs(slot.type)) + ", and is " + what_it_is(value),
            "Choose or type it anew."};
}

bool stands_twice(const std::string& key) {
    return key.ends_with(again_suffix);
}

}  // namespace

Result<SlotValue> in_form(const SlotSpec& slot, const SlotValue& value) {
    if (holds_form(slot, value)) return value;
    if (auto meant = converted(slot, value)) return *std::move(meant);
    return form_error(slot, value);
}

Result<SlotValue> read_slot(const SlotSpec& slot, const Step& step) {
    const auto found = step.slots.find(slot.key);
    if (found == step.slots.end()) return slot.preset_value();
    return in_form(slot, found->second);
}

std::optional<Error> slot_error(const StepKind& kind, const Step& step) {
    const auto twice = [](const std::string& key) {
        return Error{ErrorCode::wrong_form, "‘" + key.substr(0, key.size() - again_suffix.size()) + "’",
                     "stands twice in the file, and only one can count",
                     "Change it here, or take one of the two out of the file."};
    };
    for (const auto& [key, json] : step.unknown)
        if (stands_twice(key)) return twice(key);
    for (const auto& [key, value] : step.slots) {
        if (stands_twice(key)) return twice(key);
        const SlotSpec* slot = kind.slot(key);
        if (slot && !holds_form(*slot, value) && !converted(*slot, value)) return form_error(*slot, value);
    }
    return {};
}

std::vector<std::string> unknown_parts(const StepKind& kind, const Step& step) {
    std::vector<std::string> sentences;
    const auto add = [&](const std::string& key) {
        if (stands_twice(key)) return;
        std::vector<std::string> known;
        for (const SlotSpec& slot : kind.slots)
            known.push_back(slot.key);
        const auto close = closest_name(key, known);
        sentences.push_back("‘" + key + "’ is no part of this step" +
                            (close ? "; did you mean ‘" + *close + "’? It" : ". It") +
                            " is kept and does nothing.");
    };
    for (const auto& [key, json] : step.unknown)
        add(key);
    for (const auto& [key, json] : step.show.unknown)
        add(key);
    for (const auto& [key, value] : step.slots) {
        if (!kind.slot(key)) add(key);
        if (const auto* formula = std::get_if<FormulaText>(&value))
            for (const auto& [part, json] : formula->unknown)
                add(part);
        if (const auto* places = std::get_if<Places>(&value))
            for (const Place& place : *places)
                for (const auto& [part, json] : place.unknown)
                    add(part);
    }
    return sentences;
}

Study in_form(const Study& study, const Catalogue& catalogue) {
    Study result = study;
    for (Item& item : result.items) {
        const Step* old = step_of(item);
        const StepKind* kind = old ? catalogue.find(old->kind) : nullptr;
        if (!kind) continue;
        Step step = *old;
        for (auto& [key, value] : step.slots)
            if (const SlotSpec* slot = kind->slot(key))
                if (Result<SlotValue> read = in_form(*slot, value)) value = *std::move(read);
        if (step != *old) item = std::make_shared<const Step>(std::move(step));
    }
    return result;
}

}  // namespace plume
