#include "core/study/related_kinds.hpp"

#include <algorithm>
#include <map>
#include <set>

#include "core/study/step_words.hpp"
#include "core/study/subjects.hpp"

namespace plume {
namespace {

std::set<std::string> meaning_of(const StepKind& kind) {
    std::set<std::string> words;
    for (const std::string& text : {kind.verb, kind.synonyms})
        for (std::string& word : small_words(text))
            if (carries_meaning(word)) words.insert(std::move(word));
    return words;
}

}  // namespace

std::vector<const StepKind*> related_kinds(const StepKind& kind, const Catalogue& catalogue,
                                           std::size_t most) {
    std::map<std::string, std::vector<const StepKind*>> having;
    for (const StepKind& other : catalogue.kinds())
        for (const std::string& word : meaning_of(other))
            having[word].push_back(&other);
    // A word of two kinds says much of both, one of fifty little.
    std::map<const StepKind*, double> shared;
    for (const std::string& word : meaning_of(kind))
        for (const StepKind* other : having[word])
            shared[other] += 1 / static_cast<double>(having[word].size());
    std::vector<std::pair<double, const StepKind*>> ranked;
    for (const StepKind& other : catalogue.kinds()) {
        if (other.key == kind.key || (!other.offered && kind.companion != other.key)) continue;
        double weight = shared[&other];
        if (weight == 0 && kind.companion != other.key) continue;
        if (&subject_of(other) == &subject_of(kind)) weight *= 2;
        if (kind.companion == other.key || other.companion == kind.key) weight += 10;
        ranked.emplace_back(-weight, &other);
    }
    std::ranges::stable_sort(ranked, {}, &std::pair<double, const StepKind*>::first);
    std::vector<const StepKind*> related;
    for (std::size_t at = 0; at < std::min(most, ranked.size()); ++at)
        related.push_back(ranked[at].second);
    return related;
}

}  // namespace plume
