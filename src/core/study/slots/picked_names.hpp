#pragma once
// Names picked out of what is offered, as one text: separated by commas, in quotes where a name has a comma,
// a quote or blanks around it; a quote within quotes stands twice (RFC 4180).

#include <string>
#include <string_view>
#include <vector>

namespace plume {

// In the order they stand, without what is empty. A quote that is not closed reaches to the end.
std::vector<std::string> picked_names(std::string_view text);
std::string picks_text(const std::vector<std::string>& names);

}  // namespace plume
