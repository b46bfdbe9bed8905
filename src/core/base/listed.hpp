#pragma once
// Several texts in one sentence.

#include <string>
#include <vector>

namespace plume {

// "a, b, c"; with a word before the last: "a, b and c".
inline std::string listed(const std::vector<std::string>& texts, const std::string& word = {}) {
    std::string text;
    for (std::size_t at = 0; at < texts.size(); ++at) {
        if (at > 0) text += at + 1 == texts.size() && !word.empty() ? ' ' + word + ' ' : ", ";
        text += texts[at];
    }
    return text;
}

}  // namespace plume
