#pragma once
// What a step has to choose from, by the keys of its slots: parts of its file, units with what it would
// measure.

#include "core/study/step_kind.hpp"

namespace plume {

// Whether a slot shows offers beside its value.
bool has_offers(const StepKind& kind, const SlotSpec& slot);

// Of every active slot that has them. Errors: those of reading what they are of.
Result<std::map<std::string, Offers>> offers_of(const StepKind& kind, const Inputs& in, const Run& run);

}  // namespace plume
