#pragma once
// What a step will be made from, told without making anything: two steps with the same recipe have the same
// result, so that work on one is of use to a study that has the other.

#include <map>
#include <set>

#include "core/base/hash.hpp"
#include "core/study/study.hpp"

namespace plume {

// Of every step, muted ones included: its kind, name, slots and units, the controls it reads, and the recipes
// of what it reads. How results are shown, headings, notes and what other steps do make no difference.
// O(study).
std::map<ItemId, Hash> recipes_of(const Study& study);

}  // namespace plume
