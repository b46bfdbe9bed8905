#pragma once
// Rules of growth as text, checked for form only.
//
//   rules       = { value line } rule { rule }
//   value line  = [field] name = choice              as in formulas (syntax.hpp)
//   rule        = part becomes [conditions] (end of line) made { other }
//   other       = (or [conditions] | otherwise) (end of line) made
//   conditions  = { [,] (where choice | chance choice) }
//   made        = nothing (end of line) | part line { part line }
//   part line   = part [times sum] { , clause } (end of line)
//   clause      = moved choice way | turned choice about way | bent choice towards goal | sized choice
//               | mirrored way | with name = choice | where choice | chance choice
//   way         = up | down | along | back | across
//   goal        = sky | ground | attractors
//
// A line that ends in a comma goes on in the next. Every choice and sum is a line of the syntax, in the order
// of the text, so that formulas' checker reads them; nodes say which by its number.

#include <cstdint>
#include <functional>
#include <optional>
#include <set>
#include <string>
#include <string_view>
#include <vector>

#include "core/formula/syntax.hpp"

namespace plume {

using LineNumber = std::uint32_t;  // in RulesSyntax::lines.lines

struct Conditions {
    std::optional<LineNumber> where, chance;
};

// Ways of a part: along is its X, across its Y, up its Z.
struct PartWay {
    int axis = 2;  // 0, 1, 2
    double sign = 1;
};
enum class BendGoal { sky, ground, attractors };

struct PartClause {
    enum class Type { moved, turned, bent, sized, mirrored, handed };
    Type type = Type::moved;
    PartWay way;
    BendGoal goal = BendGoal::sky;
    std::string name;     // of the value that is handed
    LineNumber line = 0;  // what it reads; of mirrored unused
    std::size_t begin = 0, end = 0;
};

struct PartLine {
    std::string part;
    std::optional<LineNumber> times;
    Conditions conditions;
    std::vector<PartClause> clauses;
    std::size_t begin = 0, end = 0;  // bytes
};

struct RuleChoice {
    Conditions conditions;           // none: always
    std::vector<PartLine> parts;     // empty: it becomes nothing
    std::size_t begin = 0, end = 0;  // of its first line
};

struct Rule {
    std::string part;
    std::vector<RuleChoice> choices;
    std::size_t name_begin = 0, name_end = 0;
};

struct RulesSyntax {
    Syntax lines;  // the value lines first
    std::size_t value_count = 0;
    std::vector<Rule> rules;  // at least one
};

// Errors: syntax, bad_number, too_deep, too_long, name_clash (two rules of one part); begin and end say
// where.
Result<RulesSyntax> parse_rules(std::string_view text);

// The lines that make parts, in the order of the text.
std::vector<const PartLine*> part_lines(const RulesSyntax& rules);
// Values that some line hands down, each once.
std::set<std::string, std::less<>> handed_names(const RulesSyntax& rules);

// The words of the language, with a line of help each.
struct RuleWord {
    std::string_view word, help;
};
std::span<const RuleWord> rule_words();
bool is_rule_word(std::string_view word);

}  // namespace plume
