#include "core/formula/tokens.hpp"

#include <charconv>
#include <cmath>

namespace plume {
namespace {

constexpr std::string_view degree_sign = "°";

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

// Any byte of a multi-byte character counts as a letter, so that names like φ work.
bool starts_name(std::string_view rest) {
    const char c = rest.front();
    if (rest.starts_with(degree_sign)) return false;
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_' ||
           (static_cast<unsigned char>(c) >= 0x80);
}

std::size_t name_length(std::string_view rest) {
    std::size_t length = 0;
    while (length < rest.size() && (starts_name(rest.substr(length)) || is_digit(rest[length])))
        ++length;
    return length;
}

Error bad_character(std::string_view text, std::size_t offset) {
    return {
        ErrorCode::syntax, "",
        "‘" + std::string(text.substr(offset, 1)) + "’ " + column_text(text, offset) + " has no meaning here",
        "Use numbers, names, + - * / ^ and brackets."};
}

}  // namespace

std::string column_text(std::string_view text, std::size_t offset) {
    std::size_t column = 1;
    for (std::size_t at = 0; at < offset && at < text.size(); ++at)
        if ((static_cast<unsigned char>(text[at]) & 0xC0U) != 0x80) ++column;
    return "at column " + std::to_string(column);
}

Result<std::vector<Token>> tokenize(std::string_view text) {
    static constexpr std::string_view signs = "+-*/^(),";
    std::vector<Token> tokens;
    std::size_t at = 0;
    while (at < text.size()) {
        const std::string_view rest = text.substr(at);
        if (rest.front() == ' ' || rest.front() == '\t' || rest.front() == '\n' || rest.front() == '\r') {
            ++at;
            continue;
        }
        Token token{TokenType::sign, rest.substr(0, 1), at, 0};
        if (is_digit(rest.front()) || rest.front() == '.') {
            const auto end = std::from_chars(rest.data(), rest.data() + rest.size(), token.number);
            if (end.ec != std::errc{} || !std::isfinite(token.number)) {
                if (end.ec == std::errc::result_out_of_range)
                    return Error{ErrorCode::bad_number, "",
                                 "the number " + column_text(text, at) + " is out of reach",
                                 "Use numbers between 1e-300 and 1e300."};
                return bad_character(text, at);
            }
            token.type = TokenType::number;
            token.text = rest.substr(0, static_cast<std::size_t>(end.ptr - rest.data()));
        } else if (rest.starts_with(degree_sign)) {
            token.type = TokenType::name;
            token.text = rest.substr(0, degree_sign.size());
        } else if (starts_name(rest)) {
            token.type = TokenType::name;
            token.text = rest.substr(0, name_length(rest));
        } else if (signs.find(rest.front()) == std::string_view::npos) {
            return bad_character(text, at);
        }
        at += token.text.size();
        tokens.push_back(token);
    }
    tokens.push_back({TokenType::end, {}, text.size(), 0});
    return tokens;
}

}  // namespace plume
