#pragma once
// Rules of faces as text; the grammar stands in rules_syntax.hpp, which chooses among the languages. Private
// to the formula layer.

#include "core/formula/rules_syntax.hpp"

namespace plume {

std::span<const RuleWord> face_rule_words();
// Errors: those of parse_rules().
Result<RulesSyntax> parse_face_rules(std::string_view text);

}  // namespace plume
