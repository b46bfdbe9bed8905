#pragma once
// JSON (RFC 8259) as a tree in which nothing is lost: of a key that stands twice in one object the second is
// kept under a name of its own ("width (again)"), where a usual reader silently drops the first. Nested at
// most 64 deep: far deeper than files are, far shallower than any stack.

#include <nlohmann/json.hpp>
#include <string_view>

#include "core/base/error.hpp"

namespace plume {

// Errors: file_damaged, naming the line; too_deep. Both without a place.
Result<nlohmann::ordered_json> read_json(std::string_view text, std::string_view again_suffix = " (again)");

}  // namespace plume
