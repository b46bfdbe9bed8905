#pragma once
// What the steps that grow by rules share: what stands around, the fields that rules read, how a count goes
// on, what the editor shows.

#include "core/growth/growth.hpp"
#include "core/study/step_kind.hpp"

namespace plume {

// What rules can read, and what stands around that which grows.
struct RulesGround {
    RulesSetting setting;
    Surroundings around;
};
// All that the slots of with_surroundings() say but bounds, which are slow to prepare and say nothing about
// rules. Errors: of those slots.
Result<RulesGround> ground_of_rules(const Inputs& in, RulesLanguage language);
Status add_bounds(const Inputs& in, RulesGround& ground, const Run& run);
// Fields that the rules name, unless they mean something there already.
std::vector<Field> fields_read(const std::vector<Field>& fields, const Inputs& in,
                               const RulesSetting& setting);
// Such fields as numbers that the first ones have and hand down.
void add_inherited(const std::vector<Field>& fields, RulesSetting& setting);
Result<GrowthRules> checked_rules(const Inputs& in, const RulesSetting& setting);

// These slots, then where, outline, form, near, attractors, reach, reading and numbers; of what grows,
// "parts".
std::vector<SlotSpec> with_surroundings(const std::string& things, const std::vector<SlotSpec>& rest);
inline constexpr const char* surroundings_sentence =
    "[more|, {where}][where=outline| {outline}][where=form| {form}]"
    "[more|, {near}][near=attractors| {attractors}, which end it within {reach}]";
inline constexpr const char* reading_sentence = "[more|, {reading}][reading=numbers| {numbers}]";

// What a growth that was tried with few would come to: it goes on as its last generation did. All there are,
// those of the last generation, which is the depth-th, those the next one would have, and how many would make
// room for them.
struct Tried {
    double now = 0, last = 0, next = 0, gone = 0;
    std::size_t depth = 0;
};
// Generations with which there would be more than `most` are not made.
double expected_count(const Tried& tried, std::size_t generations, double most);
constexpr std::size_t tried_parts = 4000;

// All parts that a growth is likely to come to, tried with few of them. Nothing where it cannot be tried.
std::optional<double> expected_parts(const GrowthRules& rules, const GrowthStart& start,
                                     const GrowthLimits& limits, const Surroundings& around);

// What the editor shows. `tree_of`: what grew, or nullptr; `one`, `many`: "part", "parts".
struct GrowthWords {
    std::string one, many;
    std::function<const PartTree*(const Value&)> tree_of;
};
Result<RulesSite> rules_site(const Inputs& in, const RulesSetting& setting, const GrowthWords& words);

// Of each name, whether it is picked; all where none is. Those that there are not are told as a loss.
std::vector<std::uint8_t> wanted_names(const std::vector<std::string>& names, std::string_view picked,
                                       const Run& run);
// What has a rule and is never made, as a loss.
void tell_unmade(const GrowthRules& rules, const Run& run);
// Where it ended, and why; `many`: "parts".
struct GrowthEnding {
    GrowthEnd end = GrowthEnd::generations;
    std::size_t depth = 0, generations = 0, next = 0, most = 0;
};
GrowthEnding ending_of(const Grown& grown, const GrowthLimits& limits);
// Parts that were not made, and why.
void tell_left_out(const Grown& grown, const Run& run);
void tell_end(const GrowthEnding& ending, const GrowthWords& words, const Run& run);

}  // namespace plume
