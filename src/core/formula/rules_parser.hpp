#pragma once
// Reads the lines of rules of growth; what a language has of its own, those who derive from this. Private to
// the formula layer.

#include <span>

#include "core/formula/parser.hpp"
#include "core/formula/rules_syntax.hpp"

namespace plume {

class RulesParser : protected Parser {
public:
    RulesParser(std::string_view text, const std::vector<Token>& tokens, std::span<const RuleWord> words)
        : Parser(text, tokens, false), words_(words) {}
    virtual ~RulesParser() = default;
    RulesParser(const RulesParser&) = delete;
    RulesParser& operator=(const RulesParser&) = delete;

    Result<RulesSyntax> all();

protected:
    // A line below the head of a choice.
    virtual Status made_line(RuleChoice& choice) = 0;
    // What may stand behind a part's name without a comma.
    virtual Status behind_name(PartLine& /*line*/) { return Done{}; }
    // A clause that no other language has, at its first word.
    virtual Status own_clause(PartLine& line) = 0;
    virtual Error not_a_clause() const = 0;

    // A part line from its name on, with its clauses.
    Status part_line(RuleChoice& choice);
    Status clauses(PartLine& line);
    // A line that is ‘nothing’ alone.
    Status nothing_line(const RuleChoice& choice);
    bool makes_nothing() const { return nothing_; }

    // Over all of a condition or only over a sum.
    Result<LineNumber> expression(bool whole);
    Status read_into(PartClause& clause, PartClause::Type type);
    bool next_is(std::string_view text) const { return next().text == text; }

private:
    Status next_line();
    Status value_line();
    Result<std::string> part_name();
    Status rule();
    Status other_choice();
    Status choice_head(std::size_t begin);
    Status condition(Conditions& conditions);
    Status handed(PartLine& line);
    Status check_made() const;
    bool is_word_of_rules(std::string_view word) const;

    std::span<const RuleWord> words_;
    RulesSyntax rules_;
    bool nothing_ = false;
};

// The text read by a parser of this language. Errors: those of parse_rules().
template <class LanguageParser>
Result<RulesSyntax> parsed_rules(std::string_view text) {
    if (text.size() > longest_formula)
        return text_error(ErrorCode::too_long,
                          "is too long, with " + std::to_string(text.size()) + " characters of at most " +
                              std::to_string(longest_formula),
                          "Split it into several steps.", 0, longest_formula);
    const auto tokens = tokenize(text);
    if (!tokens) return inside(tokens.error(), text);
    Result<RulesSyntax> read = LanguageParser(text, *tokens).all();
    return read ? std::move(read) : inside(read.error(), text);
}

}  // namespace plume
