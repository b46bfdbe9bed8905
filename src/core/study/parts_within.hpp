#pragma once
// What lies within the items of a value: faces and vertices of meshes; of surfaces and curves the points they
// were made through.

#include "core/data/value.hpp"
#include "core/study/part_story.hpp"

namespace plume {

// How many of a sort, which is not that of items. O(curves), O(patches).
std::size_t count_within(const Value& value, PartSort sort);

}  // namespace plume
