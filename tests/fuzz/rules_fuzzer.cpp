// Any text: the reader of rules answers with rules or an error that says where, and what they grow keeps its
// shape whatever they ask for.

#include <cmath>
#include <cstddef>
#include <cstdint>
#include <string_view>

#include "core/growth/growth.hpp"
#include "fuzz/demand.hpp"

namespace {

using namespace plume;

RulesSetting setting() {
    RulesSetting made;
    made.attractors = true;
    made.inherited = {{"warmth", plain_number, InputRef{InputType::column, part_input::first_own}, {}}};
    return made;
}

void grow_by(const GrowthRules& rules) {
    GrowthStart start;
    start.placements = {Placement{}, Placement{{3, 0, 0}}};
    start.identities = {1, 2};
    start.inherited = {Doubles{0.5, -2}};
    GrowthLimits limits;
    limits.generations = 6;
    limits.most = 300;
    limits.apart = rules.parts.size() > 1 ? 0.01 : 0;
    Surroundings around;
    around.attractors = std::make_shared<const AttractorSearch>(*Attractors::make({{"a", {1, 2, 3}, 1}}));
    const auto grown = grow(rules, start, limits, around, Run());
    if (!grown) return demand(!sentence(grown.error()).empty());
    const Population& parts = grown->parts;
    demand(parts.size() >= 2 && parts.size() <= limits.most && parts.generations.back() == parts.size());
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const Placement& placement = parts.placements[part];
        demand(is_finite(placement.origin) && std::abs(dot(placement.up, placement.along)) < 1e-9);
        demand(parts.sizes[part] > 0 && std::isfinite(parts.sizes[part]));
        demand(part < 2 ? parts.parents[part] == PartTree::none : parts.parents[part] < part);
        demand(parts.names[part] < rules.parts.size() && parts.lines[part] < rules.line_texts.size());
    }
}

}  // namespace

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    const std::string_view text(reinterpret_cast<const char*>(data), size);
    const auto rules = check_rules(text, setting());
    if (rules) {
        grow_by(*rules);
        return 0;
    }
    demand(rules.error().begin <= rules.error().end && rules.error().end <= size);
    demand(!sentence(rules.error()).empty());
    return 0;
}
