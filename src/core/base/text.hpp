#pragma once
// Text that came from elsewhere, made fit to be shown.

#include <cstddef>
#include <string>
#include <string_view>
#include <vector>

namespace plume {

// At most `most` bytes from the start, without cutting a character of UTF-8 in two.
std::string clipped(std::string_view text, std::size_t most);
// The same, with an ellipsis where something was cut off.
std::string shortened(std::string_view text, std::size_t most = 48);

// For a terminal: control characters other than line ends and tabs, which could drive it, as "\x1b"; bytes
// that are no UTF-8 likewise.
std::string printable(std::string_view text);

// Its characters' numbers in Unicode; bytes that are no UTF-8 are taken for characters of their own.
std::u32string characters_of(std::string_view utf8);

// "one" or "many" with how many there are, grouped: "1 body", "1 440 lines".
std::string count_text(std::size_t count, std::string_view one, std::string_view many);

// What stands between separators, without what is empty.
std::vector<std::string_view> words_between(std::string_view text, std::string_view separators);

}  // namespace plume
