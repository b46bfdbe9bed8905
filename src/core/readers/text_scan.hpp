#pragma once
// Lines and words of texts that came from elsewhere. Numbers know no locale; "nan" and "inf" are numbers.

#include <charconv>
#include <optional>
#include <string_view>

namespace plume {

// Line ends are those of any system. `number` counts from 1.
class TextLines {
public:
    explicit TextLines(std::string_view text) : rest_(text) {}

    bool next() {
        if (rest_.empty()) return false;
        const std::size_t end = rest_.find_first_of("\r\n");
        line_ = rest_.substr(0, end);
        const bool pair = end != std::string_view::npos && rest_.substr(end, 2) == "\r\n";
        rest_.remove_prefix(end == std::string_view::npos ? rest_.size() : end + (pair ? 2 : 1));
        ++number_;
        return true;
    }
    std::string_view line() const { return line_; }
    std::string_view rest() const { return rest_; }
    std::size_t number() const { return number_; }

private:
    std::string_view rest_, line_;
    std::size_t number_ = 0;
};

// The next word of a line, which is taken from it; empty at its end.
inline std::string_view take_word(std::string_view& line) {
    const std::size_t begin = line.find_first_not_of(" \t\v\f\r\n");
    if (begin == std::string_view::npos) {
        line = {};
        return {};
    }
    line.remove_prefix(begin);
    const std::string_view word = line.substr(0, line.find_first_of(" \t\v\f\r\n"));
    line.remove_prefix(word.size());
    return word;
}

template <class Number>
std::optional<Number> number_in(std::string_view word) {
    if (word.size() > 1 && word.front() == '+') word.remove_prefix(1);
    Number value{};
    const auto [end, problem] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (problem != std::errc() || end != word.data() + word.size()) return {};
    return value;
}

// Without blanks on either side.
inline std::string_view without_blanks(std::string_view text) {
    const std::size_t begin = text.find_first_not_of(" \t\r\n");
    if (begin == std::string_view::npos) return {};
    return text.substr(begin, text.find_last_not_of(" \t\r\n") + 1 - begin);
}

}  // namespace plume
