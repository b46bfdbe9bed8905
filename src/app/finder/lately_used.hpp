#pragma once
// Which kinds of step were added lately, kept from session to session.

#include <string>
#include <vector>

namespace plume::app {

// Keys, the last one first.
std::vector<std::string> lately_used();
void note_used(const std::string& kind);

}  // namespace plume::app
