#include "core/study/step_words.hpp"

#include <algorithm>
#include <array>

#include "core/base/small_letters.hpp"
#include "core/base/text.hpp"

namespace plume {
namespace {

constexpr std::size_t long_word = 6, longest_looked_at = 40;

std::size_t allowed_slips(std::string_view typed) {
    return typed.size() < 3 ? 0 : typed.size() < long_word ? 1 : 2;
}

// The fewest slips that turn what is typed into the word or a beginning of it: of the edit distance with
// changed places (Damerau's, each letter moved once), the least of the last row.
std::size_t slips(std::string_view typed, std::string_view word) {
    using Row = std::array<std::size_t, longest_looked_at + 1>;
    Row before{}, last{}, row{};
    for (std::size_t at = 0; at <= word.size(); ++at)
        last[at] = at;
    for (std::size_t of = 1; of <= typed.size(); ++of) {
        row[0] = of;
        for (std::size_t at = 1; at <= word.size(); ++at) {
            const bool same = typed[of - 1] == word[at - 1];
            row[at] = std::min({last[at] + 1, row[at - 1] + 1, last[at - 1] + (same ? 0 : 1)});
            if (of > 1 && at > 1 && typed[of - 1] == word[at - 2] && typed[of - 2] == word[at - 1])
                row[at] = std::min(row[at], before[at - 2] + 1);
        }
        before = last;
        last = row;
    }
    return *std::min_element(last.begin(), last.begin() + static_cast<std::ptrdiff_t>(word.size()) + 1);
}

}  // namespace

std::vector<std::string> small_words(std::string_view text) {
    const std::string small = in_small_letters(text);
    const auto words = words_between(small, " ,");
    return {words.begin(), words.end()};
}

bool carries_meaning(std::string_view word) {
    static constexpr std::array<std::string_view, 12> small{"a",  "an", "the", "of", "by",   "to",
                                                            "on", "in", "or",  "at", "into", "from"};
    return std::ranges::find(small, word) == small.end();
}

int word_match(std::string_view typed, std::span<const std::string> words) {
    int best = no_match;
    for (const std::string& word : words) {
        if (word == typed)
            best = std::min(best, 0);
        else if (word.starts_with(typed))
            best = std::min(best, 1);
        else if (word.find(typed) != std::string::npos)
            best = std::min(best, 2);
    }
    return best;
}

int mistyped_match(std::string_view typed, std::span<const std::string> words) {
    constexpr int above_parts = 3;
    const std::size_t allowed = allowed_slips(typed);
    int best = no_match;
    if (allowed == 0 || typed.size() > longest_looked_at) return best;
    for (const std::string& word : words) {
        if (word.size() + allowed < typed.size() || word.size() > longest_looked_at) continue;
        if (typed.size() < long_word && word.front() != typed.front()) continue;
        const std::size_t found = slips(typed, word);
        if (found <= allowed) best = std::min(best, above_parts + static_cast<int>(found));
    }
    return best;
}

}  // namespace plume
