#include "core/formula/rules_parser.hpp"

#include <algorithm>

#include "core/formula/functions.hpp"

namespace plume {

Result<RulesSyntax> RulesParser::all() {
    while (true) {
        skip_line_ends();
        if (token().type == TokenType::end) break;
        if (Status read = next_line(); !read) return read.error();
    }
    if (rules_.rules.empty())
        return wrong("has no rule", "Add one: a line such as branch becomes, and below it what it makes.");
    if (Status made = check_made(); !made) return made.error();
    rules_.lines = std::move(syntax_);
    return std::move(rules_);
}

Status RulesParser::next_line() {
    if ((is_word("field") && next().type == TokenType::name) || next_is("=")) return value_line();
    if (next_is("becomes")) return rule();
    if (is_word("or") || is_word("otherwise")) return other_choice();
    if (rules_.rules.empty())
        return wrong(quoted() + " " + here() + " stands before any rule",
                     "Begin a rule above it, such as branch becomes.");
    return made_line(rules_.rules.back().choices.back());
}

Status RulesParser::value_line() {
    if (!rules_.rules.empty())
        return wrong("a value " + here() + " stands below a rule", "Move it above the first rule.");
    if (Status read = one_line(); !read) return read;
    rules_.value_count = syntax_.lines.size();
    return Done{};
}

bool RulesParser::is_word_of_rules(std::string_view word) const {
    return std::ranges::find(words_, word, &RuleWord::word) != words_.end();
}

// A name that a part can have.
Result<std::string> RulesParser::part_name() {
    if (token().type != TokenType::name)
        return wrong("the name of a part is expected " + here(), "Name a part, such as branch.");
    if (is_reserved(token().text) || is_word_of_rules(token().text))
        return wrong(quoted() + " " + here() + " already has a meaning", "Give the part another name.",
                     ErrorCode::bad_name);
    std::string name(token().text);
    pass();
    return name;
}

Status RulesParser::rule() {
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

Status RulesParser::other_choice() {
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

Status RulesParser::choice_head(std::size_t begin) {
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

Result<LineNumber> RulesParser::expression(bool whole) {
    SyntaxLine line;
    line.begin = token().offset;
    const NodeResult root = whole ? choice() : sum();
    if (!root) return root.error();
    line.root = *root;
    line.end = before().end();
    syntax_.lines.push_back(std::move(line));
    return static_cast<LineNumber>(syntax_.lines.size() - 1);
}

Status RulesParser::condition(Conditions& conditions) {
    std::optional<LineNumber>& place = is_word("where") ? conditions.where : conditions.chance;
    if (place) return wrong("a second " + quoted() + " " + here(), "Join them: where a and b.");
    pass();
    const auto line = expression(true);
    if (!line) return line.error();
    place = *line;
    return Done{};
}

Status RulesParser::nothing_line(const RuleChoice& choice) {
    if (!choice.parts.empty())
        return wrong("‘nothing’ " + here() + " stands below a part", "Take one of them out.");
    nothing_ = true;
    pass();
    if (!ends_line()) return not_a_clause();
    return Done{};
}

Status RulesParser::part_line(RuleChoice& choice) {
    if (nothing_) return wrong("a part " + here() + " stands below ‘nothing’", "Take one of them out.");
    PartLine line;
    line.begin = token().offset;
    auto name = part_name();
    if (!name) return name.error();
    line.part = *std::move(name);
    if (Status read = behind_name(line); !read) return read;
    if (Status read = clauses(line); !read) return read;
    choice.parts.push_back(std::move(line));
    return Done{};
}

Status RulesParser::clauses(PartLine& line) {
    while (!ends_line()) {
        if (!is_sign(",")) return not_a_clause();
        pass();
        skip_line_ends();
        Status read = is_word("where") || is_word("chance") ? condition(line.conditions)
                      : is_word("with")                     ? handed(line)
                                                            : own_clause(line);
        if (!read) return read;
    }
    line.end = before().end();
    return Done{};
}

Status RulesParser::read_into(PartClause& clause, PartClause::Type type) {
    clause.type = type;
    pass();
    const auto line = expression(true);
    if (!line) return line.error();
    clause.line = *line;
    return Done{};
}

Status RulesParser::handed(PartLine& line) {
    PartClause clause;
    clause.begin = token().offset;
    pass();
    if (token().type != TokenType::name || !next_is("="))
        return wrong("‘with’ needs a name and = " + here(), "Write with lean = lean * 0.9.");
    clause.name = token().text;
    pass();
    if (Status read = read_into(clause, PartClause::Type::handed); !read) return read;
    clause.end = before().end();
    line.clauses.push_back(std::move(clause));
    return Done{};
}

// Whether the choice in hand makes something, or says that it makes nothing.
Status RulesParser::check_made() const {
    if (rules_.rules.empty()) return Done{};
    const RuleChoice& made = rules_.rules.back().choices.back();
    if (nothing_ || !made.parts.empty()) return Done{};
    return text_error(
        ErrorCode::syntax,
        "a rule for ‘" + rules_.rules.back().part + "’ " + column_text(text(), made.begin) + " makes nothing",
        "Name what it becomes in the lines below, or write nothing.", made.begin, made.end);
}

}  // namespace plume
