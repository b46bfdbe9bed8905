#pragma once
// Words of the trade, in a sentence each, with the example whose picture shows it.

#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace plume {

struct TradeWord {
    std::string word;
    std::string forms;  // in which it is also met: "lattices", "bays"; separated by spaces
    std::string meaning;
    std::string example;  // a kind of step
};

// In the order of the alphabet.
std::span<const TradeWord> trade_words();

const TradeWord* trade_word(std::string_view word);

// Those met in a text, each once, in the order of the alphabet.
std::vector<const TradeWord*> trade_words_in(std::string_view text);

}  // namespace plume
