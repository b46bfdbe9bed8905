#pragma once
// What the words of a script are, for editors: a line at a time, whether it is finished or not (Lua 5.4
// reference manual, 3.1).

#include <span>
#include <string_view>
#include <vector>

#include "core/formula/spans.hpp"

namespace plume {

// The spans of one line, in bytes from its beginning. `state` says what the line begins in and is left as
// what the next one does: 0 in nothing, else in a long text or comment.
std::vector<TextSpan> script_spans(std::string_view line, int& state);

// Those of all lines of a script, in bytes from its beginning.
std::vector<TextSpan> script_spans(std::string_view script);

// In what a byte of the script stands; SpanType::sign where it is in none.
SpanType script_span_at(std::string_view script, std::size_t at);

std::span<const std::string_view> lua_keywords();

}  // namespace plume
