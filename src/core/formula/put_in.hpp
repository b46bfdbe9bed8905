#pragma once
// The text of an expression with the values of its names put in, to be read: "swell * 0.43" is
// "swell 3.2 m × 0.43".

#include <functional>
#include <string>
#include <string_view>

namespace plume {

// Empty where the name has no value that could be told.
using ValueText = std::function<std::string(std::string_view name)>;

// Comments are left out, lines are joined. Text that cannot be split into words stays as it is.
std::string with_values(std::string_view text, const ValueText& value_of);

}  // namespace plume
