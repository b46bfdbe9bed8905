#pragma once
// Growth of parts by rules, generation by generation.
//
// Every part of a generation that has a rule makes the parts of its first choice that holds; those of one
// part stand one behind the other, in the order of the lines, and the parts of a generation in the order of
// those they came of. Chance is drawn by what a part is (its line of descent), not by its place in a list:
// parts keep their numbers while others come or go. The same on any number of threads. O(parts), no
// recursion.
//
// Parallel rewriting after A. Lindenmayer, Mathematical models for cellular interactions in development,
// 1968, doi 10.1016/0022-5193(68)90079-9; ours rewrites placements instead of a string of symbols, whole
// generations as columns.

#include <optional>
#include <string>
#include <vector>

#include "core/base/run.hpp"
#include "core/growth/population.hpp"
#include "core/growth/surroundings.hpp"

namespace plume {

struct GrowthStart {
    std::vector<Placement> placements;      // at least one
    std::vector<std::uint64_t> identities;  // one each, below 2^53
    std::vector<Doubles> inherited;         // as RulesSetting::inherited
    double size = 1;                        // study lengths, above 0
};

struct GrowthLimits {
    std::size_t generations = 0;
    std::size_t most = 1'000'000;  // parts in all
    double least_size = 0;         // smaller parts are not made
    double reach = 0;              // parts this near to an attractor make nothing more; 0: all do
    double apart = 0;              // parts nearer than this to an earlier one are not made, but for those of
                                   // one parent and that parent; 0: they may meet
    // Parts stand in boxes of these shares of their size, along, across and up; one whose box would run into
    // an earlier one, but for its parent's, is not made.
    std::optional<Vec3> boxes = {};
};

enum class GrowthEnd { generations, finished, most };

struct Grown {
    Population parts;
    GrowthEnd end = GrowthEnd::generations;
    std::size_t next = 0;  // how many the next generation would have had, as far as lines tell
    std::size_t outside = 0, too_small = 0, in_the_way = 0, mirrored_by_size = 0;
    // Left out, since a place or a size was no number or a size 0, and of the first the line and generation.
    std::size_t not_a_number = 0, without_size = 0;
    std::string first_left_out;
};

// Error: cancelled.
Result<Grown> grow(const GrowthRules& rules, const GrowthStart& start, const GrowthLimits& limits,
                   const Surroundings& around, const Run& run);

// A part's line of descent.
struct Ancestor {
    std::uint16_t part = 0, line = 0;
    std::size_t depth = 0, number = 0, siblings = 1;
    double size = 0;
    std::vector<double> values = {};
    // What chance had a say: of the choice of the rule that made it, of its line. 0 to 1.
    std::optional<double> drawn_for_choice = {}, drawn_for_line = {};
};
// The part of a root that is reached by these numbers among siblings, and all before it, the root first.
// Grows nothing else, and heeds no limits. As far as it is found again. Error: cancelled.
Result<std::vector<Ancestor>> retraced(const GrowthRules& rules, const GrowthStart& start, std::size_t root,
                                       const std::vector<std::size_t>& numbers, const Surroundings& around,
                                       const Run& run);

}  // namespace plume
