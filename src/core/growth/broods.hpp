#pragma once
// Which parts of the last generation make what: which choice of its rule each takes, and how often each line
// of it holds.

#include <cstdint>
#include <vector>

#include "core/growth/choices.hpp"
#include "core/growth/part_lanes.hpp"

namespace plume {

// Parts that one line makes, by the parts they come of; in order.
struct Brood {
    const GrownLine* line = nullptr;
    std::vector<std::uint32_t> parents = {};  // in the last generation
    Doubles copy = {}, copies = {};           // empty where the line makes one of each
    std::vector<std::uint32_t> places = {};   // where each stands in the next generation
    double too_many = 0;                      // how many it would make, where they are beyond all bounds

    PartLanes lanes() const { return {parents, copy, copies}; }
    std::uint64_t copy_of(std::size_t lane) const {
        return copy.empty() ? 0 : static_cast<std::uint64_t>(copy[lane]);
    }
};

// What a part is, by what it came of: below 2^53.
std::uint64_t identity_of(std::uint64_t parent, const GrownLine& line, std::uint64_t copy);
// Of all lines that make something, their places not yet given. `ended`: 1 of the parts that make nothing
// more; may be empty. What would make more than `most` by itself is only counted. Error:
// cancelled.
Result<std::vector<Brood>> broods_of(const GrowthRules& rules, const Population& parts,
                                     const std::vector<std::uint8_t>& ended, std::size_t most,
                                     const Surroundings& around, const Run& run);
// How many parts they would be, 1e18 at most, without a list of them where no condition asks for one. Error:
// cancelled.
Result<double> brood_count(const GrowthRules& rules, const Population& parts,
                           const std::vector<std::uint8_t>& ended, std::size_t most,
                           const Surroundings& around, const Run& run);

}  // namespace plume
