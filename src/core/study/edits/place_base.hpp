#pragma once
// The curve that places are told by, for handles and for the edits that move them.

#include <optional>

#include "core/geometry/curves/base_line.hpp"
#include "core/study/edits/place_handles.hpp"

namespace plume {

// Nothing for places in space, and where what is shown is not one curve.
std::optional<BaseLine> base_of(const StepKind& kind, const SlotSpec& slot, const Step& step,
                                const ShownValue& shown);

}  // namespace plume
