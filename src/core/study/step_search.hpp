#pragma once
// Which steps come into question at a place of a study, the likeliest first; found by typing.
//
// What is typed is compared with the words of a step's verb first: a whole word before the beginning of one,
// that before a part of one, and a verb with few other words before a long one. Words that merely stand for
// the verb come after those, and a word that names no step at all is read as mistyped. Steps that can
// read what is there come before those that cannot, unless the verb of such begins with what was typed; of
// equals one that reads the result in hand before one that reads another, and then the one that was used
// last.

#include <span>
#include <string_view>
#include <vector>

#include "core/study/step_kind.hpp"
#include "core/study/typed_step.hpp"

namespace plume {

struct StepOffer {
    const StepKind* kind = nullptr;
    const Step* own = nullptr;  // where it is one of those that are kept; its kind is of this step
    bool fits = true;
    bool reads_in_hand = false;
    std::optional<Kind> missing;  // the first kind of result it would have to read and cannot
    std::vector<Step> needed;     // that have to be added before it where it does not fit; empty: no such
};

// Where a step is looked for.
struct StepPlace {
    const Study& study;
    const Catalogue& catalogue;
    std::size_t position = 0;       // items before it are above
    std::string_view in_hand = {};  // the name of a result that is to be gone on with; may be empty
    Page page = Page::sheet;
    std::span<const Step> own = {};            // steps that somebody keeps for himself
    std::span<const std::string> lately = {};  // keys of kinds that were used, the last one first
};

// Of the steps that could stand there those that are named.
std::vector<StepOffer> step_offers(const StepPlace& place, std::string_view name);
// A step of that kind there.
StepOffer step_offer(const StepPlace& place, const StepKind& kind);

// The offer as a step: with its own values, and the numbers that were typed.
Step offered_step(const StepOffer& offer, const std::vector<TypedNumber>& numbers);

// Whether every word that is typed begins one of these words, and there is one.
bool are_named(std::string_view words, std::string_view typed);

}  // namespace plume
