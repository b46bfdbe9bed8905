#pragma once
// What has to be made first, where a step finds nothing that it could read.

#include <set>
#include <span>
#include <vector>

#include "core/study/edits/edits.hpp"

namespace plume {

// The fewest steps after which there is something to read for each of these slots of a kind, of one of the
// kinds of result it accepts, where results of the kinds `present` are there; in the order they are added,
// with the words that are chosen in them. Empty where nothing is missing, or where no steps lead there.
std::vector<Step> needed_steps(const Catalogue& catalogue, const std::set<Kind>& present,
                               const StepKind& kind, const std::vector<const SlotSpec*>& reading);

// Those at that position, and below them `step`, which reads what they make. The id is that of the last.
Result<Added> add_with_needed(const Study& study, const Catalogue& catalogue, const std::vector<Step>& needed,
                              const Step& step, std::size_t position, std::string_view prefer);

// The fewest steps above a step after which that slot of it finds something to read; empty where it does
// already.
std::vector<Step> needed_above(const Study& study, const Catalogue& catalogue, ItemId reader,
                               const SlotSpec& slot);
// A step with a place at each of these, in the units of a study, to be dragged.
Step handles_at(std::span<const Vec3> places, const Units& units);
// Steps above a step whose slot reads the last of them.
Edited read_from_above(const Study& study, const Catalogue& catalogue, const std::vector<Step>& needed,
                       ItemId reader, const std::string& slot);

}  // namespace plume
