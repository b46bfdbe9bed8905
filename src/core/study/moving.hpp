#pragma once
// What of a study moves, and where it is at a moment, in seconds.

#include <set>

#include "core/study/step_kind.hpp"

namespace plume {

// The value nearest to this one on the control's step, where it has one.
double on_step(const Control& control, double value);
// In the control's unit, between keys on its step.
double value_at(const Control& control, double seconds);
// Turned the way its angles count: from 0 to 720 degrees it goes round twice. Distances are mixed by their
// logarithms, so that it comes nearer evenly.
Camera camera_at(const KeptCamera& kept, double seconds);

// Whether the step itself follows time: an expression reads it or a control with keys, a place or the camera
// it looks by has keys, or it goes on from its moment before.
bool follows_time(const Study& study, const Catalogue& catalogue, const Step& step);
// Steps that follow time, and those that read one; not those that keep a moment. O(study).
std::set<ItemId> moving_steps(const Study& study, const Catalogue& catalogue);
// Whose moment one would keep: the step that is in hand where it moves; where that is hidden, the last made
// from it that is seen; else the last that is seen to move. Not of numbers, nor of what is handed off.
const Step* moment_to_keep(const Study& study, const Catalogue& catalogue, ItemId in_hand);
// Whether anything does, or could be seen to: a step, a control or camera with keys.
bool moves(const Study& study, const Catalogue& catalogue);

}  // namespace plume
