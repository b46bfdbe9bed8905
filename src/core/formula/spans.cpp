#include "core/formula/spans.hpp"

#include "core/formula/functions.hpp"
#include "core/formula/tokens.hpp"
#include "core/formula/unit_tokens.hpp"

namespace plume {
namespace {

SpanType word_type(std::string_view word, bool before_equals, bool in_unit) {
    if (in_unit) return SpanType::unit;
    if (word == "and" || word == "or" || word == "not" || word == "field") return SpanType::keyword;
    if (before_equals) return SpanType::given_name;
    if (find_function(word)) return SpanType::function;
    return find_constant(word) ? SpanType::constant : SpanType::name;
}

void add_spans(std::string_view line, std::size_t offset, std::vector<TextSpan>& spans) {
    const auto tokens = tokenize(line);
    if (!tokens) return;
    std::size_t unit_end = 0;  // the token behind the unit of the last number
    for (std::size_t at = 0; at < tokens->size(); ++at) {
        const Token& token = (*tokens)[at];
        const std::size_t begin = offset + token.offset, end = offset + token.end();
        if (token.type == TokenType::number) {
            spans.push_back({SpanType::number, begin, end});
            unit_end = at + 1 + unit_tokens(*tokens, at + 1);
        }
        if (token.type == TokenType::sign) spans.push_back({SpanType::sign, begin, end});
        if (token.type == TokenType::name) {
            const bool before_equals = at + 1 < tokens->size() && (*tokens)[at + 1].text == "=";
            spans.push_back({word_type(token.text, before_equals, at < unit_end), begin, end});
        }
    }
}

// The line without its comment; and its longest beginning that can be read at all.
std::string_view readable_part(std::string_view line) {
    while (!line.empty()) {
        const auto tokens = tokenize(line);
        if (tokens) return line;
        const std::size_t bad = std::min(tokens.error().begin, line.size() - 1);
        line = line.substr(0, bad);
    }
    return line;
}

}  // namespace

std::vector<TextSpan> formula_spans(std::string_view text) {
    std::vector<TextSpan> spans;
    std::size_t begin = 0;
    while (begin <= text.size()) {
        const std::size_t end = std::min(text.find('\n', begin), text.size());
        const std::string_view line = text.substr(begin, end - begin);
        const std::size_t hash = std::min(line.find('#'), line.size());
        add_spans(readable_part(line.substr(0, hash)), begin, spans);
        if (hash < line.size()) spans.push_back({SpanType::comment, begin + hash, end});
        begin = end + 1;
    }
    return spans;
}

std::optional<LiteralSpan> literal_at(const std::vector<TextSpan>& spans, std::size_t offset) {
    for (std::size_t at = 0; at < spans.size(); ++at) {
        if (spans[at].type != SpanType::number) continue;
        LiteralSpan literal{spans[at].begin, spans[at].end};
        for (std::size_t unit = at + 1; unit < spans.size() && spans[unit].type == SpanType::unit; unit += 2)
            literal.end = spans[unit].end;
        if (offset >= literal.begin && offset < literal.end) return literal;
    }
    return {};
}

std::optional<std::size_t> matching_bracket(std::string_view text, const std::vector<TextSpan>& spans,
                                            std::size_t offset) {
    constexpr std::string_view opening = "([{", closing = ")]}";
    std::vector<std::size_t> open;
    for (const TextSpan& span : spans) {
        if (span.type != SpanType::sign) continue;
        const char sign = text[span.begin];
        if (opening.find(sign) != std::string_view::npos) open.push_back(span.begin);
        const std::size_t closes = closing.find(sign);
        if (closes == std::string_view::npos || open.empty()) continue;
        if (text[open.back()] != opening[closes]) return {};
        if (open.back() == offset) return span.begin;
        if (span.begin == offset) return open.back();
        open.pop_back();
    }
    return {};
}

}  // namespace plume
