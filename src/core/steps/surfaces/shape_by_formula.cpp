#include <cmath>

#include "core/steps/formula_support.hpp"
#include "core/steps/numbers/quantity_range.hpp"

namespace plume {
namespace {

// Coordinates of a system, in the order in which its loops usually run.
struct System {
    std::string key;
    std::array<WantedTerm, 3> terms;
};

const System& system_of(const std::string& key) {
    static const std::array<System, 3> systems{
        {{"cartesian", {{{"x", a_length, "along X"}, {"y", a_length, "along Y"}, {"z", a_length, "up"}}}},
         {"cylindrical",
          {{{"radius", a_length, "from the Z axis"},
            {"azimuth", an_angle, "angle about Z, from +X towards +Y"},
            {"z", a_length, "up"}}}},
         {"spherical",
          {{{"radius", a_length, "from the origin"},
            {"polar", an_angle, "angle from +Z: 0° is up, 180° down"},
            {"azimuth", an_angle, "angle about Z, from +X towards +Y"}}}}}};
    for (const System& system : systems)
        if (system.key == key) return system;
    return systems.front();
}

std::size_t loop_count(const Inputs& in) {
    const std::string& word = in.word("loops");
    return word == "one" ? 1 : word == "two" ? 2 : 3;
}

std::string key(const char* name, std::size_t loop) {
    return std::string(name) + "_" + std::to_string(loop + 1);
}

struct Loop {
    Direction direction;
    FormulaInput input;
};

Result<Loop> loop_of(const Inputs& in, std::size_t loop) {
    const std::string name = in.word(key("name", loop)), end = in.word(key("end", loop));
    const std::size_t count = in.count(key("count", loop));
    const std::string where = "‘" + name + "’";
    const auto range =
        range_between(in.quantity(key("from", loop)), in.quantity(key("to", loop)), where, in.units());
    if (!range) return about_slot(range.error(), key("to", loop));
    const Quantity from{range->from, range->dimension}, to{range->to, range->dimension};
    if (from.value == to.value && count > 1)
        return about_slot(Error{ErrorCode::out_of_range, where,
                                "begins and ends at " + quantity_text(from, in.units()) + " and has " +
                                    std::to_string(count) + " points, which would coincide",
                                "Give it another end, or one point."},
                          key("to", loop));
    const double bays = static_cast<double>(end == "included" ? count - 1 : count);
    const double last = end == "included"
                            ? to.value
                            : from.value + (to.value - from.value) * static_cast<double>(count - 1) / bays;
    const Direction direction{count, from.value, count == 1 ? from.value : last, end == "closes"};
    return Loop{direction,
                {name, from.dimension, InputRef{InputType::loop_value, static_cast<std::uint32_t>(loop)},
                 "from " + quantity_text(from, in.units()) + " to " + quantity_text(to, in.units())}};
}

Result<FormulaSite> site_of(const Inputs& in) {
    FormulaSite site;
    for (std::size_t loop = 0; loop < loop_count(in); ++loop) {
        Result<Loop> made = loop_of(in, loop);
        if (!made) return made.error();
        for (const FormulaInput& other : site.inputs)
            if (other.name == made->input.name)
                return about_slot(Error{ErrorCode::name_clash, "‘" + other.name + "’", "names two loops",
                                        "Rename one of them."},
                                  key("name", loop));
        site.domain.directions[loop] = made->direction;
        site.direction_names[loop] = made->input.name;
        site.inputs.push_back(std::move(made->input));
    }
    add_address_inputs(site);
    for (const WantedTerm& term : system_of(in.word("system")).terms)
        site.results.push_back({term.name, term.help, true, true});
    site.results.push_back({"keep", "a condition: where it does not hold there is a gap", false});
    site.results.push_back({"hue", "colour, as an angle: 0° red, 120° green, 240° blue", false, true});
    site.results.push_back({"saturation", "of the colour, 0 grey to 1 full", false});
    site.results.push_back({"brightness", "of the colour, 0 black to 1 full", false});
    return site;
}

// Coordinates as given by lines or loops of these names.
Result<std::array<NodeId, 3>> given_coordinates(CheckedFormula& formula, const FormulaSite& site,
                                                const Inputs& in) {
    std::array<NodeId, 3> nodes{};
    const System& system = system_of(in.word("system"));
    for (std::size_t at = 0; at < 3; ++at) {
        const WantedTerm& wanted = system.terms[at];
        const Term* line = formula.find(wanted.name);
        Term term;
        if (line) {
            term = *line;
        } else {
            const auto input = std::ranges::find(site.inputs, wanted.name, &FormulaInput::name);
            term.name = wanted.name;
            term.node = formula.graph.input(std::get<InputRef>(input->meaning));
            term.dimension = input->dimension;
        }
        const auto node = node_of(formula, term, wanted.dimension, in);
        if (!node) return node.error();
        nodes[at] = *node;
    }
    return nodes;
}

// As nodes of the graph, so that what hangs on one loop alone is computed once a row, and sines are shared.
std::array<NodeId, 3> cartesian(Graph& graph, const std::string& system, const std::array<NodeId, 3>& given) {
    using enum Operation;
    if (system == "cartesian") return given;
    if (system == "cylindrical")
        return {graph.apply(multiply, given[0], graph.apply(cosine, given[1])),
                graph.apply(multiply, given[0], graph.apply(sine, given[1])), given[2]};
    const NodeId level = graph.apply(multiply, given[0], graph.apply(sine, given[1]));
    return {graph.apply(multiply, level, graph.apply(cosine, given[2])),
            graph.apply(multiply, level, graph.apply(sine, given[2])),
            graph.apply(multiply, given[0], graph.apply(cosine, given[1]))};
}

Result<std::vector<NamedNode>> extras_of(CheckedFormula& formula, const Inputs& in) {
    std::vector<NamedNode> extras = field_nodes(formula);
    for (const auto& [name, dimension] : {std::pair{"hue", an_angle}, std::pair{"saturation", plain_number},
                                          std::pair{"brightness", plain_number}}) {
        const Term* term = formula.find(name);
        if (!term || term->field) continue;
        const auto node = node_of(formula, *term, dimension, in);
        if (!node) return node.error();
        extras.push_back({name, *node, dimension});
    }
    return extras;
}

Arrangement arrangement_of(std::size_t loops) {
    return loops == 1 ? Arrangement::row : loops == 2 ? Arrangement::grid : Arrangement::block;
}

Estimate estimate(const Inputs& in) {
    double points = 1;
    for (std::size_t loop = 0; loop < loop_count(in); ++loop)
        points *= in.number(key("count", loop));
    // Three coordinates, a condition, and what further fields there may be.
    return {evaluation_bytes(6, points), points * 5e-8};
}

Result<Value> make(const Inputs& in, const Run& run) {
    const Result<FormulaSite> site = site_of(in);
    if (!site) return site.error();
    Result<CheckedFormula> formula = checked_formula(in, *site);
    if (!formula) return formula.error();
    const auto given = given_coordinates(*formula, *site, in);
    if (!given) return given.error();
    const auto extras = extras_of(*formula, in);
    if (!extras) return extras.error();
    const auto xyz = cartesian(formula->graph, in.word("system"), *given);
    std::vector<NodeId> outputs(xyz.begin(), xyz.end());
    for (const NamedNode& extra : *extras)
        outputs.push_back(extra.node);
    const Term* keep = formula->find("keep");
    if (keep) outputs.push_back(keep->node);
    auto result = evaluate(formula->graph, outputs, site->domain, Keep::columns, run);
    if (!result) return result.error();

    PointLattice::Parts parts;
    parts.arrangement = arrangement_of(loop_count(in));
    for (std::size_t d = 0; d < 3; ++d) {
        parts.counts[d] = site->domain.directions[d].count;
        parts.closed[d] = site->domain.directions[d].closed;
    }
    if (keep) {
        auto mask = mask_of(result->columns.back());
        if (!mask) return mask.error();
        parts.present = *std::move(mask);
    }
    for (std::size_t at = 0; at < extras->size(); ++at)
        parts.fields.push_back(
            {(*extras)[at].name, std::move(result->columns[3 + at]), (*extras)[at].dimension});
    parts.x = std::move(result->columns[0]);
    parts.y = std::move(result->columns[1]);
    parts.z = std::move(result->columns[2]);
    Result<PointLattice> lattice = PointLattice::make(std::move(parts));
    if (!lattice) return lattice.error();
    return Value(*std::move(lattice));
}

std::vector<SlotSpec> slots() {
    std::vector<SlotSpec> slots{
        choice_slot("system", "Coordinates",
                    {{"cartesian", "Cartesian", "x, y, z"},
                     {"cylindrical", "cylindrical", "radius from the Z axis, azimuth about it from +X, z"},
                     {"spherical", "spherical", "radius, polar angle from +Z, azimuth about Z from +X"}}),
        choice_slot("loops", "Loops",
                    {{"two", "two loops", "a sheet: rows and columns"},
                     {"one", "one loop", "a row of points"},
                     {"three", "three loops", "a block of points"}})};
    const std::array<std::array<const char*, 4>, 3> presets{
        {{"x", "-6 m", "6 m", "61"}, {"y", "-4 m", "4 m", "41"}, {"z", "0 m", "3 m", "5"}}};
    const std::array<const char*, 3> ordinals{"first", "second", "third"};
    for (std::size_t loop = 0; loop < 3; ++loop) {
        const std::string of = std::string(" of the ") + ordinals[loop] + " loop";
        slots.push_back(name_slot(key("name", loop), "Name" + of, presets[loop][0]));
        slots.push_back(quantity_slot(key("from", loop), "Beginning" + of, presets[loop][1]));
        slots.push_back(quantity_slot(key("to", loop), "End" + of, presets[loop][2]));
        slots.push_back(count_slot(key("count", loop), "Points" + of, presets[loop][3], 1));
        slots.push_back(
            choice_slot(key("end", loop), "End" + of,
                        {{"included", "the end included", "n points, n - 1 bays"},
                         {"excluded", "the end left out", "n points, and n bays to the end"},
                         {"closes", "closing", "the last point joins the first; the seam is not repeated"}}));
    }
    slots.push_back(formula_slot("formula", formula_label,
                                 "# a sheet of waves\n"
                                 "wave = sin(360° * x / 6 m)\n"
                                 "fade = gauss(y, 2.5 m)\n"
                                 "z = 0.8 m * wave * fade"));
    return slots;
}

}  // namespace

StepKind shape_by_formula() {
    return {
        .key = "lattice.formula",
        .verb = "Shape by formula",
        .synonyms =
            "parametric function surface equation spherical cylindrical loops mathematics sculpture points",
        .sentence =
            "Shape points in {system} coordinates over {loops}: "
            "{name_1} from {from_1} to {to_1} in {count_1} points[more|, {end_1}]"
            "[loops=two,three|; {name_2} from {from_2} to {to_2} in {count_2} points][more&loops=two,three|, "
            "{end_2}]"
            "[loops=three|; {name_3} from {from_3} to {to_3} in {count_3} points][more&loops=three|, {end_3}]"
            ", by {formula}.",
        .slots = slots(),
        .results = {Kind::points},
        .result_name = "form",
        .help =
            "Points where a formula puts them. A coordinate is a line of the formula, or a loop of that "
            "name. A line "
            "keep = condition leaves gaps; hue, saturation and brightness colour the points; a line that "
            "begins with "
            "field goes along as a field.",
        .companion = {},
        .estimate = estimate,
        .make = make,
        .contexts = {{"formula", context(site_of)}},
    };
}

}  // namespace plume
