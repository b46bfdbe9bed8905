#pragma once
// What is told of a value beyond its outline. Lengths in the study's unit.

#include <nlohmann/json_fwd.hpp>
#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

// What `plume inspect --json` tells: kind, extent, counts and the figures of the numbers; null where a number
// is not finite. O(n), measured anew at each call.
nlohmann::ordered_json facts_of(const Value& value, const Units& units);

// A sentence each: of a surface its degrees, trims and smallest radius, of bodies their area and centroid, of
// a curve its length, of a mesh whether it is closed. Of results that are not too large to be looked through
// beside the rest.
std::vector<std::string> details_of(const Value& value, const Units& units);

}  // namespace plume
