// Several results that are handed off together, each perhaps with a word for what it is given as.

#include <algorithm>

#include "core/base/text.hpp"
#include "core/study/slots/slot_rules.hpp"

namespace plume {
namespace {

// Longer lists are counted in the sentence.
constexpr std::size_t most_shown = 4;

std::string label_of(const SlotSpec& slot, const std::string& key) {
    const auto word = std::ranges::find(slot.words, key, &Word::key);
    return word == slot.words.end() ? key : word->label;
}

std::string text(const SlotSpec& slot, const SlotValue& value) {
    const auto& list = std::get<ResultList>(value);
    if (list.of == ResultList::Of::seen) return "all that is seen";
    if (list.of == ResultList::Of::heading) return "all of “" + shortened(list.heading, 40) + "”";
    if (list.entries.empty()) return "…";
    if (list.entries.size() > most_shown) return std::to_string(list.entries.size()) + " results";
    std::string shown;
    for (std::size_t at = 0; at < list.entries.size(); ++at) {
        const ResultList::Entry& entry = list.entries[at];
        shown += at == 0 ? "" : at + 1 == list.entries.size() ? " and " : ", ";
        shown += shortened(entry.name, 40);
        if (!entry.as.empty()) shown += " as " + label_of(slot, entry.as);
    }
    return shown;
}

Status check_words(const SlotSpec& slot, const ResultList& list) {
    for (const ResultList::Entry& entry : list.entries) {
        const bool known =
            entry.as.empty() || std::ranges::find(slot.words, entry.as, &Word::key) != slot.words.end();
        if (known) continue;
        std::string words;
        for (const Word& word : slot.words)
            words += (words.empty() ? "" : ", ") + word.key;
        return Error{
            ErrorCode::unknown_name, "",
            "gives ‘" + shortened(entry.name) + "’ as ‘" + shortened(entry.as) + "’, which it cannot be",
            words.empty() ? "Give it without a word." : "Choose one of " + words + "."};
    }
    return Done{};
}

Result<Resolved> resolve(const SlotSpec& slot, const SlotValue& value, const Standpoint& from) {
    const auto& list = std::get<ResultList>(value);
    if (Status known = check_words(slot, list); !known) return about_slot(known.error(), slot);
    Result<std::vector<GivenResult>> given = from.results(slot, list);
    if (!given) return about_slot(given.error(), slot);
    for (GivenResult& result : *given) {
        const auto entry = std::ranges::find(list.entries, result.name, &ResultList::Entry::name);
        if (entry != list.entries.end()) result.as = entry->as;
    }
    return Resolved(*std::move(given));
}

void add(Hasher& hasher, bool flag) {
    hasher.add(std::uint64_t{flag ? 1U : 0U});
}

// What is seen of a result goes along with it.
void add(Hasher& hasher, const Show& show) {
    for (const bool flag : {show.points, show.edges, show.faces, show.labels, show.ramp.reversed})
        add(hasher, flag);
    hasher.add(show.colour_by).add(show.label_by).add(show.material.key).add(show.material.paint);
    for (const int number : {static_cast<int>(show.ramp.ramp), show.ramp.steps, show.heavier_each})
        hasher.add(static_cast<std::uint64_t>(number));
}

void add_given_to_hash(Hasher& hasher, const Resolved& value) {
    for (const GivenResult& given : std::get<std::vector<GivenResult>>(value)) {
        hasher.add(given.name).add(given.key).add(given.as);
        add(hasher, given.show);
    }
}

std::optional<SlotValue> meant(const SlotValue& value) {
    if (const auto* result = std::get_if<ResultName>(&value)) return ResultList{{}, {}, {{result->name, ""}}};
    if (const auto* word = std::get_if<WordKey>(&value)) return ResultList{{}, {}, {{word->key, ""}}};
    return {};
}

}  // namespace

const SlotRules results_rules{.key = "results",
                              .needs = "names of results",
                              .preset = [](const SlotSpec& /*slot*/) -> SlotValue { return ResultList{}; },
                              .holds = holds_form<ResultList>,
                              .meant = meant,
                              .resolve = resolve,
                              .add_to_hash = add_given_to_hash,
                              .text = text};

SlotSpec results_slot(std::string key, std::string label, std::vector<Kind> accepts, std::vector<Word> words,
                      std::string none) {
    SlotSpec spec;
    spec.none = std::move(none);
    spec.key = std::move(key);
    spec.label = std::move(label);
    spec.type = SlotType::results;
    spec.accepts = std::move(accepts);
    spec.words = std::move(words);
    return spec;
}

}  // namespace plume
