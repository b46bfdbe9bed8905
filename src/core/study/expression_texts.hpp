#pragma once
// Every expression of a study, for edits that change names or units in them.

#include <memory>

#include "core/study/step_kind.hpp"
#include "core/study/study.hpp"

namespace plume {

// Applies `change` to the text of every numeric slot and place coordinate, telling its dimension.
template <class Change>
void change_texts(Study& study, const Catalogue* catalogue, Change change) {
    for (Item& item : study.items) {
        const Step* old = step_of(item);
        if (!old) continue;
        Step step = *old;
        const StepKind* kind = catalogue ? catalogue->find(step.kind) : nullptr;
        for (auto& [key, value] : step.slots) {
            const SlotSpec* slot = kind ? kind->slot(key) : nullptr;
            if (auto* number = std::get_if<NumberText>(&value))
                number->text = change(number->text, slot ? slot->dimension() : plain_number);
            if (auto* formula = std::get_if<FormulaText>(&value)) {
                formula->text = change(formula->text, plain_number);
                for (FormulaVersion& version : formula->versions)
                    version.text = change(version.text, plain_number);
            }
            if (auto* places = std::get_if<Places>(&value))
                for (Place& place : *places) {
                    for (std::string* text : {&place.x, &place.y, &place.z})
                        *text = change(*text, a_length);
                    place.weight = change(place.weight, plain_number);
                }
        }
        if (step != *old) item = std::make_shared<const Step>(std::move(step));
    }
}

}  // namespace plume
