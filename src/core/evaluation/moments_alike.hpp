#pragma once
// What an edit of keys leaves as it was. A study that differs from the one before it in keys alone has the
// same moments up to the first at which a value differs: these are taken over, so that what moves goes on
// from there instead of being made from its beginning once more.

#include "core/evaluation/moments.hpp"
#include "core/evaluation/result_store.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// Of every step of `now`: how many frames from the first on it is made from what it was made from in
// `before`, `most` at most. 0 of steps that differ in anything but keys of places and of controls they read,
// or that read one that does.
std::map<ItemId, std::size_t> frames_alike(const Study& before, const Study& now, const Catalogue& catalogue,
                                           double rate, std::size_t most);

// The moments that are known of `before` become known of `now` as far as they are the same.
void take_over_moments(const Study& before, const Study& now, const Catalogue& catalogue, double rate,
                       ResultStore& store);

}  // namespace plume
