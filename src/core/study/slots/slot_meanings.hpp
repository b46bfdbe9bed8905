#pragma once
// What slots mean, in a sentence each: shown in tips and in the reference beside what they take.

#include <string>
#include <string_view>

namespace plume {

// Of that slot of that kind, or of all slots that are called so; empty where its label says it all.
std::string meaning_of_slot(std::string_view kind, std::string_view slot, std::string_view label);

}  // namespace plume
