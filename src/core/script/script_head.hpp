#pragma once
// The head of a script: what it is called, what it asks for and what it gives, as a comment that is read
// without running anything.
//
//   -- Lift what lies low
//   -- sentence: Lift {ground} by {by}, {how}, below {level}.
//   -- ground: points
//   -- by: length = 50 cm, from 0 m to 5 m
//   -- level: length = 2 m
//   -- how: one of smoothly, at once
//   -- result: points
//
//   head     = title line { line } ; up to the first line that is no comment
//   line     = -- (sentence | result | interface | name) : text
//   input    = (number | count | length | angle) [= preset] [, from least to most]
//            | one of word {, word} | kind
//   kind     = points | numbers | directions | placements | curves | surface | mesh | frame
//   result   = number | count | length | angle | kind
// Lines that have no colon say more about it, and are its help.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

// From points on results of steps; numbers and directions are those on points.
enum class ScriptType {
    number,
    count,
    length,
    angle,
    word,
    points,
    numbers,
    directions,
    placements,
    curves,
    surface,
    mesh,
    frame
};
// As heads say it; of a word nothing, since its words stand there.
std::string_view key_of(ScriptType type);
// A number, a count, a length or an angle.
bool is_number(ScriptType type);
// "points, numbers, ... or frame"
std::string script_kinds_text();

struct ScriptInput {
    std::string name;
    ScriptType type = ScriptType::number;
    std::string preset;                      // as typed; of words the first
    std::optional<std::string> least, most;  // as typed
    std::vector<std::string> words;
};

struct ScriptHead {
    std::string title, sentence, help;
    std::vector<ScriptInput> inputs;  // in the order they stand
    ScriptType result = ScriptType::points;
};

// Which version of this there is; a head that asks for a newer one is refused.
inline constexpr int script_interface = 1;
inline constexpr std::size_t longest_script = 1'000'000;  // bytes

// Where the head of a script ends: behind the lines it begins with that are comments.
std::size_t script_head_size(std::string_view script);
Error script_too_long();

// Errors: too_long; syntax, bad_name, name_clash, unknown_name (an input that the sentence names and that
// there is not, or that it does not name), file_newer (a newer interface). begin and end say where.
Result<ScriptHead> read_script_head(std::string_view script);

}  // namespace plume
