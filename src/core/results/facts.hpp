#pragma once
// What `plume inspect --json` tells of a value: its kind, extent, counts and the figures of its numbers.
// Lengths in the study's unit; null where a number is not finite.

#include <nlohmann/json_fwd.hpp>

#include "core/data/value.hpp"

namespace plume {

// O(n), measured anew at each call.
nlohmann::ordered_json facts_of(const Value& value, const Units& units);

}  // namespace plume
