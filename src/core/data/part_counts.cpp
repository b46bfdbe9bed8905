#include "core/data/part_counts.hpp"

namespace plume {
namespace {

std::vector<std::size_t> counted(const std::vector<std::uint16_t>& numbers, std::size_t below) {
    std::vector<std::size_t> counts(below, 0);
    for (const std::uint16_t number : numbers)
        ++counts[number];
    return counts;
}

}  // namespace

std::vector<std::size_t> counts_by_name(const PartTree& tree) {
    return counted(tree.names, tree.part_names.size());
}

std::vector<std::size_t> counts_by_line(const PartTree& tree) {
    return counted(tree.lines, tree.line_texts.size());
}

std::vector<std::uint8_t> ends_among(const std::vector<std::uint32_t>& parents) {
    std::vector<std::uint8_t> ends(parents.size(), 1);
    for (const std::uint32_t parent : parents)
        if (parent != PartTree::none) ends[parent] = 0;
    return ends;
}

}  // namespace plume
