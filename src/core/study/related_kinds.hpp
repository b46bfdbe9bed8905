#pragma once
// Kinds of step that somebody who reads about one may want to read about, too.

#include <vector>

#include "core/study/step_kind.hpp"

namespace plume {

// Those that share the most words with it, a word counting for more the fewer kinds have it, and those of its
// subject before others; at most so many, without the kind itself.
std::vector<const StepKind*> related_kinds(const StepKind& kind, const Catalogue& catalogue,
                                           std::size_t most);

}  // namespace plume
