#pragma once
// What the steps that keep some points and leave others share.

#include "core/geometry/parts/subset.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// The choice `gaps`: leave gaps, or close up.
SlotSpec gaps_slot();
// The points of the slot `points` where the mask (one entry per address) is not 0. Error (empty_input) with
// this message and mend when none is left.
Result<Value> kept(const Inputs& in, const std::vector<std::uint8_t>& mask, const std::string& none_message,
                   const std::string& mend);
Estimate kept_estimate(const Inputs& in);

}  // namespace plume
