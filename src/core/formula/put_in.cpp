#include "core/formula/put_in.hpp"

#include "core/formula/tokens.hpp"

namespace plume {
namespace {

bool is_call(const std::vector<Token>& tokens, std::size_t at) {
    return at + 1 < tokens.size() && tokens[at + 1].text == "(";
}

// The m of 3.2 m is no name.
bool is_unit(const std::vector<Token>& tokens, std::size_t at) {
    return at > 0 && tokens[at - 1].type == TokenType::number;
}

}  // namespace

std::string with_values(std::string_view text, const ValueText& value_of) {
    const Result<std::vector<Token>> tokens = tokenize(text);
    if (!tokens) return std::string(text);
    std::string told;
    std::size_t end = 0;
    for (std::size_t at = 0; at < tokens->size(); ++at) {
        const Token& token = (*tokens)[at];
        if (token.type == TokenType::line_end || token.type == TokenType::end) continue;
        if (token.offset > end && !told.empty()) told += ' ';
        told += token.text == "*" ? std::string_view("×") : token.text;
        end = token.offset + token.size;
        if (token.type != TokenType::name || is_call(*tokens, at) || is_unit(*tokens, at)) continue;
        const std::string value = value_of(token.text);
        if (!value.empty()) told += ' ' + value;
    }
    return told;
}

}  // namespace plume
