#pragma once
// Changing a number by dragging sideways or stepping: how far, how fine, within which ends.

#include <optional>

#include "core/study/step_kind.hpp"

namespace plume {

enum class ScrubPace { usual, fine, coarse };  // a tenth and ten times the usual

// The increment for a number of this magnitude: a hundredth of the power of ten below it, 0.01 around zero.
// 36 -> 0.1, 3.2 -> 0.01, 250 -> 1.
double scrub_increment(double value, ScrubPace pace);

// The slot's text after its literal moved by `ticks` increments, in the unit it was typed in and inside the
// slot's range; whole for counts. Nothing when the text is not a literal.
std::optional<std::string> scrubbed_text(const SlotSpec& slot, const std::string& text, double ticks,
                                         ScrubPace pace, const Units& units);

// One step up or down by a key: a whole one for counts (ten when coarse), an increment otherwise.
std::optional<std::string> stepped_text(const SlotSpec& slot, const std::string& text, int direction,
                                        ScrubPace pace, const Units& units);

// A control's value after `ticks`: by its own step if it has one, inside its range.
double scrubbed_value(const Control& control, double from, double ticks, ScrubPace pace);

// The control's value nearest to a share (0 to 1) of its range, on its step; and the share of a value.
double value_at_share(const Control& control, double share);
double share_of_value(const Control& control, double value);

}  // namespace plume
