#include <algorithm>

#include "core/growth/grown_parts.hpp"
#include "core/steps/growth/growth_roots.hpp"
#include "core/steps/growth/rules_support.hpp"

namespace plume {
namespace {

// What growth begins on, and what stands around it.
struct Ground : RulesGround {
    GrowthStart start;
};

// Numbers that the first parts have and hand down.
void add_inherited(const PointLattice& lattice, const Inputs& in, Ground& ground) {
    const std::vector<Field> fields = fields_read(lattice.fields(), in, ground.setting);
    add_inherited(fields, ground.setting);
    for (const Field& field : fields) {
        Doubles values;
        for (std::size_t index = 0; index < lattice.address_count(); ++index)
            if (lattice.present(index)) values.push_back(field.values[index]);
        ground.start.inherited.push_back(std::move(values));
    }
}

// All but the bounds.
Result<Ground> unbounded_ground(const Inputs& in) {
    auto rules = ground_of_rules(in, RulesLanguage::parts);
    if (!rules) return rules.error();
    Ground ground{*std::move(rules), {}};
    ground.start.size = in.number("size");
    ground.start.placements = root_placements(in);
    ground.start.identities = root_identities(in);
    if (const PointLattice* lattice = roots_lattice(in)) add_inherited(*lattice, in, ground);
    return ground;
}

Result<Ground> ground_of(const Inputs& in, const Run& run) {
    auto ground = unbounded_ground(in);
    if (!ground) return ground;
    if (Status added = add_bounds(in, *ground, run); !added) return added.error();
    return ground;
}

GrowthLimits limits_of(const Inputs& in) {
    GrowthLimits limits;
    limits.generations = in.count("generations");
    limits.most = in.count("most");
    if (in.word("smallest") == "above") limits.least_size = in.number("least");
    if (in.word("near") == "attractors") limits.reach = in.number("reach");
    if (in.word("meeting") == "apart") limits.apart = in.number("apart");
    if (in.word("meeting") == "boxes")
        limits.boxes = Vec3{in.number("box_along"), in.number("box_across"), in.number("box_up")};
    return limits;
}

Estimate estimate(const Inputs& in) {
    const Run run;
    const auto ground = ground_of(in, run);
    if (!ground) return {};
    const auto rules = checked_rules(in, ground->setting);
    if (!rules) return {};
    const GrowthLimits limits = limits_of(in);
    const auto parts = expected_parts(*rules, ground->start, limits, ground->around);
    if (!parts) return {};
    const bool measured =
        ground->around.contains || ground->around.attractors || limits.apart > 0 || limits.boxes;
    return {*parts * bytes_of_part(*rules) * 1.5, *parts * (measured ? 3e-6 : 2e-7)};
}

GrowthWords words_of_parts() {
    return {"part", "parts", [](const Value& made) -> const PartTree* {
                const auto* placements = std::get_if<Placements>(&made);
                return placements ? placements->tree().get() : nullptr;
            }};
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto ground = ground_of(in, run);
    if (!ground) return ground.error();
    auto rules = checked_rules(in, ground->setting);
    if (!rules) return rules.error();
    const GrowthLimits limits = limits_of(in);
    if (Status enough = room_for_roots(ground->start.placements.size(), in); !enough) return enough.error();
    auto grown = grow(*rules, ground->start, limits, ground->around, run);
    if (!grown) return grown.error();
    tell_end(ending_of(*grown, limits), words_of_parts(), run);
    tell_left_out(*grown, run);
    tell_unmade(*rules, run);
    const std::string& kept = in.word("kept");
    return as_value(grown_parts(*std::move(grown), std::make_shared<const GrowthRules>(*std::move(rules)),
                                std::move(ground->start), std::move(ground->around), in.units(),
                                kept == "ends"   ? KeptParts::ends
                                : kept == "last" ? KeptParts::last
                                                 : KeptParts::all));
}

Result<RulesSite> site_of(const Inputs& in) {
    const auto ground = unbounded_ground(in);
    if (!ground) return ground.error();
    return rules_site(in, ground->setting, words_of_parts());
}

SlotSpec box_slot(std::string key, std::string label) {
    SlotSpec slot = number_slot(std::move(key), std::move(label), "1");
    slot.least = 0;
    slot.above_least = true;
    return slot;
}

constexpr const char* preset_rules =
    "branch becomes\n"
    "  branch, moved size up, turned 30° about along, sized 0.75\n"
    "  branch, moved size up, turned 120° about up, turned 30° about along, sized 0.75\n"
    "  branch, moved size up, turned -120° about up, turned 30° about along, sized 0.75";

}  // namespace

StepKind grow_parts() {
    return {
        .key = "growth.parts",
        .verb = "Grow parts by rules",
        .synonyms =
            "recursion recursive rule branch tree fractal generation grammar rewriting self-similar stack",
        .sentence = "Grow parts " + std::string(root_sentence) +
                    ", {size} large at first, by {formula} over {generations} generations, from seed "
                    "{seed}[more|, {smallest}][smallest=above| {least}]" +
                    surroundings_sentence +
                    "[more|, {meeting}][meeting=apart| {apart} apart][meeting=boxes| of {box_along} by "
                    "{box_across} by {box_up} of their size]" +
                    reading_sentence + "[more|; at most {most} parts][more|, and keep {kept}].",
        .slots = with_roots(with_surroundings(
            "parts",
            {length_above_zero_slot("size", "Size", "1 m"), rules_slot(RulesLanguage::parts, preset_rules),
             generations_slot("5"), seed_slot("seed", "Seed", "1"),
             choice_slot(
                 "smallest", "Smallest",
                 {{"any", "of any size", ""}, {"above", "none smaller than", "smaller ones are not made"}}),
             length_above_zero_slot("least", "Smallest size", "0.1 m"),
             choice_slot(
                 "meeting", "Meeting",
                 {{"free", "free to meet", ""},
                  {"apart", "at least", "what would stand nearer to an earlier part is not made"},
                  {"boxes", "clear in boxes", "what would stand in an earlier part's box is not made"}}),
             length_above_zero_slot("apart", "Distance", "0.5 m"), box_slot("box_along", "Box along"),
             box_slot("box_across", "Box across"), box_slot("box_up", "Box up"), most_parts_slot(),
             choice_slot("kept", "Keep",
                         {{"all", "all of them", ""},
                          {"ends", "those that make nothing more", ""},
                          {"last", "the last generation", ""}})})),
        .results = {Kind::placements},
        .result_name = "grown",
        .help =
            "Parts that turn into other parts, generation after generation. A rule begins with the name "
            "of a "
            "part and ‘becomes’; each line below names a part it makes and, behind commas, how that one "
            "is "
            "moved, turned, bent, sized or mirrored against it, what it hands down with ‘with’, and "
            "‘where’ "
            "or "
            "by what ‘chance’ it is made. ‘or’ and ‘otherwise’ begin other choices of a rule. A part "
            "without "
            "a "
            "rule stays as it is. The first rule is for the part that it begins with. Lines above the "
            "first "
            "rule give names to values, as in any formula; ‘field’ before one keeps it as a field. What "
            "comes "
            "of it are placements that know their part, their size and what they came of: copy anything "
            "to "
            "them, or draw members and curves from each to the next.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
