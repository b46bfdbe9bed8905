#pragma once
// What is counted of a tree of parts, gaps among them too.

#include <cstdint>
#include <vector>

#include "core/data/part_tree.hpp"

namespace plume {

// How many parts there are of each name, as PartTree::part_names.
std::vector<std::size_t> counts_by_name(const PartTree& tree);
// How many parts each line made, as PartTree::line_texts.
std::vector<std::size_t> counts_by_line(const PartTree& tree);
// Of each part 1 where nothing came of it.
std::vector<std::uint8_t> ends_among(const std::vector<std::uint32_t>& parents);

}  // namespace plume
