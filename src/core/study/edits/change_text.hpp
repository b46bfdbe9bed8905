#pragma once
// What an edit did, told from the study before it and after it: the sentences of the history.

#include <string>

#include "core/study/step_kind.hpp"

namespace plume {

// "swell 3.2 m to 4 m", "ground: bays along i 24 to 12", "Skin pushed with a smooth surface.", "reach is
// called way", "surface removed". Of an edit that did more than one such thing its label.
std::string change_text(const Study& before, const Study& after, const Catalogue& catalogue,
                        const std::string& label);

}  // namespace plume
