#pragma once
// Units that files state in words.

#include <optional>
#include <span>
#include <string>
#include <string_view>

namespace plume {

// Metres of a unit by its name or symbol, in any case: "mm", "Millimetres", "feet", "in", "US survey feet".
std::optional<double> metres_of_unit(std::string_view name);
// Of the first comment that says "Unit: …" or "units = …".
std::optional<double> stated_unit(std::span<const std::string> comments);
// "feet" for 0.3048; the number of metres where no unit has it.
std::string unit_name(double metres);

}  // namespace plume
