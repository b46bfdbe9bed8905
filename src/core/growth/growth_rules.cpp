#include "core/growth/growth_rules.hpp"

#include <algorithm>
#include <tuple>

#include "core/base/noise.hpp"
#include "core/base/text.hpp"
#include "core/formula/expression.hpp"
#include "core/formula/tokens.hpp"

namespace plume {
namespace {

FormulaInput column_input(std::string name, Dimension dimension, std::uint32_t column, std::string help) {
    return {std::move(name), dimension, InputRef{InputType::column, column}, std::move(help)};
}

// Of the letters of a name: the same on every machine.
std::uint64_t salt_of(std::string_view part, std::size_t which) {
    std::uint64_t salt = random_bits(which);
    for (const char letter : part)
        salt = random_bits(salt ^ static_cast<unsigned char>(letter));
    return salt | 1U;
}

class RulesChecker {
public:
    RulesChecker(std::string_view text, const RulesSyntax& syntax, const RulesSetting& setting)
        : text_(text),
          syntax_(syntax),
          setting_(setting),
          inputs_(inputs_of_rules(setting)),
          handed_(handed_names(syntax)) {}

    Result<GrowthRules> all() {
        for (const auto check :
             {&RulesChecker::name_parts, &RulesChecker::check_roots, &RulesChecker::check_lines_of_rules,
              &RulesChecker::make_rules, &RulesChecker::make_fields})
            if (Status done = (this->*check)(); !done) return done.error();
        return std::move(made_);
    }

private:
    Error wrong(ErrorCode code, std::string message, std::string mend, std::size_t begin,
                std::size_t end) const {
        return text_error(code, std::move(message), std::move(mend), begin, end);
    }
    std::string at(std::size_t offset) const { return column_text(text_, offset); }

    // Parts -----------------------------------------------------------------------------------------------

    Status name_parts() {
        for (const Rule& rule : syntax_.rules) {
            if (Status free = is_free(rule.part, rule.name_begin, rule.name_end); !free) return free;
            add_part(rule.part);
        }
        for (const PartLine* line : part_lines(syntax_)) {
            if (line->part.empty()) continue;
            if (Status free = is_free(line->part, line->begin, line->begin + line->part.size()); !free)
                return free;
            add_part(line->part);
        }
        if (setting_.language == RulesLanguage::faces) {
            add_part("rest");
            made_.rest = part("rest");
        }
        made_.rules.resize(made_.parts.size());
        if (made_.parts.size() > 60'000)
            return wrong(ErrorCode::out_of_range, "name more than 60 000 parts", "Use fewer names.", 0, 1);
        return Done{};
    }
    void add_part(const std::string& name) {
        if (std::ranges::find(made_.parts, name) == made_.parts.end()) made_.parts.push_back(name);
    }
    std::uint16_t part(const std::string& name) const {
        return static_cast<std::uint16_t>(std::ranges::find(made_.parts, name) - made_.parts.begin());
    }

    // A part's name is nothing else's, or a formula's line could be taken for a part.
    Status is_free(const std::string& name, std::size_t begin, std::size_t end) const {
        const auto clash = [&](const std::string& with) {
            return wrong(ErrorCode::name_clash,
                         "the part ‘" + name + "’ " + at(begin) + " is called like " + with,
                         "Give the part another name.", begin, end);
        };
        if (Status named = check_name(name); !named) return error_inside(named.error(), begin, end);
        if (value_line(name)) return clash("a value of the rules");
        for (const FormulaInput& input : inputs_)
            if (input.name == name) return clash("a number that rules read");
        if (setting_.scope.find && setting_.scope.find(name)) return clash("a control");
        return Done{};
    }
    static Error error_inside(Error error, std::size_t begin, std::size_t end) {
        error.message = error.where + ' ' + error.message;
        error.where.clear();
        error.begin = begin;
        error.end = end;
        return error;
    }
    const SyntaxLine* value_line(std::string_view name) const {
        const auto lines = std::span(syntax_.lines.lines).first(syntax_.value_count);
        const auto found = std::ranges::find(lines, name, &SyntaxLine::name);
        return found == lines.end() ? nullptr : &*found;
    }

    // Values ----------------------------------------------------------------------------------------------

    bool is_handed(std::string_view name) const { return handed_.contains(name); }

    FormulaSetting setting_with(std::vector<FormulaInput> inputs) const {
        FormulaSetting setting{setting_.scope, std::move(inputs), setting_.muted};
        setting.point_number = {InputType::column, part_input::identity};
        return setting;
    }

    // The value lines as the first parts have them.
    Status check_roots() {
        Syntax lines = syntax_.lines;
        lines.lines.resize(syntax_.value_count);
        auto checked = check_lines(lines, text_, setting_with(inputs_));
        if (!checked) return checked.error();
        made_.roots = *std::move(checked);
        for (const FormulaInput& input : setting_.inherited)
            made_.values.push_back(
                {input.name, input.dimension, made_.roots.graph.input(std::get<InputRef>(input.meaning))});
        for (const Term& term : made_.roots.terms) {
            if (!is_handed(term.name)) continue;
            if (term.field)
                return wrong(
                    ErrorCode::name_clash,
                    "‘" + term.name + "’ " + at(term.name_begin) + " is handed down, so it is a field anyway",
                    "Leave out the word field.", term.begin, term.end);
            made_.values.push_back({term.name, term.dimension, term.node});
        }
        return Done{};
    }

    // All lines but those that are handed down, which are numbers of a part instead. terms_of_ knows where
    // the lines went.
    Status check_lines_of_rules() {
        Syntax lines = syntax_.lines;
        lines.lines.clear();
        for (std::size_t line = 0; line < syntax_.lines.lines.size(); ++line) {
            const SyntaxLine& each = syntax_.lines.lines[line];
            terms_of_.push_back(lines.lines.size());
            if (line >= syntax_.value_count || !is_handed(each.name)) lines.lines.push_back(each);
        }
        std::vector<FormulaInput> inputs = inputs_;
        const auto first = static_cast<std::uint32_t>(part_input::first_own);
        for (std::size_t value = setting_.inherited.size(); value < made_.values.size(); ++value)
            inputs.push_back(column_input(made_.values[value].name, made_.values[value].dimension,
                                          first + static_cast<std::uint32_t>(value), "handed down"));
        // Numbers at a place stand behind the values.
        for (FormulaInput& input : inputs)
            for (std::size_t at_place = 0; at_place < setting_.at_place.size(); ++at_place)
                if (input.name == setting_.at_place[at_place].name)
                    input.meaning =
                        InputRef{InputType::column,
                                 first + static_cast<std::uint32_t>(made_.values.size() + at_place)};
        auto checked = check_lines(lines, text_, setting_with(std::move(inputs)));
        if (!checked) return checked.error();
        made_.formula = *std::move(checked);
        for (std::size_t line = 0; line < syntax_.value_count; ++line)
            if (!is_handed(syntax_.lines.lines[line].name))
                if (Status known = only_where_made(term(static_cast<LineNumber>(line))); !known) return known;
        return Done{};
    }

    const Term& term(LineNumber line) const { return made_.formula.terms[terms_of_[line]]; }

    // Refuses copy and copies where no part is being made.
    Status only_where_made(const Term& term) const {
        for (const std::uint32_t column : columns_read(made_.formula.graph, std::array{term.node}))
            if (column == part_input::copy || column == part_input::copies)
                return wrong(ErrorCode::unknown_name,
                             "‘copy’ and ‘copies’ are known only behind the comma of a part, " +
                                 at(term.begin) + " they are not",
                             "Use number and siblings, which every part has.", term.begin, term.end);
        return Done{};
    }

    // Rules -----------------------------------------------------------------------------------------------

    Result<NodeId> in_unit(LineNumber line, Dimension wanted) {
        auto node = as_dimension(made_.formula, term(line), wanted, setting_.scope);
        if (node) return node;
        Error error = node.error();
        const Term& about = term(line);
        error.message = "what stands " + at(about.begin) + " has to be " +
                        dimension_name(wanted, setting_.scope.units) + ", and is " +
                        dimension_name(about.dimension, setting_.scope.units);
        return error;
    }

    Status make_rules() {
        made_.line_texts.emplace_back("where it began");
        made_.line_begins.push_back(0);
        made_.line_ends.push_back(0);
        for (const Rule& rule : syntax_.rules) {
            std::vector<std::size_t> of_part(made_.parts.size(), 0);
            for (const RuleChoice& choice : rule.choices) {
                GrownChoice grown;
                if (Status made = make_conditions(choice.conditions, grown.conditions, false); !made)
                    return made;
                if (Status made = make_act(choice, grown); !made) return made;
                for (const PartLine& line : choice.parts) {
                    auto made = make_line(line, line.part.empty() ? 0 : of_part[part(line.part)]++);
                    if (!made) return made.error();
                    grown.lines.push_back(*std::move(made));
                }
                made_.rules[part(rule.part)].push_back(std::move(grown));
            }
        }
        return Done{};
    }

    Status make_conditions(const Conditions& written, GrownConditions& grown, bool of_line) {
        for (const auto& [line, node] :
             {std::pair{&written.where, &grown.where}, std::pair{&written.chance, &grown.chance}}) {
            if (!*line) continue;
            const auto made = in_unit(**line, plain_number);
            if (!made) return made.error();
            if (!of_line)
                if (Status known = only_where_made(term(**line)); !known) return known;
            *node = *made;
        }
        return Done{};
    }

    Status make_act(const RuleChoice& choice, GrownChoice& grown) {
        if (!choice.act) return Done{};
        const FaceAct& act = *choice.act;
        GrownAct made{.type = act.type, .cut_along = act.cut_along};
        Dimension number = a_length;
        if (act.number && act.type != FaceAct::Type::raised) {
            made.absolute = term(*act.number).dimension == a_length;
            number = made.absolute ? a_length : plain_number;
        }
        const std::tuple<const std::optional<LineNumber>&, std::optional<NodeId>&, Dimension> nodes[] = {
            {act.along, made.along, plain_number},
            {act.across, made.across, plain_number},
            {act.number, made.number, number},
            {act.tapered, made.tapered, plain_number}};
        for (const auto& [line, node, dimension] : nodes) {
            if (!line) continue;
            const auto in_its_unit = in_unit(*line, dimension);
            if (!in_its_unit) return in_its_unit.error();
            node = *in_its_unit;
        }
        grown.act = made;
        return Done{};
    }

    Result<GrownLine> make_line(const PartLine& line, std::size_t which) {
        GrownLine grown;
        grown.part = line.part.empty() ? GrownLine::left_out : part(line.part);
        grown.on = line.on;
        if (made_.line_texts.size() > 60'000)
            return wrong(ErrorCode::out_of_range, "have more than 60 000 lines", "Use fewer.", line.begin,
                         line.end);
        grown.number = static_cast<std::uint16_t>(made_.line_texts.size());
        grown.salt = salt_of(line.part, which);
        made_.line_texts.emplace_back(text_.substr(line.begin, line.end - line.begin));
        made_.line_begins.push_back(line.begin);
        made_.line_ends.push_back(line.end);
        if (line.times) {
            const auto node = in_unit(*line.times, plain_number);
            if (!node) return node.error();
            if (Status known = only_where_made(term(*line.times)); !known) return known.error();
            grown.times = *node;
        }
        if (Status made = make_conditions(line.conditions, grown.conditions, true); !made)
            return made.error();
        for (const PartClause& clause : line.clauses) {
            auto made = make_clause(clause);
            if (!made) return made.error();
            grown.clauses.push_back(*std::move(made));
        }
        return grown;
    }

    Result<GrownClause> make_clause(const PartClause& clause) {
        GrownClause grown{clause.type, clause.way, clause.goal};
        using Type = PartClause::Type;
        if (clause.type == Type::mirrored) return grown;
        if (clause.type == Type::bent && clause.goal == BendGoal::attractors && !setting_.attractors)
            return wrong(
                ErrorCode::missing_input, "bends towards attractors " + at(clause.begin) + ", and has none",
                setting_.placed
                    ? "Choose ‘near the attractors’ in the step's sentence, or bend it towards sky or ground."
                    : "Bend it towards sky or ground.",
                clause.begin, clause.end);
        Dimension wanted = clause.type == Type::moved ? a_length : an_angle;
        if (clause.type == Type::sized) {
            grown.absolute = term(clause.line).dimension == a_length;
            wanted = grown.absolute ? a_length : plain_number;
        }
        if (clause.type == Type::handed) {
            const auto found = std::ranges::find(made_.values, clause.name, &PartValue::name);
            if (found == made_.values.end()) return unknown_value(clause);
            grown.handed = static_cast<std::size_t>(found - made_.values.begin());
            wanted = found->dimension;
        }
        const auto node = in_unit(clause.line, wanted);
        if (!node) return node.error();
        grown.node = *node;
        return grown;
    }

    Error unknown_value(const PartClause& clause) const {
        return wrong(ErrorCode::unknown_name,
                     "‘" + clause.name + "’ " + at(clause.begin) +
                         " is handed down, and the first part has no such value",
                     "Give it one above the first rule, as in " + clause.name + " = 1.", clause.begin,
                     clause.end);
    }

    Status make_fields() {
        for (const Term& each : made_.formula.terms)
            if (each.field) made_.fields.push_back({each.name, each.dimension, each.node});
        return Done{};
    }

    std::string_view text_;
    const RulesSyntax& syntax_;
    const RulesSetting& setting_;
    std::vector<FormulaInput> inputs_;
    std::set<std::string, std::less<>> handed_;
    std::vector<std::size_t> terms_of_;
    GrowthRules made_;
};

}  // namespace

std::vector<FormulaInput> inputs_of_rules(const RulesSetting& setting) {
    using namespace part_input;
    const bool faces = setting.language == RulesLanguage::faces;
    const std::string place = faces ? "the middle of the face" : "where the part stands";
    std::vector<FormulaInput> inputs;
    const auto add = [&inputs](std::initializer_list<FormulaInput> more) {
        inputs.insert(inputs.end(), more);
    };
    if (setting.placed)
        add({column_input("x", a_length, x, place), column_input("y", a_length, y, place),
             column_input("z", a_length, z, place)});
    add({column_input("depth", plain_number, depth, "how many parts it came of: 0 where it began"),
         column_input("siblings", plain_number, siblings, "how many came of the same part, itself too"),
         column_input("share", plain_number, share, "its place among its siblings, from 0 to 1")});
    if (faces)
        add({column_input("area", Dimension{2, 0}, part_input::area, "of the face"),
             column_input("width", a_length, width,
                          "along: its first side and the one against it, in the mean"),
             column_input("height", a_length, height, "across: its two other sides, in the mean"),
             column_input("corners", plain_number, corners, "how many the face has"),
             column_input("i", plain_number, i, "its column where a face was split, from 0 on"),
             column_input("j", plain_number, j, "its row where a face was split, from 0 on"),
             column_input("number", plain_number, number,
                          "its number among its siblings, of those beside or around alone, from 0 on"),
             column_input("leaning", an_angle, leaning, "between its upper side and straight up"),
             column_input(
                 "line", plain_number, line,
                 "which line named it, counted from 1 in the order of the rules; 0 where it began")});
    else
        add({column_input("size", a_length, size, "how large the part is"),
             column_input("number", plain_number, number, "its number among its siblings, from 0 on"),
             column_input("leaning", an_angle, leaning, "between the way it stands and straight up"),
             column_input("copy", plain_number, copy,
                          "of a part that is made several times, its number, from 0 on"),
             column_input("copies", plain_number, copies, "how many times the part is made"),
             column_input("line", plain_number, line,
                          "which line made it, counted from 1 in the order of the rules; 0 where it began")});
    if (setting.attractors)
        inputs.push_back(
            column_input("to_attractor", a_length, to_attractor, "distance to the nearest attractor"));
    inputs.insert(inputs.end(), setting.inherited.begin(), setting.inherited.end());
    inputs.insert(inputs.end(), setting.at_place.begin(), setting.at_place.end());
    return inputs;
}

Result<GrowthRules> check_rules(std::string_view text, const RulesSetting& setting) {
    const Result<RulesSyntax> syntax = parse_rules(text, setting.language);
    if (!syntax) return syntax.error();
    return RulesChecker(text, *syntax, setting).all();
}

std::vector<const GrownLine*> grown_lines(const GrowthRules& rules) {
    std::vector<const GrownLine*> lines;
    for (const auto& choices : rules.rules)
        for (const GrownChoice& choice : choices)
            for (const GrownLine& line : choice.lines)
                lines.push_back(&line);
    return lines;
}

std::vector<std::string> unmade_parts(const GrowthRules& rules) {
    std::vector<std::uint8_t> made(rules.parts.size(), 0);
    made[0] = 1;
    for (const GrownLine* line : grown_lines(rules))
        if (line->part != GrownLine::left_out) made[line->part] = 1;
    std::vector<std::string> unmade;
    for (std::size_t part = 0; part < made.size(); ++part)
        if (!made[part] && !rules.rules[part].empty() && part != rules.rest)
            unmade.push_back(rules.parts[part]);
    return unmade;
}

std::vector<std::uint32_t> columns_read(const Graph& graph, std::span<const NodeId> outputs) {
    std::vector<std::uint8_t> used(graph.size(), 0);
    for (const NodeId output : outputs)
        used[output] = 1;
    std::vector<std::uint32_t> columns;
    for (std::size_t at = graph.size(); at-- > 0;) {
        if (!used[at]) continue;
        const Node& node = graph[static_cast<NodeId>(at)];
        if (node.type == Node::Type::input) columns.push_back(node.input.number);
        for (int operand = 0; operand < node.operand_count(); ++operand)
            used[node.operands[static_cast<std::size_t>(operand)]] = 1;
    }
    return columns;
}

}  // namespace plume
