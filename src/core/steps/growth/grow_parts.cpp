#include <algorithm>

#include "core/base/noise.hpp"
#include "core/base/numbers.hpp"
#include "core/base/text.hpp"
#include "core/data/part_counts.hpp"
#include "core/formula/expression.hpp"
#include "core/geometry/curves/outline.hpp"
#include "core/growth/grown_parts.hpp"
#include "core/steps/growth/growth_roots.hpp"

namespace plume {
namespace {

// What growth begins on, and what stands around it.
struct Ground {
    GrowthStart start;
    RulesSetting setting;
    Surroundings around;
};

std::uint64_t root_identity(double seed, Address at) {
    const auto number = static_cast<std::uint64_t>(address_number(at.i, at.j, at.k));
    return random_bits(random_bits(static_cast<std::uint64_t>(seed)) ^ number) >> 11U;
}

void set_roots(const Inputs& in, GrowthStart& start) {
    start.size = in.number("size");
    start.placements = root_placements(in);
    const double seed = in.number("seed");
    const PointLattice* lattice = roots_lattice(in);
    if (!lattice) start.identities.push_back(root_identity(seed, {}));
    for (std::size_t index = 0; lattice && index < lattice->address_count(); ++index)
        if (lattice->present(index)) start.identities.push_back(root_identity(seed, lattice->address(index)));
}

// Names that rules read or hand down; those they hand down look like names they give.
std::vector<std::string> names_in(const std::string& text) {
    std::vector<std::string> names = names_used(text);
    if (const auto rules = parse_rules(text))
        for (const std::string& name : handed_names(*rules))
            names.push_back(name);
    return names;
}

// Fields of the lattice that the rules name, unless they mean something there already.
std::vector<Field> fields_read(const PointLattice& lattice, const Inputs& in, const RulesSetting& setting) {
    const std::vector<std::string> named = names_in(in.formula("formula").text);
    const std::vector<FormulaInput> known = inputs_of_rules(setting);
    std::vector<Field> fields;
    for (const Field& field : lattice.fields()) {
        const bool taken = std::ranges::find(known, field.name, &FormulaInput::name) != known.end();
        if (!taken && std::ranges::find(named, field.name) != named.end()) fields.push_back(field);
    }
    return fields;
}

// Numbers that the first parts have and hand down.
void add_inherited(const PointLattice& lattice, const Inputs& in, Ground& ground) {
    for (const Field& field : fields_read(lattice, in, ground.setting)) {
        Doubles values;
        for (std::size_t index = 0; index < lattice.address_count(); ++index)
            if (lattice.present(index)) values.push_back(field.values[index]);
        const auto column =
            static_cast<std::uint32_t>(part_input::first_own + ground.setting.inherited.size());
        ground.setting.inherited.push_back({field.name, field.dimension, InputRef{InputType::column, column},
                                            "what the part had that it all began with"});
        ground.start.inherited.push_back(std::move(values));
    }
}

Status add_numbers(const Inputs& in, Ground& ground) {
    if (in.word("reading") != "numbers") return Done{};
    auto made =
        NumbersAtPlaces::make(in.lattice("numbers"), fields_read(in.lattice("numbers"), in, ground.setting));
    if (!made) return about_slot(made.error(), "numbers");
    for (const Field& field : made->fields())
        ground.setting.at_place.push_back(
            {field.name, field.dimension, InputRef{}, "of the nearest of those points"});
    ground.around.numbers = std::make_shared<const NumbersAtPlaces>(*std::move(made));
    return Done{};
}

Status add_bounds(const Inputs& in, Ground& ground, const Run& run) {
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

// All but the bounds, which are slow to prepare and say nothing about rules.
Result<Ground> unbounded_ground(const Inputs& in) {
    Ground ground;
    ground.setting.scope = in.formula("formula").scope;
    ground.setting.muted = in.formula("formula").muted;
    set_roots(in, ground.start);
    if (in.word("near") == "attractors") {
        ground.setting.attractors = true;
        ground.around.attractors = std::make_shared<const AttractorSearch>(in.held<Attractors>("attractors"));
    }
    if (const PointLattice* lattice = roots_lattice(in)) add_inherited(*lattice, in, ground);
    if (Status added = add_numbers(in, ground); !added) return added.error();
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
    return limits;
}

Result<GrowthRules> rules_of_step(const Inputs& in, const Ground& ground) {
    auto rules = check_rules(in.formula("formula").text, ground.setting);
    if (!rules) return about_slot(rules.error(), "formula");
    return rules;
}

// Counts ------------------------------------------------------------------------------------------------

// What a growth that was tried with few parts would come to: it goes on as its last generation did.
double parts_expected(const Grown& tried, std::size_t generations) {
    const Population& parts = tried.parts;
    double all = static_cast<double>(parts.size());
    if (tried.end != GrowthEnd::most) return all;
    const auto last = static_cast<double>(parts.last_size()), next = static_cast<double>(tried.next);
    double generation = next;
    for (std::size_t depth = parts.depth() + 1; depth <= generations && all < 1e15; ++depth) {
        all += generation;
        generation *= next / last;
    }
    return all;
}

constexpr std::size_t tried_parts = 4000;

Estimate estimate(const Inputs& in) {
    const Run run;
    const auto ground = ground_of(in, run);
    if (!ground) return {};
    const auto rules = rules_of_step(in, *ground);
    if (!rules) return {};
    GrowthLimits limits = limits_of(in);
    const double most = static_cast<double>(limits.most);
    limits.most = std::min(limits.most, std::max(tried_parts, 2 * ground->start.placements.size()));
    const auto tried = grow(*rules, ground->start, limits, ground->around, run);
    if (!tried) return {};
    const double parts = std::min(most, parts_expected(*tried, limits.generations));
    const bool measured = ground->around.contains || ground->around.attractors || limits.apart > 0;
    return {parts * bytes_of_part(*rules) * 1.5, parts * (measured ? 3e-6 : 2e-7)};
}

// Telling -----------------------------------------------------------------------------------------------

std::string parts_text(std::size_t count) {
    return count_text(count, "part", "parts");
}

void tell_end(const Grown& grown, const GrowthLimits& limits, const Run& run) {
    const std::string depth = std::to_string(grown.parts.depth());
    if (grown.end == GrowthEnd::most)
        run.remark_loss("It ended at generation " + depth + " of " + std::to_string(limits.generations) +
                        ": the next one would add " + parts_text(grown.next) + ", and at most " +
                        grouped_text(static_cast<std::int64_t>(limits.most)) + " are allowed in all.");
    if (grown.end == GrowthEnd::finished)
        run.remark("Nothing grew beyond generation " + depth + " of " + std::to_string(limits.generations) +
                   ".");
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

void tell_unmade(const GrowthRules& rules, const Run& run) {
    for (const std::string& part : unmade_parts(rules))
        run.remark_loss("There is a rule for ‘" + part + "’, and no line makes one.");
}

Result<Value> make(const Inputs& in, const Run& run) {
    auto ground = ground_of(in, run);
    if (!ground) return ground.error();
    auto rules = rules_of_step(in, *ground);
    if (!rules) return rules.error();
    const GrowthLimits limits = limits_of(in);
    if (Status enough = room_for_roots(ground->start.placements.size(), in); !enough) return enough.error();
    auto grown = grow(*rules, ground->start, limits, ground->around, run);
    if (!grown) return grown.error();
    tell_end(*grown, limits, run);
    tell_left_out(*grown, run);
    tell_unmade(*rules, run);
    const std::string& kept = in.word("kept");
    return as_value(grown_parts(*std::move(grown), std::make_shared<const GrowthRules>(*std::move(rules)),
                                std::move(ground->start), std::move(ground->around), in.units(),
                                kept == "ends"   ? KeptParts::ends
                                : kept == "last" ? KeptParts::last
                                                 : KeptParts::all));
}

// The editor --------------------------------------------------------------------------------------------

std::vector<LineNote> notes_of(const GrowthRules& rules, const Value& made) {
    std::vector<LineNote> notes;
    const auto* placements = std::get_if<Placements>(&made);
    if (!placements || !placements->tree()) return notes;
    const PartTree& tree = *placements->tree();
    if (tree.line_texts != rules.line_texts) return notes;
    const std::vector<std::size_t> counts = counts_by_line(tree);
    for (std::size_t line = 1; line < counts.size(); ++line)
        notes.push_back({rules.line_begins[line], rules.line_ends[line],
                         "× " + grouped_text(static_cast<std::int64_t>(counts[line])),
                         "This line made " + parts_text(counts[line]) + "."});
    return notes;
}

// The last generations tell how it grows; all of many would fill the sheet.
constexpr std::size_t generations_told = 8;

std::string growth_of(const Value& made) {
    const auto* placements = std::get_if<Placements>(&made);
    if (!placements || !placements->tree()) return {};
    const PartTree& tree = *placements->tree();
    const std::size_t count = tree.generation_count();
    const std::size_t first = count > generations_told ? count - generations_told : 0;
    std::string text = first > 0 ? "… " : "";
    for (std::size_t at = first; at < count; ++at)
        text += (at > first ? ", " : "") +
                grouped_text(static_cast<std::int64_t>(tree.generations[at + 1] - tree.generations[at]));
    text += count == 1 && tree.generations[1] == 1 ? " part" : " parts";
    return text + (tree.next == 0
                       ? "; nothing more grows"
                       : "; the next would be " + grouped_text(static_cast<std::int64_t>(tree.next)));
}

Result<RulesSite> site_of(const Inputs& in) {
    const auto ground = unbounded_ground(in);
    if (!ground) return ground.error();
    RulesSite site;
    site.inputs = inputs_of_rules(ground->setting);
    for (const RuleWord& word : rule_words())
        site.words.push_back({std::string(word.word), std::string(word.help)});
    auto rules = check_rules(in.formula("formula").text, ground->setting);
    if (!rules) {
        site.error = rules.error();
        return site;
    }
    site.given = rules->parts;
    auto kept = std::make_shared<const GrowthRules>(*std::move(rules));
    site.notes = [kept](const Value& made) { return notes_of(*kept, made); };
    site.growth = growth_of;
    return site;
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
        .sentence =
            "Grow parts " + std::string(root_sentence) +
            ", {size} large at first, "
            "by {formula} over {generations} generations, from seed {seed}: "
            "{smallest}[smallest=above| {least}], {where}[where=outline| {outline}][where=form| {form}], "
            "{near}[near=attractors| {attractors}, which end it within {reach}], "
            "{meeting}[meeting=apart| {apart} apart], {reading}[reading=numbers| {numbers}]; "
            "at most {most} parts, and keep {kept}.",
        .slots = with_roots(
            {length_above_zero_slot("size", "Size", "1 m"), formula_slot("formula", "Rules", preset_rules),
             generations_slot("5"), seed_slot("seed", "Seed", "1"),
             choice_slot(
                 "smallest", "Smallest",
                 {{"any", "of any size", ""}, {"above", "none smaller than", "smaller ones are not made"}}),
             length_above_zero_slot("least", "Smallest size", "0.1 m"),
             choice_slot(
                 "where", "Where",
                 {{"anywhere", "anywhere", ""},
                  {"outline", "only inside", "what would stand outside of this outline is not made"},
                  {"form", "only within", "what would stand outside of this closed form is not made"}}),
             reference_slot("outline", "Outline", {Kind::curves}),
             reference_slot("form", "Form", {Kind::mesh, Kind::bodies}),
             choice_slot("near", "Attractors",
                         {{"none", "without attractors", ""},
                          {"attractors", "near the attractors", "parts bend towards them and end there"}}),
             reference_slot("attractors", "Attractors", {Kind::attractors}),
             length_slot("reach", "Reach", "0.2 m"),
             choice_slot("meeting", "Meeting",
                         {{"free", "free to meet", ""},
                          {"apart", "at least", "what would stand nearer to an earlier part is not made"}}),
             length_above_zero_slot("apart", "Distance", "0.5 m"),
             choice_slot("reading", "Reading",
                         {{"none", "reading no other numbers", ""},
                          {"numbers", "reading", "the fields of these points, of the nearest one"}}),
             reference_slot("numbers", "Numbers", {Kind::points, Kind::field}), most_parts_slot(),
             choice_slot("kept", "Keep",
                         {{"all", "all of them", ""},
                          {"ends", "those that make nothing more", ""},
                          {"last", "the last generation", ""}})}),
        .results = {Kind::placements},
        .result_name = "grown",
        .help =
            "Parts that turn into other parts, generation after generation. A rule begins with the name of a "
            "part and ‘becomes’; each line below names a part it makes and, behind commas, how that one is "
            "moved, turned, bent, sized or mirrored against it, what it hands down with ‘with’, and ‘where’ "
            "or "
            "by what ‘chance’ it is made. ‘or’ and ‘otherwise’ begin other choices of a rule. A part without "
            "a "
            "rule stays as it is. The first rule is for the part that it begins with. Lines above the first "
            "rule give names to values, as in any formula; ‘field’ before one keeps it as a field. What "
            "comes "
            "of it are placements that know their part, their size and what they came of: copy anything to "
            "them, or draw members and curves from each to the next.",
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
