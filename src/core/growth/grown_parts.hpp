#pragma once
// What grew, as placements that know what they came of: one each, in the order in which they were made, with
// the fields depth, number (among its siblings), size, the values that are handed down and those of the
// rules' field lines; `mirrored` (1 or 0) where a rule may mirror.

#include "core/data/placements.hpp"
#include "core/growth/growth.hpp"

namespace plume {

// What came of what; without lines of descent. Takes what it keeps out of what grew.
std::shared_ptr<PartTree> tree_of(Grown& grown, const GrowthRules& rules);

Field depth_field(const Population& parts);

enum class KeptParts { all, ends, last };

// Those that are not kept are gaps. Error: empty_input when none is kept.
Result<Placements> grown_parts(Grown grown, std::shared_ptr<const GrowthRules> rules, GrowthStart start,
                               Surroundings around, const Units& units, KeptParts kept);

// Placements with a tree on a scatter with these fields; `present` as of a lattice. Error: empty_input when
// none is present.
Result<Placements> placed_parts(std::vector<Placement> placements, std::vector<Field> fields,
                                std::vector<std::uint8_t> present, PartTreePointer tree);

}  // namespace plume
