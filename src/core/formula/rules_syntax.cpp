#include "core/formula/rules_syntax.hpp"

#include <algorithm>

#include "core/formula/functions.hpp"
#include "core/formula/parser.hpp"

namespace plume {
namespace {

constexpr std::array<RuleWord, 23> words{{
    {"becomes", "begins a rule: what a part turns into stands in the lines below"},
    {"or", "begins another choice of a rule"},
    {"otherwise", "begins the choice that is taken where no other is"},
    {"nothing", "what a part becomes that ends here"},
    {"where", "only where a condition holds: where depth < 5"},
    {"chance", "only so often: chance 0.3"},
    {"times", "several copies: leaf times 6, of which copy and copies are the number and how many"},
    {"moved", "how far from the part it comes of: moved 1 m up"},
    {"turned", "about one of its own axes: turned 30° about along"},
    {"about", "the axis that it is turned about"},
    {"bent", "its up axis leans by so much towards a goal: bent 5° towards sky"},
    {"towards", "what it is bent to: sky, ground or attractors"},
    {"sized", "times the size of the part it comes of, or a length: sized 0.8, sized 20 cm"},
    {"mirrored", "seen in a mirror: mirrored across"},
    {"with", "hands down a value: with lean = lean * 0.9"},
    {"up", "the way a part stands"},
    {"down", "against the way a part stands"},
    {"along", "the way a part looks"},
    {"back", "against the way a part looks"},
    {"across", "to the left of the way a part looks"},
    {"sky", "straight up"},
    {"ground", "straight down"},
    {"attractors", "the nearest of the attractors of this step"},
}};

class RulesParser : public Parser {
public:
    RulesParser(std::string_view text, const std::vector<Token>& tokens) : Parser(text, tokens, false) {}

    Result<RulesSyntax> all() {
        while (true) {
            skip_line_ends();
            if (token().type == TokenType::end) break;
            if (Status read = next_line(); !read) return read.error();
        }
        if (rules_.rules.empty())
            return wrong("has no rule",
                         "Add one: a line such as branch becomes, and below it what it makes.");
        if (Status made = check_made(); !made) return made.error();
        rules_.lines = std::move(syntax_);
        return std::move(rules_);
    }

private:
    bool next_is(std::string_view text) const { return next().text == text; }

    Status next_line() {
        if ((is_word("field") && next().type == TokenType::name) || next_is("=")) return value_line();
        if (next_is("becomes")) return rule();
        if (is_word("or") || is_word("otherwise")) return other_choice();
        if (rules_.rules.empty())
            return wrong(quoted() + " " + here() + " stands before any rule",
                         "Begin a rule above it, such as branch becomes.");
        return part_line();
    }

    Status value_line() {
        if (!rules_.rules.empty())
            return wrong("a value " + here() + " stands below a rule", "Move it above the first rule.");
        if (Status read = one_line(); !read) return read;
        rules_.value_count = syntax_.lines.size();
        return Done{};
    }

    // A name that a part can have.
    Result<std::string> part_name() {
        if (token().type != TokenType::name)
            return wrong("the name of a part is expected " + here(), "Name a part, such as branch.");
        if (is_reserved(token().text) || is_rule_word(token().text))
            return wrong(quoted() + " " + here() + " already has a meaning", "Give the part another name.",
                         ErrorCode::bad_name);
        std::string name(token().text);
        pass();
        return name;
    }

    Status rule() {
        if (Status made = check_made(); !made) return made;
        Rule rule;
        rule.name_begin = token().offset;
        rule.name_end = token().end();
        const bool twice = std::ranges::find(rules_.rules, token().text, &Rule::part) != rules_.rules.end();
        if (twice)
            return wrong("a second rule for " + quoted() + " " + here(),
                         "Put both into one rule, as choices: or, chance 0.5.", ErrorCode::name_clash);
        auto name = part_name();
        if (!name) return name.error();
        rule.part = *std::move(name);
        pass();
        rules_.rules.push_back(std::move(rule));
        return choice_head(rules_.rules.back().name_begin);
    }

    Status other_choice() {
        if (rules_.rules.empty())
            return wrong(quoted() + " " + here() + " stands before any rule", "Begin a rule above it.");
        if (Status made = check_made(); !made) return made;
        const bool last = is_word("otherwise");
        const RuleChoice& before_it = rules_.rules.back().choices.back();
        if (!before_it.conditions.where && !before_it.conditions.chance)
            return wrong(quoted() + " " + here() + " is never reached: the choice above it is always taken",
                         "Give that one a condition, such as , chance 0.5.");
        const std::size_t begin = token().offset;
        pass();
        if (last && !ends_line())
            return wrong("‘otherwise’ takes no condition " + here(), "End the line behind it.");
        return choice_head(begin);
    }

    Status choice_head(std::size_t begin) {
        RuleChoice head;
        head.begin = begin;
        while (!ends_line()) {
            if (is_sign(",")) pass();
            if (!is_word("where") && !is_word("chance"))
                return wrong(
                    quoted() + " " + here() + " is not expected there",
                    "Behind a rule's part stand where or chance; what it becomes stands in the next line.");
            if (Status read = condition(head.conditions); !read) return read;
        }
        head.end = before().end();
        rules_.rules.back().choices.push_back(std::move(head));
        nothing_ = false;
        return Done{};
    }

    Result<LineNumber> expression(bool whole) {
        SyntaxLine line;
        line.begin = token().offset;
        const NodeResult root = whole ? choice() : sum();
        if (!root) return root.error();
        line.root = *root;
        line.end = before().end();
        syntax_.lines.push_back(std::move(line));
        return static_cast<LineNumber>(syntax_.lines.size() - 1);
    }

    Status condition(Conditions& conditions) {
        std::optional<LineNumber>& place = is_word("where") ? conditions.where : conditions.chance;
        if (place) return wrong("a second " + quoted() + " " + here(), "Join them: where a and b.");
        pass();
        const auto line = expression(true);
        if (!line) return line.error();
        place = *line;
        return Done{};
    }

    Status part_line() {
        if (nothing_) return wrong("a part " + here() + " stands below ‘nothing’", "Take one of them out.");
        std::vector<PartLine>& parts = rules_.rules.back().choices.back().parts;
        if (is_word("nothing")) {
            if (!parts.empty())
                return wrong("‘nothing’ " + here() + " stands below a part", "Take one of them out.");
            nothing_ = true;
            pass();
            if (!ends_line()) return not_a_clause();
            return Done{};
        }
        PartLine line;
        line.begin = token().offset;
        auto name = part_name();
        if (!name) return name.error();
        line.part = *std::move(name);
        if (is_word("times")) {
            pass();
            const auto count = expression(false);
            if (!count) return count.error();
            line.times = *count;
        }
        while (!ends_line())
            if (Status read = clause(line); !read) return read;
        line.end = before().end();
        parts.push_back(std::move(line));
        return Done{};
    }

    Error not_a_clause() const {
        return wrong(
            quoted() + " " + here() + " is not expected there",
            "Behind a comma stands one of moved, turned, bent, sized, mirrored, with, where, chance.");
    }

    Status clause(PartLine& line) {
        if (!is_sign(",")) return not_a_clause();
        pass();
        skip_line_ends();
        if (is_word("where") || is_word("chance")) return condition(line.conditions);
        PartClause clause;
        clause.begin = token().offset;
        Status read = is_word("moved")      ? moved(clause)
                      : is_word("turned")   ? turned(clause)
                      : is_word("bent")     ? bent(clause)
                      : is_word("sized")    ? read_into(clause, PartClause::Type::sized)
                      : is_word("mirrored") ? mirrored(clause)
                      : is_word("with")     ? handed(clause)
                                            : Status(not_a_clause());
        if (!read) return read;
        clause.end = before().end();
        line.clauses.push_back(std::move(clause));
        return Done{};
    }

    Status read_into(PartClause& clause, PartClause::Type type) {
        clause.type = type;
        pass();
        const auto line = expression(true);
        if (!line) return line.error();
        clause.line = *line;
        return Done{};
    }

    Status way(PartClause& clause, std::string_view after) {
        constexpr std::pair<std::string_view, PartWay> ways[] = {
            {"up", {2, 1}}, {"down", {2, -1}}, {"along", {0, 1}}, {"back", {0, -1}}, {"across", {1, 1}}};
        for (const auto& [word, meant] : ways) {
            if (!is_word(word)) continue;
            clause.way = meant;
            pass();
            return Done{};
        }
        return wrong("a way is missing behind ‘" + std::string(after) + "’ " + here(),
                     "Add up, down, along, back or across.");
    }

    Status moved(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::moved); !read) return read;
        return way(clause, "moved");
    }

    Status turned(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::turned); !read) return read;
        if (!is_word("about"))
            return wrong("‘turned’ has no axis " + here(), "Add about up, about along or about across.");
        pass();
        return way(clause, "about");
    }

    Status bent(PartClause& clause) {
        if (Status read = read_into(clause, PartClause::Type::bent); !read) return read;
        if (!is_word("towards"))
            return wrong("‘bent’ has no goal " + here(), "Add towards sky, ground or attractors.");
        pass();
        constexpr std::pair<std::string_view, BendGoal> goals[] = {
            {"sky", BendGoal::sky}, {"ground", BendGoal::ground}, {"attractors", BendGoal::attractors}};
        for (const auto& [word, goal] : goals) {
            if (!is_word(word)) continue;
            clause.goal = goal;
            pass();
            return Done{};
        }
        return wrong("a goal is missing behind ‘towards’ " + here(), "Add sky, ground or attractors.");
    }

    Status mirrored(PartClause& clause) {
        clause.type = PartClause::Type::mirrored;
        pass();
        return way(clause, "mirrored");
    }

    Status handed(PartClause& clause) {
        pass();
        if (token().type != TokenType::name || !next_is("="))
            return wrong("‘with’ needs a name and = " + here(), "Write with lean = lean * 0.9.");
        clause.name = token().text;
        pass();
        return read_into(clause, PartClause::Type::handed);
    }

    // Whether the choice in hand makes something, or says that it makes nothing.
    Status check_made() const {
        if (rules_.rules.empty()) return Done{};
        const RuleChoice& made = rules_.rules.back().choices.back();
        if (nothing_ || !made.parts.empty()) return Done{};
        return text_error(ErrorCode::syntax,
                          "a rule for ‘" + rules_.rules.back().part + "’ " + column_text(text(), made.begin) +
                              " makes nothing",
                          "Name what it becomes in the lines below, or write nothing.", made.begin, made.end);
    }

    RulesSyntax rules_;
    bool nothing_ = false;
};

}  // namespace

std::vector<const PartLine*> part_lines(const RulesSyntax& rules) {
    std::vector<const PartLine*> lines;
    for (const Rule& rule : rules.rules)
        for (const RuleChoice& choice : rule.choices)
            for (const PartLine& line : choice.parts)
                lines.push_back(&line);
    return lines;
}

std::set<std::string, std::less<>> handed_names(const RulesSyntax& rules) {
    std::set<std::string, std::less<>> names;
    for (const PartLine* line : part_lines(rules))
        for (const PartClause& clause : line->clauses)
            if (clause.type == PartClause::Type::handed) names.insert(clause.name);
    return names;
}

std::span<const RuleWord> rule_words() {
    return words;
}

bool is_rule_word(std::string_view word) {
    return std::ranges::find(words, word, &RuleWord::word) != words.end();
}

Result<RulesSyntax> parse_rules(std::string_view text) {
    if (text.size() > longest_formula)
        return text_error(ErrorCode::too_long,
                          "is too long, with " + std::to_string(text.size()) + " characters of at most " +
                              std::to_string(longest_formula),
                          "Split it into several steps.", 0, longest_formula);
    const auto tokens = tokenize(text);
    if (!tokens) return inside(tokens.error(), text);
    Result<RulesSyntax> read = RulesParser(text, *tokens).all();
    return read ? std::move(read) : inside(read.error(), text);
}

}  // namespace plume
