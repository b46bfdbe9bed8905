#pragma once
// Members of a frame as a list of marks: "3,2–4,2" is the one between two nodes, either way round and with a
// hyphen too; the mark of a node alone, "3,2", names all that end there. Separated by blanks, lines or
// semicolons.

#include <string_view>

#include "core/data/bar_frame.hpp"
#include "core/geometry/parts/address_list.hpp"

namespace plume {

// One entry a member. A mark that no node or no member has is missing. Error: empty_input without a mark.
// O(nodes + members + marks).
Result<NamedAddresses> named_members(std::string_view text, const BarFrame& frame);

}  // namespace plume
