#include "core/study/step_search.hpp"

#include <algorithm>
#include <array>
#include <span>
#include <tuple>

#include "core/base/small_letters.hpp"
#include "core/study/edits/edits.hpp"
#include "core/study/sentence.hpp"

namespace plume {
namespace {

std::vector<std::string> words_of(std::string_view text) {
    std::vector<std::string> words;
    std::string word;
    for (const char c : in_small_letters(text) + ' ') {
        if (c != ' ' && c != ',') {
            word += c;
        } else if (!word.empty()) {
            words.push_back(std::move(word));
            word.clear();
        }
    }
    return words;
}

bool carries_meaning(std::string_view word) {
    static constexpr std::array<std::string_view, 12> small{"a",  "an", "the", "of", "by",   "to",
                                                            "on", "in", "or",  "at", "into", "from"};
    return std::ranges::find(small, word) == small.end();
}

constexpr int no_match = 100;
// How well a typed word names one of these: 0 whole, 1 its beginning, 2 a part of it.
int match(std::string_view typed, const std::vector<std::string>& words) {
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

struct Naming {
    bool found = true;
    int distance = 0;    // of the typed words from the verb's, or from those that stand for it
    bool begun = false;  // the verb begins with what was typed, word by word
    int left_over = 0;   // words of the verb that were not typed
};

Naming naming(const StepKind& kind, const std::vector<std::string>& typed) {
    constexpr int stands_for_the_verb = 10;
    const std::vector<std::string> verb = words_of(kind.verb), synonyms = words_of(kind.synonyms);
    Naming result;
    for (const std::string& word : typed) {
        const int by_verb = match(word, verb), by_synonym = stands_for_the_verb + match(word, synonyms);
        result.found = result.found && std::min(by_verb, by_synonym) < no_match;
        result.distance += std::min(by_verb, by_synonym);
    }
    result.begun =
        typed.size() <= verb.size() &&
        std::ranges::equal(typed, std::span(verb).first(typed.size()),
                           [](const auto& part, const auto& word) { return word.starts_with(part); });
    if (!typed.empty())
        result.left_over = static_cast<int>(std::ranges::count_if(verb, [&](const std::string& word) {
            return carries_meaning(word) && std::ranges::none_of(typed, [&](const std::string& part) {
                       return word.find(part) != std::string::npos;
                   });
        }));
    return result;
}

}  // namespace

namespace {

using Rank = std::tuple<int, bool, int, bool, bool>;

class Searching {
public:
    Searching(const Study& study, const Catalogue& catalogue, std::size_t position, std::string_view in_hand,
              std::string_view typed)
        : study_(study),
          catalogue_(catalogue),
          position_(position),
          in_hand_(in_hand),
          words_(words_of(typed)) {}

    void look_at(const StepKind& kind, const Step* own) {
        const Naming named = naming(kind, words_);
        if (!named.found) return;
        StepOffer offer{&kind, own, true, {}};
        bool reads_in_hand = false;
        // What it reads as it is first written; further words of its sentence may ask for more.
        for (const SlotSpec* slot : active_slots(kind, own ? *own : Step())) {
            if (slot->type != SlotType::reference && slot->type != SlotType::results) continue;
            const auto names = results_that_fit(study_, catalogue_, position_, slot->accepts);
            if (names.empty() && !offer.missing) offer.missing = slot->accepts.front();
            reads_in_hand = reads_in_hand || std::ranges::find(names, in_hand_) != names.end();
        }
        offer.fits = !offer.missing;
        found_.emplace_back(Rank{named.distance, !named.begun, named.left_over, !offer.fits, !reads_in_hand},
                            offer);
    }

    std::vector<StepOffer> offers() {
        std::ranges::stable_sort(found_, {}, [](const auto& entry) { return entry.first; });
        std::vector<StepOffer> offers;
        offers.reserve(found_.size());
        for (auto& [rank, offer] : found_)
            offers.push_back(offer);
        return offers;
    }

private:
    const Study& study_;
    const Catalogue& catalogue_;
    std::size_t position_;
    std::string_view in_hand_;
    std::vector<std::string> words_;
    std::vector<std::pair<Rank, StepOffer>> found_;
};

}  // namespace

std::vector<StepOffer> step_offers(const Study& study, const Catalogue& catalogue, std::size_t position,
                                   std::string_view in_hand, std::string_view typed, Page page,
                                   std::span<const Step> own) {
    Searching searching(study, catalogue, position, in_hand, typed);
    // Of equals one's own comes first.
    for (const Step& step : own)
        if (const StepKind* kind = catalogue.find(step); kind && page_of(*kind) == page)
            searching.look_at(*kind, &step);
    for (const StepKind& kind : catalogue.kinds())
        if (kind.offered && page_of(kind) == page) searching.look_at(kind, nullptr);
    return searching.offers();
}

bool are_named(std::string_view words, std::string_view typed) {
    const std::vector<std::string> wanted = words_of(typed), known = words_of(words);
    return !wanted.empty() && std::ranges::all_of(wanted, [&](const std::string& word) {
        return std::ranges::any_of(known, [&](const std::string& one) { return one.starts_with(word); });
    });
}

}  // namespace plume
