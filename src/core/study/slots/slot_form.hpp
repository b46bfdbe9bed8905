#pragma once
// A slot's value in the form its type has. Files are written by hand and by others, too: "12" or "h * 2" for
// a number, "ground" for a reading, a formula as one text can only mean one thing and are read. All else is
// refused, never replaced by a preset.

#include "core/study/step_kind.hpp"

namespace plume {

// The value as the slot's type keeps it. Error: wrong_form at the slot's label.
Result<SlotValue> in_form(const SlotSpec& slot, const SlotValue& value);

// The same for a step: its value, or the preset where it has none. Errors: wrong_form.
Result<SlotValue> read_slot(const SlotSpec& slot, const Step& step);

// What is wrong with the slots of a step beyond the values of those that count: a form that cannot be read, a
// key that stands twice.
std::optional<Error> slot_error(const StepKind& kind, const Step& step);
// Sentences about keys that the kind or the program does not know.
std::vector<std::string> unknown_parts(const StepKind& kind, const Step& step);

// A study whose slots all have the form of their type, as far as they can be read. Files are brought to it
// once.
Study in_form(const Study& study, const Catalogue& catalogue);

}  // namespace plume
