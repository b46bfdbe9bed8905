#pragma once
// What a part of a result is, or came from, in a result that was read, where the step itself does not tell
// it.
//
// A part is found again where it has not moved: a point at the same place, a member between the same places,
// a face with the same corners; else its ends or corners are. What bears a mark is found by it. What has
// moved is found by its address, where the step takes the arrangement over.

#include <vector>

#include "core/data/value.hpp"
#include "core/study/part_story.hpp"

namespace plume {

enum class Taken { over, apart };  // whether its arrangement can be that of what was read

// None where it cannot be told; never more than the part has corners. O(parts of `read`).
std::vector<PartRef> origins_in(const Value& made, PartRef part, const Value& read, Taken taken);

}  // namespace plume
