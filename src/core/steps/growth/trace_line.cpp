#include <algorithm>

#include "core/base/text.hpp"
#include "core/data/gathered.hpp"
#include "core/geometry/curves/curve_interpolation.hpp"
#include "core/growth/grown_parts.hpp"
#include "core/growth/traced_line.hpp"
#include "core/steps/growth/growth_roots.hpp"
#include "core/steps/growth/rules_support.hpp"

namespace plume {
namespace {

RulesSetting setting_of(const Inputs& in) {
    RulesSetting setting;
    setting.scope = in.formula("formula").scope;
    setting.muted = in.formula("formula").muted;
    setting.placed = false;
    return setting;
}

GrowthStart start_of(const Inputs& in) {
    GrowthStart start;
    start.size = in.number("size");
    start.placements = root_placements(in);
    start.identities = root_identities(in);
    return start;
}

GrowthLimits limits_of(const Inputs& in) {
    GrowthLimits limits;
    limits.generations = in.count("generations");
    limits.most = in.count("most");
    return limits;
}

Result<Offers> offers_of_names(const Inputs& in) {
    const auto rules = checked_rules(in, setting_of(in));
    if (!rules) return rules.error();
    Offers offers;
    for (std::size_t name = 0; name < rules->parts.size(); ++name)
        offers.offers.push_back({rules->parts[name], rules->rules[name].empty() ? "without a rule" : ""});
    return offers;
}

Estimate estimate(const Inputs& in) {
    const auto rules = checked_rules(in, setting_of(in));
    if (!rules) return {};
    const auto parts = expected_parts(*rules, start_of(in), limits_of(in), {});
    if (!parts) return {};
    return {*parts * bytes_of_part(*rules) * 1.5, *parts * 4e-7};
}

// Numbers of parts, that go along lines.
std::vector<Field> fields_of(const Population& parts, const GrowthRules& rules) {
    std::vector<Field> fields{depth_field(parts)};
    for (std::size_t value = 0; value < rules.values.size(); ++value)
        fields.push_back({rules.values[value].name, parts.values[value], rules.values[value].dimension});
    for (std::size_t field = 0; field < rules.fields.size(); ++field)
        fields.push_back({rules.fields[field].name, parts.fields[field], rules.fields[field].dimension});
    return fields;
}

Result<CurveSet> curves_of(std::vector<TracedLine> lines, const std::vector<Field>& fields, const Run& run) {
    CurveSet curves;
    for (TracedLine& line : lines) {
        if (run.cancelled()) return cancelled_error();
        CurvePoints points;
        points.points = std::move(line.points);
        points.closed = line.closed;
        points.fields = gathered(fields, line.parts);
        auto curve = curve_through(std::move(points), CurveShape::straight);
        if (!curve)
            return about_slot(
                Error{ErrorCode::out_of_range, "", "makes a line without a length", "Make it longer."},
                "size");
        curves.curves.push_back(*std::move(curve));
    }
    return curves;
}

Result<Value> make(const Inputs& in, const Run& run) {
    const auto rules = checked_rules(in, setting_of(in));
    if (!rules) return rules.error();
    const GrowthStart start = start_of(in);
    if (Status enough = room_for_roots(start.placements.size(), in); !enough) return enough.error();
    const GrowthLimits limits = limits_of(in);
    const auto grown = grow(*rules, start, limits, {}, run);
    if (!grown) return grown.error();
    tell_end(ending_of(*grown, limits), {"part", "parts", {}}, run);
    tell_left_out(*grown, run);
    tell_unmade(*rules, run);
    auto curves = curves_of(traced_lines(grown->parts, wanted_names(rules->parts, in.word("drawn"), run)),
                            fields_of(grown->parts, *rules), run);
    if (!curves) return curves.error();
    if (curves->curves.empty())
        return about_slot(Error{ErrorCode::too_few_points, "", "leave no line",
                                "Pick parts that stand at its end, or let it grow further."},
                          "drawn");
    return Value(*std::move(curves));
}

// Of a line no part is kept: what it is made of is found out once more, up to here.
constexpr std::size_t most_counted = 200'000;

std::shared_ptr<const PartTree> tree_of_line(const Inputs& in, const GrowthRules& rules, const Run& run) {
    GrowthLimits limits = limits_of(in);
    const bool fewer = limits.most > most_counted;
    limits.most = std::min(limits.most, most_counted);
    auto grown = grow(rules, start_of(in), limits, {}, run);
    if (!grown || (fewer && grown->end == GrowthEnd::most)) return nullptr;
    return tree_of(*grown, rules);
}

Result<RulesSite> site_of(const Inputs& in, const Run& run) {
    const RulesSetting setting = setting_of(in);
    const auto rules = check_rules(in.formula("formula").text, setting);
    const auto tree = rules ? tree_of_line(in, *rules, run) : nullptr;
    return rules_site(in, setting, {"part", "parts", [tree](const Value&) { return tree.get(); }});
}

constexpr const char* preset_rules =
    "side becomes\n"
    "  side, sized 1 / 3\n"
    "  side, turned 60° about up, sized 1 / 3\n"
    "  side, turned -60° about up, sized 1 / 3\n"
    "  side, sized 1 / 3";

}  // namespace

StepKind trace_line() {
    return {
        .key = "growth.trace",
        .verb = "Trace a line by rules",
        .synonyms = "rewriting turtle fractal curve space filling hilbert koch dragon spiral recursion",
        .sentence = "Trace a line " + std::string(root_sentence) +
                    ", {size} long at first, by {formula} over {generations} generations, from seed "
                    "{seed}[more|, drawn by {drawn}][more|; at most {most} parts].",
        .slots = with_roots({length_above_zero_slot("size", "Size", "1 m"),
                             rules_slot(RulesLanguage::parts, preset_rules), generations_slot("4"),
                             seed_slot("seed", "Seed", "1"), picks_slot("drawn", "Drawn", "all its parts"),
                             most_parts_slot()}),
        .results = {Kind::curves},
        .result_name = "line",
        .help =
            "A line whose every piece turns into several, generation after generation, as in ‘Grow parts by "
            "rules’, but each goes on where the one before it ended: a piece is as long as its size, along. "
            "Turned is against the piece that it comes of, so that what stands behind it is not turned with "
            "it. What a piece is moved by is passed without a line. Where only some names are drawn, others "
            "take no room. Rules do not know where a piece will lie.",
        .drawn_plain = true,
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}, {"drawn", context(offers_of_names)}},
    };
}

}  // namespace plume
