#pragma once
// PartTree: where parts that grew come from. A part stands on each address of a row of placements; parents
// stand before their children.
//
// Immutable once shared; safe to read from any number of threads.

#include <cstdint>
#include <functional>
#include <limits>
#include <memory>
#include <string>
#include <vector>

namespace plume {

// Bytes that a tree takes for each part.
inline constexpr std::size_t bytes_in_tree = sizeof(std::uint32_t) + 2 * sizeof(std::uint16_t);

struct PartTree {
    static constexpr std::uint32_t none = std::numeric_limits<std::uint32_t>::max();

    std::vector<std::uint32_t> parents;    // an address each; `none` at the roots
    std::vector<std::uint16_t> names;      // of each, in part_names
    std::vector<std::uint16_t> lines;      // of each, the line that made it, in line_texts
    std::vector<std::size_t> generations;  // the first address of each generation, from 0 on, and the count
    // How many the next generation would have; 0 where nothing more would grow.
    std::size_t next = 0;
    std::vector<std::string> part_names;
    std::vector<std::string> line_texts;  // the first is that of the roots
    // Why a part is there: a sentence for each of its ancestors from the root on, and for itself. Told when
    // asked for.
    std::function<std::vector<std::string>(std::size_t address)> descent = {};

    const std::string& name(std::size_t address) const { return part_names[names[address]]; }
    std::size_t generation_count() const { return generations.size() - 1; }
};
using PartTreePointer = std::shared_ptr<const PartTree>;

}  // namespace plume
