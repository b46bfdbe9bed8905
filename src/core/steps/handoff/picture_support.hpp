#pragma once
// What pictures and films share: how large they are, how results look in them, what light there is.

#include "core/data/delivery.hpp"
#include "core/steps/handoff/delivery_support.hpp"

namespace plume {

SlotSpec at_most(SlotSpec slot, double most);

// How large a picture is and how results look in it, of which all but "width" and "height" is said by these
// words.
inline constexpr const char* look_words =
    "[more|, {look}][more|, {lines}][more|, {light}][light=sun| from {bearing} at a height of "
    "{elevation}][light=place| at {latitude} north, {longitude} east on {day} {month} {year} at "
    "{hour} h of clocks {zone} h ahead of UTC][more|, {ground}][more|, {quality}]";
struct LookPresets {
    const char *width, *height, *quality;
};
std::vector<SlotSpec> with_look(std::vector<SlotSpec> slots, const LookPresets& presets);
// With a slot "view" besides. Errors: those of days that there are not.
Result<PictureWishes> look_of(const Inputs& in, const Run& run);

}  // namespace plume
