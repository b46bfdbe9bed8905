#pragma once
// What pictures and films share: how large they are, how results look in them, what light there is.

#include "core/data/delivery.hpp"
#include "core/steps/handoff/delivery_support.hpp"

namespace plume {

SlotSpec at_most(SlotSpec slot, double most);
// "width" and "height".
std::vector<SlotSpec> pixel_slots(const char* wide, const char* high);

// look_slots() are said by these words.
inline constexpr const char* look_words =
    "[more|, {look}][more|, {lines}][more|, {light}][light=sun| from {bearing} at a height of "
    "{elevation}][light=place| at {latitude} north, {longitude} east on {day} {month} {year} at "
    "{hour} h of clocks {zone} h ahead of UTC][more|, {ground}][more|, {quality}]";
std::vector<SlotSpec> look_slots(const char* quality);
// With slots "view", "width" and "height" besides. Errors: those of days that there are not.
Result<PictureWishes> look_of(const Inputs& in, const Run& run);

}  // namespace plume
