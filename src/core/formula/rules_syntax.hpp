#pragma once
// Rules of growth as text, checked for form only.
//
//   rules       = { value line } rule { rule }
//   value line  = [field] name = choice              as in formulas (syntax.hpp)
//   rule        = part becomes [conditions] (end of line) made { other }
//   other       = (or [conditions] | otherwise) (end of line) made
//   conditions  = { [,] (where choice | chance choice) }
//
// of parts:
//   made        = nothing (end of line) | part line { part line }
//   part line   = part [times sum] { , clause } (end of line)
//   clause      = moved choice way | turned choice about way | bent choice towards goal | sized choice
//               | mirrored way | with name = choice | where choice | chance choice
//   way         = up | down | along | back | across
//   goal        = sky | ground | attractors
//
// of faces, what is done first and then what becomes of the pieces:
//   made        = nothing (end of line) | act piece { piece }
//   act         = split choice [along | across] [, choice (along | across)] (end of line)
//               | cut choice (along | across) (end of line) | inset choice (end of line)
//               | raised choice [, tapered choice] (end of line)
//   piece       = (part | nothing) { , piece clause } (end of line)
//   piece clause = inside | around | above | beside | with name = choice | where choice | chance choice
//
// A line that ends in a comma goes on in the next. Every choice and sum is a line of the syntax, in the order
// of the text, so that formulas' checker reads them; nodes say which by its number.

#include <cstdint>
#include <functional>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "core/formula/rules_language.hpp"
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

// Which pieces of a face: of inset ones those inside and around, of raised ones above and beside.
enum class PiecePlace { anywhere, inside, around, above, beside };

struct PartLine {
    std::string part;  // empty: a piece that is left out
    PiecePlace on = PiecePlace::anywhere;
    std::optional<LineNumber> times;
    Conditions conditions;
    std::vector<PartClause> clauses;
    std::size_t begin = 0, end = 0;  // bytes
};

// What is done to a face.
struct FaceAct {
    enum class Type { split, cut, inset, raised };
    Type type = Type::split;
    // How many pieces along and across, of `split`; what is cut off, inset, raised by; how it tapers.
    std::optional<LineNumber> along, across, number, tapered;
    bool cut_along = true;
    std::size_t begin = 0, end = 0;
};

struct RuleChoice {
    Conditions conditions;           // none: always
    std::optional<FaceAct> act;      // of faces, unless they become nothing
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
Result<RulesSyntax> parse_rules(std::string_view text, RulesLanguage language);

// The lines that make parts, in the order of the text.
std::vector<const PartLine*> part_lines(const RulesSyntax& rules);
// Values that some line hands down, each once.
std::set<std::string, std::less<>> handed_names(const RulesSyntax& rules);

// The words of the language, with a line of help each.
struct RuleWord {
    std::string_view word, help;
};
std::span<const RuleWord> rule_words(RulesLanguage language);

}  // namespace plume
