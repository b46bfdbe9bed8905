#include "core/formula/unit_tokens.hpp"

#include "core/formula/functions.hpp"

namespace plume {

namespace {

// "²" for "2", "³" for "3".
std::string_view power_sign(std::string_view power) {
    return power == "2" ? "²" : power == "3" ? "³" : "";
}

// Whether ^2 or ^3 stands there behind a unit that has such a power: 25 m^2 is 25 m², not (25 m)².
bool raises_unit(std::span<const Token> tokens, std::size_t at) {
    if (at + 1 >= tokens.size() || tokens[at].type != TokenType::sign || tokens[at].text != "^") return false;
    const std::string_view sign = power_sign(tokens[at + 1].text);
    return !sign.empty() && is_unit(std::string(tokens[at - 1].text) + std::string(sign));
}

}  // namespace

std::size_t unit_tokens(std::span<const Token> tokens, std::size_t at) {
    const auto is_unit_at = [&](std::size_t index) {
        return index < tokens.size() && tokens[index].type == TokenType::name && is_unit(tokens[index].text);
    };
    if (!is_unit_at(at)) return 0;
    const auto behind_unit = [&](std::size_t index) {
        return raises_unit(tokens, index + 1) ? index + 3 : index + 1;
    };
    std::size_t end = behind_unit(at);
    while (tokens[end].type == TokenType::sign && tokens[end].text == "/" && is_unit_at(end + 1))
        end = behind_unit(end + 1);
    return end - at;
}

std::string unit_in(std::span<const Token> tokens, std::size_t at, std::size_t count) {
    std::string text;
    bool power = false;
    for (const Token& token : tokens.subspan(at, count)) {
        const bool raises = token.text == "^";
        if (!raises) text += power ? power_sign(token.text) : token.text;
        power = raises;
    }
    return text;
}

}  // namespace plume
