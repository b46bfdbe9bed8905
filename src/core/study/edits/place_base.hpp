#pragma once
// What places are told by, for handles and for the edits that move them: a curve or space, and the moment.

#include <optional>

#include "core/geometry/curves/base_line.hpp"
#include "core/study/edits/place_handles.hpp"

namespace plume {

// Nothing for places in space, and where what is shown is not one curve.
std::optional<BaseLine> base_of(const StepKind& kind, const SlotSpec& slot, const Step& step,
                                const ShownValue& shown);

// Which of so many places a handle moves: of a mirror image, which stand behind them, the place itself.
std::size_t own_place(const SlotSpec& slot, std::size_t index, std::size_t count);

// Its coordinates as they are kept, at a moment; nothing where they cannot be read.
std::optional<Vec3> coordinates_at(const SlotSpec& slot, const Place& place, const Scope& scope,
                                   double seconds);

}  // namespace plume
