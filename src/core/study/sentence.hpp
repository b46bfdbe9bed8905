#pragma once
// Sentences of step kinds.
//
// A template is text with {slot} for a slot and [slot=word|...] for a part that stands there only while the
// choice `slot` is `word` (or one of several: [slot=a,b|...]; & joins conditions: [slot=a&other=b|...]), or
// while one of the names picked in it, or of the words results are given as, is. Parts do not nest.
// [more|...] and [more&slot=word|...] hold what is rarely changed: as long as all of it is as preset it waits
// to be asked for. It counts all the same.
// "{columns} by {rows} bays {sizing} [sizing=over|{width} by {depth}] [more|, the first {at}]".

#include <span>
#include <string>
#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

// Either plain text or a slot to be shown in place.
struct SentencePart {
    std::string text;
    const SlotSpec* slot = nullptr;
    bool waits = false;  // until it is asked for
};

// The parts that stand there for this step, in order. `kind` has to outlive them.
std::vector<SentencePart> sentence_parts(const StepKind& kind, const Step& step);

// Slots that count for this step: those its sentence has, waiting or not. Others keep their value and are not
// looked at.
std::vector<const SlotSpec*> active_slots(const StepKind& kind, const Step& step);

// The sentence as plain text, without what waits: "Lay a lattice of 24 by 16 bays over 36 m by 24 m, ...".
std::string sentence_text(const StepKind& kind, const Step& step);
// The same of parts that are at hand.
std::string sentence_text(std::span<const SentencePart> parts, const Step& step);

// Text of a slot's value as the sentence shows it.
std::string slot_text(const SlotSpec& slot, const Step& step);

// The step's value of a slot, or the preset when it has none of the right type.
SlotValue slot_value(const SlotSpec& slot, const Step& step);

}  // namespace plume
