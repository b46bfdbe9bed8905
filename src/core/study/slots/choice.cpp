// One of a few words, and responses: one of a few words or a drawn curve, whose word is followed by its
// knots.

#include <algorithm>

#include "core/base/text.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

std::string first_word(const SlotValue& value) {
    const std::string& key = std::get<WordKey>(value).key;
    return key.substr(0, key.find(' '));
}

std::string whole_word(const SlotValue& value) {
    return std::get<WordKey>(value).key;
}

std::string words_text(const std::vector<Word>& words) {
    std::string text;
    for (std::size_t at = 0; at < words.size(); ++at)
        text += (at == 0 ? "" : at + 1 == words.size() ? " or " : ", ") + words[at].key;
    return text;
}

template <auto word_of>
Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& /*from*/) {
    const std::string& kept = std::get<WordKey>(value).key;
    if (std::ranges::find(slot.words, word_of(value), &Word::key) == slot.words.end())
        return about_slot(Error{ErrorCode::bad_number, "", "cannot be ‘" + shortened(kept) + "’",
                                "Choose " + words_text(slot.words) + "."},
                          slot);
    return Resolved(kept);
}

template <auto word_of>
std::string text(const SlotSpec& slot, const SlotValue& value) {
    const std::string key = word_of(value);
    const auto word = std::ranges::find(slot.words, key, &Word::key);
    return word == slot.words.end() ? key : word->label;
}

template <auto word_of>
constexpr SlotRules rules(std::string_view key, std::string_view needs) {
    return {.key = key,
            .needs = needs,
            .preset = [](const SlotSpec& slot) -> SlotValue { return WordKey{slot.preset}; },
            .holds = holds_form<WordKey>,
            .meant = never_meant,
            .resolve = resolve<word_of>,
            .add_to_hash = add_text_to_hash,
            .text = text<word_of>};
}

}  // namespace

const SlotRules choice_rules = rules<whole_word>("choice", "one of its words");
const SlotRules response_rules = rules<first_word>("response", "one of its words or a drawn response");

SlotSpec choice_slot(std::string key, std::string label, std::vector<Word> words) {
    SlotSpec spec;
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::choice;
    spec.preset = words.front().key;
    spec.words = std::move(words);
    return spec;
}

SlotSpec response_slot(std::string key, std::string label, std::vector<Word> words) {
    SlotSpec spec = choice_slot(std::move(key), std::move(label), std::move(words));
    spec.type = SlotType::response;
    return spec;
}

}  // namespace plume
