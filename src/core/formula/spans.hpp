#pragma once
// What the words of a formula are, for editors: works on any text, finished or not.

#include <optional>
#include <string_view>
#include <vector>

namespace plume {

enum class SpanType { number, unit, function, constant, keyword, given_name, name, sign, text, comment };

struct TextSpan {
    SpanType type = SpanType::name;
    std::size_t begin = 0, end = 0;  // bytes
};

// In order. A line that cannot be split into words has spans up to where it goes wrong.
std::vector<TextSpan> formula_spans(std::string_view text);

// The number at `offset`, with its unit if one follows it: "1.5", "30°", "0.8 m".
struct LiteralSpan {
    std::size_t begin = 0, end = 0;
};
std::optional<LiteralSpan> literal_at(const std::vector<TextSpan>& spans, std::size_t offset);

// The bracket that belongs to the one at `offset`, if both stand there; comments do not count.
std::optional<std::size_t> matching_bracket(std::string_view text, const std::vector<TextSpan>& spans,
                                            std::size_t offset);

}  // namespace plume
