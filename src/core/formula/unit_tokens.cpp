#include "core/formula/unit_tokens.hpp"

#include "core/formula/functions.hpp"

namespace plume {

std::size_t unit_tokens(std::span<const Token> tokens, std::size_t at) {
    const auto is_unit_at = [&](std::size_t index) {
        return index < tokens.size() && tokens[index].type == TokenType::name && is_unit(tokens[index].text);
    };
    if (!is_unit_at(at)) return 0;
    std::size_t end = at + 1;
    while (tokens[end].type == TokenType::sign && tokens[end].text == "/" && is_unit_at(end + 1))
        end += 2;
    return end - at;
}

std::string unit_in(std::span<const Token> tokens, std::size_t at, std::size_t count) {
    std::string text;
    for (const Token& token : tokens.subspan(at, count))
        text += token.text;
    return text;
}

}  // namespace plume
