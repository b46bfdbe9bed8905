#pragma once
// The words that kinds of step are found by, and how well a typed one names them.

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace plume {

// In small letters, parted by spaces and commas.
std::vector<std::string> small_words(std::string_view text);

// Not "of", "the", "into" and their like.
bool carries_meaning(std::string_view word);

inline constexpr int no_match = 100;
// How well a typed word names one of these: 0 whole, 1 its beginning, 2 a part of it; no_match.
int word_match(std::string_view typed, std::span<const std::string> words);

// Likewise where it may be mistyped: 3 and the slips of the finger from a whole word or its beginning, a slip
// being a letter too many, too few, another one, or two that changed places. One slip of three letters, two
// of six; the first letter has to be right, of short words.
int mistyped_match(std::string_view typed, std::span<const std::string> words);

}  // namespace plume
