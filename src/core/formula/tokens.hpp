#pragma once
// Splits expression and formula text into tokens. Private to the formula layer.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

enum class TokenType { number, name, sign, line_end, end };

struct Token {
    TokenType type = TokenType::end;
    std::string_view text;   // of a sign: as ASCII writes it, "<=" for ≤
    std::size_t offset = 0;  // in bytes
    std::size_t size = 0;    // in bytes of the source
    double number = 0;

    std::size_t end() const { return offset + size; }
};

// Always ends with an `end` token; comments (# to the end of the line) are left out. Errors: syntax,
// bad_number.
Result<std::vector<Token>> tokenize(std::string_view text);

// "at column 3", counted in characters from 1; "in line 2 at column 3" where the text has several lines.
std::string column_text(std::string_view text, std::size_t offset);

// An error about text[begin, end).
Error text_error(ErrorCode code, std::string message, std::string mend, std::size_t begin, std::size_t end);

// An error at the end of the text is about its last letter, so that there is something to underline.
Error inside(Error error, std::string_view text);

// The text with _ for every character that no name can hold; may begin with a digit, or be empty.
std::string name_from(std::string_view text);

}  // namespace plume
