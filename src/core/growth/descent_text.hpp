#pragma once
// Lines of descent as sentences.

#include "core/base/units.hpp"
#include "core/growth/growth.hpp"

namespace plume {

// A sentence for each. `of_size`: what Ancestor::size is.
std::vector<std::string> descent_texts(const std::vector<Ancestor>& ancestors, const GrowthRules& rules,
                                       const Units& units, Dimension of_size);

}  // namespace plume
