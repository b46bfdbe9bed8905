#pragma once
// What the steps that change surfaces share.

#include <functional>

#include "core/data/surface_set.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

SlotSpec surface_slot();

// The one patch of the slot `surface`; an error says that so many are too many, as in "points are placed on
// one".
Result<SplinePatch> only_patch(const Inputs& in, const std::string& what_is_done);

// Whether a change can be made to a patch that is trimmed.
enum class Trims { go_along, refused };
// Each patch of the slot `surface` changed. Errors are about the slot; where there are several patches they
// say which.
Result<Value> each_patch(const Inputs& in, const Run& run, Trims trims,
                         const std::function<Result<SplinePatch>(const SplinePatch&)>& change);
// Of work that grows with the poles of the slot `surface`.
Estimate surface_poles_estimate(const Inputs& in, double bytes_a_pole, double seconds_a_pole);

// What a search over patches is made of, for estimates: even the simplest is cut into some hundred bays.
double searched_bays(const std::vector<SplinePatch>& patches);

}  // namespace plume
