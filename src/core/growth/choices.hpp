#pragma once
// Which choice of a rule each part takes, and what chance says.

#include <cstdint>
#include <functional>
#include <vector>

#include "core/base/run.hpp"
#include "core/formula/program.hpp"
#include "core/growth/growth_rules.hpp"

namespace plume {

// Whether the number of a condition says yes: 0 and what is no number do not.
inline bool holds(double condition) {
    return condition != 0 && condition == condition;
}

// The number that a choice of a part's rule, or a line with a chance, is drawn by: 0 to 1.
double drawn_for_choice(std::uint64_t identity);
double drawn_for_line(std::uint64_t identity);

// Numbers of these parts, a column for each node.
using NumbersOfParts =
    std::function<Result<Evaluated>(std::span<const NodeId> nodes, std::span<const std::uint32_t> parts)>;

// What is done with those that take a choice, in their order.
using ChoiceUse = std::function<Status(const GrownChoice& choice, const std::vector<std::uint32_t>& parts)>;

// Calls use() for every choice that somebody takes. A part takes the first whose condition holds and, of
// those with a chance, whose share of 0 to 1, one behind the other, the part's number falls into. `by_part`:
// for each of GrowthRules::parts those that have this name and may do something. Errors: of numbers_of() and
// use().
Status for_each_choice(const GrowthRules& rules, std::vector<std::vector<std::uint32_t>> by_part,
                       const std::vector<std::uint64_t>& identities, const NumbersOfParts& numbers_of,
                       const ChoiceUse& use);

}  // namespace plume
