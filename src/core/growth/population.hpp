#pragma once
// Population: parts as they are grown, generation by generation, one after the other in plain columns.

#include <cstdint>
#include <vector>

#include "core/data/column.hpp"
#include "core/growth/part_motion.hpp"

namespace plume {

struct Population {
    std::vector<Placement> placements;
    std::vector<std::int8_t> sides;  // -1 of mirrored ones; empty while no rule mirrors
    std::vector<std::uint16_t> names, lines;
    std::vector<std::uint32_t> parents;
    Doubles sizes, numbers;
    std::vector<Doubles> values;              // as GrowthRules::values
    std::vector<Doubles> fields;              // as GrowthRules::fields
    std::vector<std::size_t> generations{0};  // the first of each, and the count

    // Of the last generation alone.
    std::vector<std::uint64_t> identities;  // below 2^53
    std::vector<std::uint32_t> siblings;

    std::size_t size() const { return placements.size(); }
    std::size_t depth() const { return generations.size() - 2; }
    std::size_t last_begin() const { return generations[generations.size() - 2]; }
    std::size_t last_size() const { return size() - last_begin(); }

    PartPlace place(std::size_t part) const { return {placements[part], sides.empty() ? 1.0 : sides[part]}; }
    // Room for so many more, which are written next.
    void add(std::size_t count);
    void reserve(std::size_t count);
    // Leaves out those of the last generation whose entry is 0.
    void keep(const std::vector<std::uint8_t>& kept);
};

// Bytes a part takes while it is grown and in the result.
double bytes_of_part(const GrowthRules& rules);

}  // namespace plume
