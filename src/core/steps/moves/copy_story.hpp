#pragma once
// Which copy a part belongs to, and what it is a copy of.

#include <string>

#include "core/data/value.hpp"
#include "core/study/part_story.hpp"

namespace plume {

struct CopyOf {
    std::size_t copy = 0, copies = 0;
    PartRef part;  // of the thing that was copied
};
// Nothing where copies do not follow each other as copied() puts them (geometry/moves/copies.hpp).
std::optional<CopyOf> copy_of(const Value& thing, const Value& made, PartRef part);

// "copy 3 of 6".
std::string copy_text(const CopyOf& copy);

}  // namespace plume
