#pragma once
// What is worth knowing of a result beyond its outline, a sentence each: of a surface its degrees, trims and
// smallest radius, of bodies their area and centroid, of a curve its length, of a mesh whether it is closed.

#include <string>
#include <vector>

#include "core/data/value.hpp"

namespace plume {

// Of results that are not too large to be looked through beside the rest. Lengths in the study's unit.
std::vector<std::string> details_of(const Value& value, const Units& units);

}  // namespace plume
