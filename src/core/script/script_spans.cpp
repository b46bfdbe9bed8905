#include "core/script/script_spans.hpp"

#include <algorithm>
#include <array>

#include "core/script/script_words.hpp"

namespace plume {
namespace {

constexpr std::array<std::string_view, 19> keywords{
    "and", "break", "do",  "else", "elseif", "end",    "for",  "function", "goto", "if",
    "in",  "local", "not", "or",   "repeat", "return", "then", "until",    "while"};

bool begins_name(char c) {
    return c == '_' || (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z');
}
bool is_digit(char c) {
    return c >= '0' && c <= '9';
}
bool is_in_name(char c) {
    return begins_name(c) || is_digit(c);
}

// A long bracket "[==[" has a level; its state is twice the level and more, odd in a comment.
int state_of(int level, bool comment) {
    return 2 * (level + 1) + (comment ? 1 : 0);
}

// The level of the long bracket that opens at the beginning of the text; -1 where none does.
int long_bracket(std::string_view text) {
    if (!text.starts_with('[')) return -1;
    const std::size_t second = text.find_first_not_of('=', 1);
    return second < text.size() && text[second] == '[' ? static_cast<int>(second) - 1 : -1;
}

class LineReader {
public:
    LineReader(std::string_view line, int& state) : line_(line), state_(state) {}

    std::vector<TextSpan> spans() {
        if (state_ != 0) close_long(0);
        while (at_ < line_.size())
            one();
        return std::move(spans_);
    }

private:
    void add(SpanType type, std::size_t begin) { spans_.push_back({type, begin, at_}); }
    char next(std::size_t by = 1) const { return at_ + by < line_.size() ? line_[at_ + by] : '\0'; }

    // Up to where what it stands in ends, on this line or a later one.
    void close_long(std::size_t begin) {
        const int level = state_ / 2 - 1;
        const std::string closing = "]" + std::string(static_cast<std::size_t>(level), '=') + "]";
        const SpanType type = state_ % 2 == 1 ? SpanType::comment : SpanType::text;
        const std::size_t found = line_.find(closing, at_);
        at_ = found == std::string_view::npos ? line_.size() : found + closing.size();
        if (found != std::string_view::npos) state_ = 0;
        if (at_ > begin) add(type, begin);
    }
    void open_long(std::size_t begin, std::size_t bracket, int level, bool comment) {
        state_ = state_of(level, comment);
        at_ = bracket + static_cast<std::size_t>(level) + 2;
        close_long(begin);
    }

    void one() {
        const std::size_t begin = at_;
        const char c = line_[at_];
        if (c == '-' && next() == '-') return comment(begin);
        if (const int level = long_bracket(line_.substr(at_)); level >= 0)
            return open_long(begin, begin, level, false);
        if (c == '"' || c == '\'') return quoted(begin, c);
        if (is_digit(c) || (c == '.' && is_digit(next()))) return number(begin);
        if (begins_name(c)) return name(begin);
        ++at_;
        if (c != ' ' && c != '\t') add(SpanType::sign, begin);
    }
    void comment(std::size_t begin) {
        if (const int level = long_bracket(line_.substr(begin + 2)); level >= 0)
            return open_long(begin, begin + 2, level, true);
        at_ = line_.size();
        add(SpanType::comment, begin);
    }
    void quoted(std::size_t begin, char quote) {
        for (++at_; at_ < line_.size() && line_[at_] != quote; ++at_)
            if (line_[at_] == '\\') ++at_;
        at_ = std::min(at_ + 1, line_.size());
        add(SpanType::text, begin);
    }
    void number(std::size_t begin) {
        while (at_ < line_.size() && (is_in_name(line_[at_]) || line_[at_] == '.')) {
            const char exponent = line_[at_];
            ++at_;
            const bool signed_exponent =
                exponent == 'e' || exponent == 'E' || exponent == 'p' || exponent == 'P';
            if (signed_exponent && at_ < line_.size() && (line_[at_] == '+' || line_[at_] == '-')) ++at_;
        }
        add(SpanType::number, begin);
    }
    void name(std::size_t begin) {
        while (at_ < line_.size() && is_in_name(line_[at_]))
            ++at_;
        const std::string_view word = line_.substr(begin, at_ - begin);
        const bool behind = begin > 0 && (line_[begin - 1] == '.' || line_[begin - 1] == ':');
        add(type_of(word, behind), begin);
    }
    static SpanType type_of(std::string_view word, bool behind) {
        if (std::ranges::find(keywords, word) != keywords.end()) return SpanType::keyword;
        if (word == "nil" || word == "true" || word == "false") return SpanType::constant;
        if (!behind) return find_script_word(word) ? SpanType::function : SpanType::name;
        const bool known = std::ranges::any_of(script_words(), [&](const ScriptWord& known_word) {
            return known_word.name == word && !known_word.of.empty();
        });
        return known ? SpanType::function : SpanType::name;
    }

    std::string_view line_;
    int& state_;
    std::size_t at_ = 0;
    std::vector<TextSpan> spans_;
};

}  // namespace

std::vector<TextSpan> script_spans(std::string_view line, int& state) {
    return LineReader(line, state).spans();
}

std::vector<TextSpan> script_spans(std::string_view script) {
    std::vector<TextSpan> all;
    int state = 0;
    for (std::size_t begin = 0; begin < script.size();) {
        const std::size_t end = std::min(script.find('\n', begin), script.size());
        for (const TextSpan& span : script_spans(script.substr(begin, end - begin), state))
            all.push_back({span.type, begin + span.begin, begin + span.end});
        begin = end + 1;
    }
    return all;
}

SpanType script_span_at(std::string_view script, std::size_t at) {
    int state = 0;
    for (std::size_t begin = 0; begin <= at && begin < script.size();) {
        const std::size_t end = std::min(script.find('\n', begin), script.size());
        for (const TextSpan& span : script_spans(script.substr(begin, end - begin), state))
            if (begin + span.begin <= at && at < begin + span.end) return span.type;
        // Behind the end of a line that goes on.
        if (at == end && state != 0) return state % 2 == 1 ? SpanType::comment : SpanType::text;
        begin = end + 1;
    }
    return SpanType::sign;
}

std::span<const std::string_view> lua_keywords() {
    return keywords;
}

}  // namespace plume
