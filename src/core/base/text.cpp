#include "core/base/text.hpp"

#include <algorithm>
#include <cstdint>

#include "core/base/numbers.hpp"

namespace plume {
namespace {

bool continues(char c) {
    return (static_cast<unsigned char>(c) & 0xc0U) == 0x80U;
}

// Length of the character of UTF-8 at the start, 0 where there is none. Shortest forms only, no surrogates,
// up to U+10FFFF (RFC 3629).
std::size_t character_length(std::string_view text) {
    const auto byte = [&](std::size_t at) { return static_cast<unsigned char>(text[at]); };
    const unsigned first = byte(0);
    const std::size_t length = first < 0x80   ? 1
                               : first < 0xc2 ? 0
                               : first < 0xe0 ? 2
                               : first < 0xf0 ? 3
                               : first < 0xf5 ? 4
                                              : 0;
    if (length == 0 || text.size() < length) return 0;
    for (std::size_t at = 1; at < length; ++at)
        if (!continues(text[at])) return 0;
    const bool odd = (first == 0xe0 && byte(1) < 0xa0) || (first == 0xed && byte(1) >= 0xa0) ||
                     (first == 0xf0 && byte(1) < 0x90) || (first == 0xf4 && byte(1) >= 0x90);
    return odd ? 0 : length;
}

std::string escaped(char c) {
    static constexpr std::string_view digits = "0123456789abcdef";
    const auto byte = static_cast<unsigned char>(c);
    return std::string("\\x") + digits[byte >> 4U] + digits[byte & 15U];
}

// C0 and C1 controls; the latter are two bytes in UTF-8.
bool drives_terminal(std::string_view character) {
    const auto first = static_cast<unsigned char>(character.front());
    if (character.size() == 1) return (first < 0x20 && first != '\n' && first != '\t') || first == 0x7f;
    return character.size() == 2 && first == 0xc2 && static_cast<unsigned char>(character[1]) < 0xa0;
}

}  // namespace

std::string clipped(std::string_view text, std::size_t most) {
    if (text.size() <= most) return std::string(text);
    while (most > 0 && continues(text[most]))
        --most;
    return std::string(text.substr(0, most));
}

std::string shortened(std::string_view text, std::size_t most) {
    return text.size() <= most ? std::string(text) : clipped(text, most) + "…";
}

std::string printable(std::string_view text) {
    std::string shown;
    while (!text.empty()) {
        const std::size_t length = std::max<std::size_t>(character_length(text), 1);
        const std::string_view character = text.substr(0, length);
        if (character_length(text) == 0 || drives_terminal(character))
            for (const char c : character)
                shown += escaped(c);
        else
            shown += character;
        text.remove_prefix(length);
    }
    return shown;
}

std::u32string characters_of(std::string_view utf8) {
    std::u32string characters;
    for (std::size_t at = 0; at < utf8.size();) {
        const auto byte = static_cast<unsigned char>(utf8[at]);
        std::size_t length = byte < 0xC0 ? 1 : byte < 0xE0 ? 2 : byte < 0xF0 ? 3 : 4;
        const auto continues = [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) == 0x80U; };
        const std::string_view rest = utf8.substr(at + 1, length - 1);
        if (rest.size() + 1 < length || !std::ranges::all_of(rest, continues)) length = 1;
        char32_t character = length == 1 ? byte : byte & (0x7FU >> length);
        for (std::size_t more = 1; more < length; ++more)
            character = character << 6U | (static_cast<unsigned char>(utf8[at + more]) & 0x3FU);
        characters += character;
        at += length;
    }
    return characters;
}

std::string count_text(std::size_t count, std::string_view one, std::string_view many) {
    return grouped_text(static_cast<std::int64_t>(count)) + ' ' + std::string(count == 1 ? one : many);
}

std::vector<std::string_view> words_between(std::string_view text, std::string_view separators) {
    std::vector<std::string_view> words;
    std::size_t begin = 0;
    while ((begin = text.find_first_not_of(separators, begin)) != std::string_view::npos) {
        const std::size_t end = std::min(text.find_first_of(separators, begin), text.size());
        words.push_back(text.substr(begin, end - begin));
        begin = end;
    }
    return words;
}

}  // namespace plume
