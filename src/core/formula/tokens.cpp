#include "core/formula/tokens.hpp"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>

namespace plume {
namespace {

constexpr std::string_view degree_sign = "°";

struct Sign {
    std::string_view source, text;
};
// Longer ones first: the first that fits is taken. Signs of mathematics stand for their ASCII spelling.
constexpr std::array<Sign, 23> signs{{{"<=", "<="}, {">=", ">="}, {"==", "=="}, {"!=", "!="}, {"≤", "<="},
                                      {"≥", ">="},  {"≠", "!="},  {"×", "*"},   {"·", "*"},   {"÷", "/"},
                                      {"−", "-"},   {"+", "+"},   {"-", "-"},   {"*", "*"},   {"/", "/"},
                                      {"^", "^"},   {"(", "("},   {")", ")"},   {",", ","},   {"<", "<"},
                                      {">", ">"},   {"=", "="},   {";", "\n"}}};

bool is_digit(char c) {
    return c >= '0' && c <= '9';
}

const Sign* sign_at(std::string_view rest) {
    const auto found = std::ranges::find_if(signs, [&](const Sign& s) { return rest.starts_with(s.source); });
    return found == signs.end() ? nullptr : &*found;
}

// Any byte of a multi-byte character counts as a letter, so that names like φ work.
bool starts_name(std::string_view rest) {
    const char c = rest.front();
    if (static_cast<unsigned char>(c) >= 0x80) return !rest.starts_with(degree_sign) && !sign_at(rest);
    return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
}

std::size_t name_length(std::string_view rest) {
    std::size_t length = 0;
    while (length < rest.size() && (starts_name(rest.substr(length)) || is_digit(rest[length])))
        ++length;
    return length;
}

}  // namespace

std::string name_from(std::string_view text) {
    std::string name;
    while (!text.empty()) {
        const std::size_t length = name_length(text);
        name += text.substr(0, length);
        text.remove_prefix(length);
        if (text.empty()) break;
        name += '_';
        // The whole of a character that no name can hold.
        do
            text.remove_prefix(1);
        while (!text.empty() && (static_cast<unsigned char>(text.front()) & 0xc0U) == 0x80U);
    }
    return name;
}

namespace {

Error bad_character(std::string_view text, std::size_t offset) {
    return text_error(
        ErrorCode::syntax,
        "‘" + std::string(text.substr(offset, 1)) + "’ " + column_text(text, offset) + " has no meaning here",
        "Use numbers, names, + - * / ^, comparisons and brackets.", offset, offset + 1);
}

Result<Token> number_at(std::string_view text, std::size_t at) {
    const std::string_view rest = text.substr(at);
    Token token{TokenType::number, {}, at, 0, 0};
    const auto end = std::from_chars(rest.data(), rest.data() + rest.size(), token.number);
    if (end.ec == std::errc::result_out_of_range)
        return text_error(ErrorCode::bad_number, "the number " + column_text(text, at) + " is out of reach",
                          "Use numbers between 1e-300 and 1e300.", at, at + 1);
    if (end.ec != std::errc{} || !std::isfinite(token.number)) return bad_character(text, at);
    token.size = static_cast<std::size_t>(end.ptr - rest.data());
    token.text = rest.substr(0, token.size);
    return token;
}

Result<Token> token_at(std::string_view text, std::size_t at) {
    const std::string_view rest = text.substr(at);
    if (rest.front() == '\n') return Token{TokenType::line_end, rest.substr(0, 1), at, 1, 0};
    if (is_digit(rest.front()) || rest.front() == '.') return number_at(text, at);
    if (rest.starts_with(degree_sign))
        return Token{TokenType::name, rest.substr(0, degree_sign.size()), at, degree_sign.size(), 0};
    if (starts_name(rest)) {
        const std::size_t size = name_length(rest);
        return Token{TokenType::name, rest.substr(0, size), at, size, 0};
    }
    const Sign* sign = sign_at(rest);
    if (!sign) return bad_character(text, at);
    const bool ends_line = sign->text == "\n";
    return Token{ends_line ? TokenType::line_end : TokenType::sign, sign->text, at, sign->source.size(), 0};
}

}  // namespace

Error text_error(ErrorCode code, std::string message, std::string mend, std::size_t begin, std::size_t end) {
    Error error{code, "", std::move(message), std::move(mend)};
    error.begin = begin;
    error.end = end;
    return error;
}

std::string column_text(std::string_view text, std::size_t offset) {
    std::size_t column = 1, line = 1;
    for (const char c : text.substr(0, offset)) {
        if (c == '\n') {
            ++line;
            column = 1;
        } else if ((static_cast<unsigned char>(c) & 0xc0U) != 0x80U) {
            ++column;
        }
    }
    std::string at = "at column " + std::to_string(column);
    if (text.find('\n') == std::string_view::npos) return at;
    return "in line " + std::to_string(line) + ' ' + at;
}

Result<std::vector<Token>> tokenize(std::string_view text) {
    std::vector<Token> tokens;
    std::size_t at = 0;
    while (at < text.size()) {
        const char c = text[at];
        if (c == ' ' || c == '\t' || c == '\r') {
            ++at;
        } else if (c == '#') {
            at = std::min(text.find('\n', at), text.size());
        } else {
            const Result<Token> token = token_at(text, at);
            if (!token) return token.error();
            at += token->size;
            tokens.push_back(*token);
        }
    }
    tokens.push_back({TokenType::end, {}, text.size(), 0, 0});
    return tokens;
}

Error inside(Error error, std::string_view text) {
    error.end = std::min(error.end, text.size());
    if (error.begin < error.end) return error;
    error.begin = error.end;
    while (error.begin > 0 && (error.begin == error.end || (text[error.begin] & '\xC0') == '\x80'))
        --error.begin;
    return error;
}

}  // namespace plume
