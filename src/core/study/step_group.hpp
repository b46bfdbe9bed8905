#pragma once
// Steps that stand as one: a step whose slots are what they leave open.
//
// Left open are slots of single steps, controls that their expressions read, and results from outside that
// they read by name. What was not left open stays as it is. Lengths inside are in units of their own.

#include "core/study/step_kind.hpp"

namespace plume {

inline constexpr std::string_view group_kind_key = "group.steps";
inline constexpr std::string_view group_slot_key = "steps";

// Groups may stand in groups, so far that a file with them can be read.
inline constexpr std::size_t deepest_group = 5;

// nullptr where the step is none.
const StepGroup* group_of(const Step& step);

// The slots that such a group leaves open, in its order. Errors, at the slot `steps`: empty_input (no step),
// missing_input (a result, step or slot that is not there, a name that is read and neither inside nor open),
// name_clash, bad_name (a key), wrong_kind (a slot that cannot be left
// open), too_deep, syntax (a key that does not stand in the sentence).
Result<std::vector<SlotSpec>> open_slots(const StepGroup& group, const Catalogue& catalogue);

// Whether that slot of the step that results in `step` is among them.
bool is_open(const std::vector<OpenSlot>& open, std::string_view step, std::string_view slot);

// Whether a slot of a single step can be left open.
bool can_be_open(const SlotSpec& slot);

// The kind of its step. Of a group that has an error one whose steps have that error.
StepKind kind_of_group(const StepGroup& group, const Catalogue& catalogue);

}  // namespace plume
