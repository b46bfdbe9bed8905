#include "core/study/slots/slot_form.hpp"

#include <algorithm>

#include "core/base/overloaded.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/study/slots/slot_rules.hpp"

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
                   [](const ResultList&) { return std::string("a list of results"); },
                   [](const GroupedSteps&) { return std::string("a group of steps"); },
                   [](const OddValue& odd) { return "‘" + shortened(odd.json) + "’"; }},
        value);
}

Error form_error(const SlotSpec& slot, const SlotValue& value) {
    return about_slot(
        Error{ErrorCode::wrong_form, "",
              "needs " + std::string(rules_of(slot.type).needs) + ", and is " + what_it_is(value),
              "Choose or type it anew."},
        slot);
}

bool stands_twice(const std::string& key) {
    return key.ends_with(again_suffix);
}

}  // namespace

Result<SlotValue> in_form(const SlotSpec& slot, const SlotValue& value) {
    const SlotRules& rules = rules_of(slot.type);
    if (rules.holds(value)) return value;
    if (auto meant = rules.meant(value)) return *std::move(meant);
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
        if (!slot) continue;
        // Most are in form and need not be copied.
        if (rules_of(slot->type).holds(value)) continue;
        if (const Result<SlotValue> read = in_form(*slot, value); !read) return read.error();
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
        // Those of a kind that hangs on a text of the step wait until it names them again.
        if (!kind.slot(key) && !kind.derivation) add(key);
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
        const StepKind* kind = old ? catalogue.find(*old) : nullptr;
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
