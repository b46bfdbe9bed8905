#pragma once
// What is handed off, coloured by what is new, changed or as before, and where was what is gone.

#include <memory>
#include <span>

#include "core/handoff/hand_off.hpp"
#include "core/picture/drawable.hpp"
#include "core/picture/ramp.hpp"

namespace plume {

// The result with the colours of its parts' states as its own (picture/own_colours.hpp), and no other number.
// The changes are those of the delivery: others than the result's parts are passed over. Points and what
// stands on them keep their colours. O(size).
Result<Value> coloured_by_state(const GivenResult& given, std::span<const PartChange> changes);

inline constexpr Rgb gone_colour{0.78F, 0.24F, 0.36F};  // rose
// Edges of boxes where parts were that are gone; nothing where none is. O(changes).
std::shared_ptr<const Drawable> drawn_gone(std::span<const PartChange> changes);

}  // namespace plume
