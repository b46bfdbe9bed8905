#pragma once
// Every expression of a study, for edits that change names or units in them.

#include <algorithm>
#include <memory>

#include "core/base/numbers.hpp"
#include "core/formula/expression.hpp"
#include "core/study/step_kind.hpp"
#include "core/study/study.hpp"

namespace plume {

// A quantity in study lengths, radians and kilonewtons as a text that reads back as the same.
inline std::string exact_text(const Quantity& quantity, const Units& units) {
    std::string number = exact_text(quantity.value);
    if (quantity.dimension == plain_number) return number;
    const std::string unit = unit_text(quantity.dimension, {units.length, AngleUnit::radian});
    return unit_quantity(unit, units.length) ? number + " " + unit : number;
}

// Applies `change` to every slot of every step: its key's spec (nullptr when unknown) and its value.
template <class Change>
void change_slots(Study& study, const Catalogue* catalogue, Change change) {
    for (Item& item : study.items) {
        const Step* old = step_of(item);
        if (!old) continue;
        Step step = *old;
        const StepKind* kind = catalogue ? catalogue->find(step) : nullptr;
        for (auto& [key, value] : step.slots)
            change(kind ? kind->slot(key) : nullptr, value);
        if (step != *old) item = std::make_shared<const Step>(std::move(step));
    }
}

// Applies `change` to the text of every numeric slot and place coordinate in it, telling its dimension.
template <class Change>
void change_numbers(SlotValue& value, const SlotSpec* slot, Change change) {
    if (auto* number = std::get_if<NumberText>(&value))
        number->text = change(number->text, slot ? slot->dimension() : plain_number);
    if (auto* places = std::get_if<Places>(&value))
        for (Place& place : *places) {
            const auto change_all = [&](auto& at) {
                at.x = change(at.x, slot && !slot->told_by.empty() ? plain_number : a_length);
                for (std::string* text : {&at.y, &at.z})
                    *text = change(*text, a_length);
            };
            change_all(place);
            std::ranges::for_each(place.keys, change_all);
            place.weight = change(place.weight, plain_number);
        }
}

// Every use of a control's or a result's name in expressions and formulas.
inline void rename_in_texts(Study& study, const std::string& from, const std::string& to) {
    change_slots(study, nullptr, [&](const SlotSpec*, SlotValue& value) {
        change_numbers(value, nullptr,
                       [&](const std::string& text, Dimension) { return with_renamed(text, from, to); });
        auto* formula = std::get_if<FormulaText>(&value);
        if (!formula) return;
        formula->text = with_renamed(formula->text, from, to);
        for (FormulaVersion& version : formula->versions)
            version.text = with_renamed(version.text, from, to);
    });
}

}  // namespace plume
