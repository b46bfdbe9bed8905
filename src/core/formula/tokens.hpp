#pragma once
// Splits expression text into tokens. Private to the formula layer.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/error.hpp"

namespace plume {

enum class TokenType { number, name, sign, end };

struct Token {
    TokenType type = TokenType::end;
    std::string_view text;
    std::size_t offset = 0;  // in bytes
    double number = 0;
};

// Always ends with an `end` token. Errors: syntax.
Result<std::vector<Token>> tokenize(std::string_view text);

// "at column 3", counted in characters from 1.
std::string column_text(std::string_view text, std::size_t offset);

}  // namespace plume
