#include "core/steps/growth/rules_support.hpp"

#include <algorithm>

#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/part_counts.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/steps/growth/growth_roots.hpp"
#include "core/study/slots/picked_names.hpp"

namespace plume {
namespace {

// Names that rules read or hand down; those they hand down look like names they give.
std::vector<std::string> names_in(const std::string& text, RulesLanguage language) {
    std::vector<std::string> names = names_used(text);
    if (const auto rules = parse_rules(text, language))
        for (const std::string& name : handed_names(*rules))
            names.push_back(name);
    return names;
}

Status add_numbers(const Inputs& in, RulesGround& ground) {
    if (in.word("reading") != "numbers") return Done{};
    auto made = NumbersAtPlaces::make(in.lattice("numbers"),
                                      fields_read(in.lattice("numbers").fields(), in, ground.setting));
    if (!made) return about_slot(made.error(), "numbers");
    for (const Field& field : made->fields())
        ground.setting.at_place.push_back(
            {field.name, field.dimension, InputRef{}, "of the nearest of those points"});
    ground.around.numbers = std::make_shared<const NumbersAtPlaces>(*std::move(made));
    return Done{};
}

std::vector<LineNote> notes_of(const GrowthRules& rules, const GrowthWords& words, const PartTree* grown) {
    std::vector<LineNote> notes;
    if (!grown) return notes;
    const PartTree& tree = *grown;
    if (tree.line_texts != rules.line_texts) return notes;
    const std::vector<std::size_t> counts = counts_by_line(tree);
    for (std::size_t line = 1; line < counts.size(); ++line)
        notes.push_back({rules.line_begins[line], rules.line_ends[line],
                         "× " + grouped_text(static_cast<std::int64_t>(counts[line])),
                         "This line made " + count_text(counts[line], words.one, words.many) + "."});
    return notes;
}

// The last generations tell how it grows; all of many would fill the sheet.
constexpr std::size_t generations_told = 8;

std::string growth_of(const PartTree* grown, const GrowthWords& words) {
    if (!grown) return {};
    const PartTree& tree = *grown;
    const std::size_t count = tree.generation_count();
    const std::size_t first = count > generations_told ? count - generations_told : 0;
    std::string text = first > 0 ? "… " : "";
    for (std::size_t at = first; at < count; ++at)
        text += (at > first ? ", " : "") +
                grouped_text(static_cast<std::int64_t>(tree.generations[at + 1] - tree.generations[at]));
    text += ' ' + (count == 1 && tree.generations[1] == 1 ? words.one : words.many);
    return text + (tree.next == 0
                       ? "; nothing more grows"
                       : "; the next would be " + grouped_text(static_cast<std::int64_t>(tree.next)));
}

std::string parts_text(std::size_t count) {
    return count_text(count, "part", "parts");
}

}  // namespace

std::vector<Field> fields_read(const std::vector<Field>& fields, const Inputs& in,
                               const RulesSetting& setting) {
    const std::vector<std::string> named = names_in(in.formula("formula").text, setting.language);
    const std::vector<FormulaInput> known = inputs_of_rules(setting);
    std::vector<Field> read;
    for (const Field& field : fields) {
        const bool taken = std::ranges::find(known, field.name, &FormulaInput::name) != known.end();
        if (!taken && std::ranges::find(named, field.name) != named.end()) read.push_back(field);
    }
    return read;
}

void add_inherited(const std::vector<Field>& fields, RulesSetting& setting) {
    for (const Field& field : fields) {
        const auto column = static_cast<std::uint32_t>(part_input::first_own + setting.inherited.size());
        setting.inherited.push_back({field.name, field.dimension, InputRef{InputType::column, column},
                                     "what the part had that it all began with"});
    }
}

Result<RulesGround> ground_of_rules(const Inputs& in, RulesLanguage language) {
    RulesGround ground;
    ground.setting.scope = in.formula("formula").scope;
    ground.setting.muted = in.formula("formula").muted;
    ground.setting.language = language;
    if (in.word("near") == "attractors") {
        ground.setting.attractors = true;
        ground.around.attractors = std::make_shared<const AttractorSearch>(in.held<Attractors>("attractors"));
    }
    if (Status added = add_numbers(in, ground); !added) return added.error();
    return ground;
}

Status add_bounds(const Inputs& in, RulesGround& ground, const Run& run) {
    const std::string& where = in.word("where");
    if (where == "outline") {
        auto outline = Outline::make(in.held<CurveSet>("outline"));
        if (!outline) return about_slot(outline.error(), "outline");
        auto kept = std::make_shared<const Outline>(*std::move(outline));
        ground.around.contains = [kept](Vec3 place) { return kept->contains(place); };
    }
    if (where == "form") {
        auto form = closed_form(in, run);
        if (!form) return form.error();
        auto kept = std::make_shared<const FormSearch>(*std::move(form));
        ground.around.contains = [kept](Vec3 place) { return kept->signed_distance(place) <= 0; };
    }
    return Done{};
}

Result<GrowthRules> checked_rules(const Inputs& in, const RulesSetting& setting) {
    auto rules = check_rules(in.formula("formula").text, setting);
    if (!rules) return about_slot(rules.error(), "formula");
    return rules;
}

std::vector<SlotSpec> with_surroundings(const std::string& things, const std::vector<SlotSpec>& rest) {
    const bool parts = things == "parts";
    const auto beyond = [parts](const std::string& what) {
        return parts ? "what would stand outside of " + what + " is not made"
                     : "faces whose middle is outside of " + what + " stay as they are";
    };
    std::vector<SlotSpec> slots = rest;
    const std::vector<SlotSpec> own{
        choice_slot("where", "Where",
                    {{"anywhere", "anywhere", ""},
                     {"outline", "only inside", beyond("this outline")},
                     {"form", "only within", beyond("this closed form")}}),
        reference_slot("outline", "Outline", {Kind::curves}),
        reference_slot("form", "Form", {Kind::mesh, Kind::bodies}),
        choice_slot("near", "Attractors",
                    {{"none", "without attractors", ""},
                     {"attractors", "near the attractors",
                      parts ? "parts bend towards them and end there"
                            : "rules know how near they are, and those within reach stay"}}),
        reference_slot("attractors", "Attractors", {Kind::attractors}),
        length_slot("reach", "Reach", "0.2 m"),
        choice_slot("reading", "Reading",
                    {{"none", "reading no other numbers", ""},
                     {"numbers", "reading", "the fields of these points, of the nearest one"}}),
        reference_slot("numbers", "Numbers", {Kind::points, Kind::field})};
    slots.insert(slots.end(), own.begin(), own.end());
    return slots;
}

double expected_count(const Tried& tried, std::size_t generations, double most) {
    double all = tried.now, generation = tried.next, gone = tried.gone;
    for (std::size_t depth = tried.depth + 1; depth <= generations; ++depth) {
        if (!(all + generation - gone <= most)) break;
        all += generation - gone;
        generation *= tried.next / tried.last;
        gone *= tried.next / tried.last;
    }
    return all;
}

std::optional<double> expected_parts(const GrowthRules& rules, const GrowthStart& start,
                                     const GrowthLimits& limits, const Surroundings& around) {
    GrowthLimits few = limits;
    few.most = std::min(limits.most, std::max(tried_parts, 2 * start.placements.size()));
    const auto tried = grow(rules, start, few, around, Run());
    if (!tried) return {};
    const Population& parts = tried->parts;
    const auto now = static_cast<double>(parts.size());
    if (tried->end != GrowthEnd::most) return now;
    return expected_count(
        {now, static_cast<double>(parts.last_size()), static_cast<double>(tried->next), 0, parts.depth()},
        limits.generations, static_cast<double>(limits.most));
}

GrowthEnding ending_of(const Grown& grown, const GrowthLimits& limits) {
    return {grown.end, grown.parts.depth(), limits.generations, grown.next, limits.most};
}

void tell_left_out(const Grown& grown, const Run& run) {
    const auto were = [](std::size_t count) { return count == 1 ? " was" : " were"; };
    if (grown.outside > 0)
        run.remark(parts_text(grown.outside) + were(grown.outside) + " not made, since outside.");
    if (grown.too_small > 0)
        run.remark(parts_text(grown.too_small) + were(grown.too_small) + " not made, since too small.");
    if (grown.in_the_way > 0)
        run.remark(parts_text(grown.in_the_way) + were(grown.in_the_way) +
                   " not made, since others stood too near.");
    if (grown.mirrored_by_size > 0)
        run.remark(parts_text(grown.mirrored_by_size) + were(grown.mirrored_by_size) +
                   " turned inside out by a size below 0: a mirror image.");
    if (grown.without_size > 0)
        run.remark_loss(parts_text(grown.without_size) + were(grown.without_size) +
                        " left out, with a size of 0, the first " + grown.first_left_out + ".");
    if (grown.not_a_number > 0)
        run.remark_loss(parts_text(grown.not_a_number) + were(grown.not_a_number) +
                        " left out, whose place or size is no number, the first " + grown.first_left_out +
                        ".");
}

Result<RulesSite> rules_site(const Inputs& in, const RulesSetting& setting, const GrowthWords& words) {
    RulesSite site;
    site.inputs = inputs_of_rules(setting);
    for (const RuleWord& word : rule_words(setting.language))
        site.words.push_back({std::string(word.word), std::string(word.help)});
    auto rules = check_rules(in.formula("formula").text, setting);
    if (!rules) {
        site.error = rules.error();
        return site;
    }
    site.given = rules->parts;
    auto kept = std::make_shared<const GrowthRules>(*std::move(rules));
    site.notes = [kept, words](const Value& made) { return notes_of(*kept, words, words.tree_of(made)); };
    site.growth = [words](const Value& made) { return growth_of(words.tree_of(made), words); };
    return site;
}

std::vector<std::uint8_t> wanted_names(const std::vector<std::string>& names, std::string_view picked,
                                       const Run& run) {
    const std::vector<std::string> wanted = picked_names(picked);
    std::vector<std::uint8_t> of_name(names.size(), wanted.empty() ? 1 : 0);
    for (const std::string& name : wanted) {
        const auto found = std::ranges::find(names, name);
        if (found == names.end())
            run.remark_loss("No part is called ‘" + name + "’; it counts again when one is.");
        else
            of_name[static_cast<std::size_t>(found - names.begin())] = 1;
    }
    return of_name;
}

void tell_unmade(const GrowthRules& rules, const Run& run) {
    for (const std::string& part : unmade_parts(rules))
        run.remark_loss("There is a rule for ‘" + part + "’, and no line makes one.");
}

void tell_end(const GrowthEnding& ending, const GrowthWords& words, const Run& run) {
    const std::string depth = std::to_string(ending.depth);
    if (ending.end == GrowthEnd::most)
        run.remark_loss("It ended at generation " + depth + " of " + std::to_string(ending.generations) +
                        ": the next one would add " + count_text(ending.next, words.one, words.many) +
                        ", and at most " + grouped_text(static_cast<std::int64_t>(ending.most)) +
                        " are allowed in all.");
    if (ending.end == GrowthEnd::finished)
        run.remark("Nothing grew beyond generation " + depth + " of " + std::to_string(ending.generations) +
                   ".");
}

}  // namespace plume
