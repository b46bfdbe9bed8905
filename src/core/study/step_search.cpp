#include "core/study/step_search.hpp"

#include <algorithm>
#include <set>
#include <tuple>

#include "core/study/edits/edits.hpp"
#include "core/study/needed_steps.hpp"
#include "core/study/sentence.hpp"
#include "core/study/step_words.hpp"

namespace plume {
namespace {

using Match = int (*)(std::string_view, std::span<const std::string>);

struct KnownWords {
    std::vector<std::string> verb, synonyms;
};

struct TypedWord {
    std::string text;
    Match match;
};

struct Naming {
    bool found = true;
    int distance = 0;    // of the typed words from the verb's, or from those that stand for it
    bool begun = false;  // the verb begins with what was typed, word by word
    int left_over = 0;   // words of the verb that were not typed
};

constexpr int stands_for_the_verb = 10, passed_over = 3;

int distance(const TypedWord& word, const KnownWords& known) {
    return std::min(word.match(word.text, known.verb),
                    stands_for_the_verb + word.match(word.text, known.synonyms));
}

Naming naming(const KnownWords& known, const std::vector<TypedWord>& typed) {
    Naming result;
    for (const TypedWord& word : typed) {
        int away = distance(word, known);
        // "move up" is as good as "move 4 m up".
        if (away >= no_match && &word != &typed.front() && says_which_way(word.text)) away = passed_over;
        result.found = result.found && away < no_match;
        result.distance += away;
    }
    result.begun = typed.size() <= known.verb.size() &&
                   std::ranges::equal(typed, std::span(known.verb).first(typed.size()),
                                      [](const TypedWord& part, const std::string& word) {
                                          return word.starts_with(part.text);
                                      });
    if (!typed.empty())
        result.left_over = static_cast<int>(std::ranges::count_if(known.verb, [&](const std::string& word) {
            return carries_meaning(word) && std::ranges::none_of(typed, [&](const TypedWord& part) {
                       return word.find(part.text) != std::string::npos;
                   });
        }));
    return result;
}

// A kind that can be offered, perhaps with values of one's own.
struct Candidate {
    const StepKind* kind;
    const Step* own;
    KnownWords known;
};

std::vector<Candidate> candidates(const StepPlace& place) {
    std::vector<Candidate> found;
    const auto add = [&](const StepKind& kind, const Step* own) {
        if (page_of(kind) == place.page)
            found.push_back({&kind, own, {small_words(kind.verb), small_words(kind.synonyms)}});
    };
    // Of equals one's own comes first.
    for (const Step& step : place.own)
        if (const StepKind* kind = place.catalogue.find(step)) add(*kind, &step);
    for (const StepKind& kind : place.catalogue.kinds())
        if (kind.offered) add(kind, nullptr);
    return found;
}

// A word that names nothing anywhere is mistyped.
std::vector<TypedWord> typed_words(std::string_view name, const std::vector<Candidate>& known) {
    std::vector<TypedWord> words;
    for (std::string& word : small_words(name)) {
        const bool names_one = std::ranges::any_of(known, [&](const Candidate& one) {
            return distance({word, word_match}, one.known) < no_match;
        });
        words.push_back({std::move(word), names_one ? word_match : mistyped_match});
    }
    return words;
}

class Fitting {
public:
    explicit Fitting(const StepPlace& place)
        : place_(place), results_(results_above(place.study, place.catalogue, place.position)) {
        for (const ResultAbove& result : results_)
            present_.insert(result.kinds.begin(), result.kinds.end());
    }

    StepOffer offer(const Candidate& candidate) const {
        StepOffer offer{.kind = candidate.kind, .own = candidate.own, .missing = {}, .needed = {}};
        std::vector<const SlotSpec*> unread;
        // What it reads as it is first written; further words of its sentence may ask for more.
        for (const SlotSpec* slot : active_slots(*candidate.kind, candidate.own ? *candidate.own : Step())) {
            if (slot->type != SlotType::reference && slot->type != SlotType::results) continue;
            if (!is_there(*slot)) unread.push_back(slot);
            offer.reads_in_hand = offer.reads_in_hand || takes_in_hand(*slot);
        }
        offer.fits = unread.empty();
        if (offer.fits) return offer;
        offer.missing = unread.front()->accepts.front();
        if (place_.page == Page::sheet)
            offer.needed = needed_steps(place_.catalogue, present_, *candidate.kind, unread);
        return offer;
    }

private:
    bool is_there(const SlotSpec& slot) const {
        return std::ranges::any_of(slot.accepts, [&](Kind kind) { return present_.contains(kind); });
    }
    bool takes_in_hand(const SlotSpec& slot) const {
        const auto in_hand = std::ranges::find(results_, place_.in_hand, &ResultAbove::name);
        return in_hand != results_.end() &&
               std::ranges::find_first_of(in_hand->kinds, slot.accepts) != in_hand->kinds.end();
    }

    const StepPlace& place_;
    std::vector<ResultAbove> results_;
    std::set<Kind> present_;
};

// Named by its verb and fitting; not fitting, but its verb begins so; fitting by words that stand for its
// verb; all others.
int standing(const Naming& named, bool fits) {
    if (fits) return named.distance < stands_for_the_verb ? 0 : 2;
    return named.begun ? 1 : 3;
}

using Rank = std::tuple<int, int, bool, int, bool, std::ptrdiff_t>;

}  // namespace

std::vector<StepOffer> step_offers(const StepPlace& place, std::string_view name) {
    const std::vector<Candidate> known = candidates(place);
    const std::vector<TypedWord> words = typed_words(name, known);
    const Fitting fitting(place);
    std::vector<std::pair<Rank, StepOffer>> found;
    for (const Candidate& candidate : known) {
        const Naming named = naming(candidate.known, words);
        if (!named.found) continue;
        StepOffer offer = fitting.offer(candidate);
        const auto lately = std::ranges::find(place.lately, candidate.kind->key) - place.lately.begin();
        found.emplace_back(Rank{standing(named, offer.fits), named.distance, !named.begun, named.left_over,
                                !offer.reads_in_hand, lately},
                           std::move(offer));
    }
    std::ranges::stable_sort(found, {}, &std::pair<Rank, StepOffer>::first);
    std::vector<StepOffer> offers;
    offers.reserve(found.size());
    for (auto& [rank, offer] : found)
        offers.push_back(std::move(offer));
    return offers;
}

StepOffer step_offer(const StepPlace& place, const StepKind& kind) {
    return Fitting(place).offer({&kind, nullptr, {}});
}

Step offered_step(const StepOffer& offer, const std::vector<TypedNumber>& numbers) {
    Step step = offer.own ? *offer.own : Step();
    step.kind = offer.kind->key;
    return with_numbers(*offer.kind, std::move(step), numbers);
}

bool are_named(std::string_view words, std::string_view typed) {
    const std::vector<std::string> wanted = small_words(typed), known = small_words(words);
    return !wanted.empty() && std::ranges::all_of(wanted, [&](const std::string& word) {
        return std::ranges::any_of(known, [&](const std::string& one) { return one.starts_with(word); });
    });
}

}  // namespace plume
